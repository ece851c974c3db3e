/** What a channel holds already: extremes and number of its stored readings, base unit. */
export interface StoredEnvelope {
  readonly n: number;
  readonly min: number;
  readonly max: number;
}

/** Fewer stored readings than this say nothing about what is usual. Our own choice. */
const fewestStored = 100;

/**
 * The band outside which new values are unlike everything a channel holds: its extremes, widened by
 * half their distance on either side. Null while too little is stored. Common practice, no source.
 */
export function usualBand(stored: StoredEnvelope | null): { low: number; high: number } | null {
  if (!stored || stored.n < fewestStored) return null;
  const margin = Math.max((stored.max - stored.min) / 2, 1e-9);
  return { low: stored.min - margin, high: stored.max + margin };
}

/**
 * Whether a file's values for a channel are so unlike its record that the file may belong to another
 * station (or the columns have shifted): more than half of them outside the usual band.
 * @example isUnlike(100, 96) // true
 */
export const isUnlike = (values: number, outside: number): boolean => values > 0 && outside > values / 2;
