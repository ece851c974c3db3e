/** An as-found difference at a time (ms since epoch). */
export interface FoundDifference {
  readonly at: number;
  readonly difference: number;
}

export interface DriftOutlook {
  /** Base units per day. */
  readonly perDay: number;
  /** When the straight line reaches ± limit, ms since epoch. */
  readonly reachesLimitAt: number;
}

/**
 * Straight line through as-found differences since the last adjustment, and when it will leave
 * ± limit. Null with fewer than two differences, no time between them, no drift, or a line that
 * moves towards agreement. Common practice, no source: two points say little, and the caller says so.
 */
export function driftOutlook(found: readonly FoundDifference[], limit: number): DriftOutlook | null {
  const n = found.length;
  if (n < 2) return null;
  const day = 86_400_000;
  const t0 = found[0]!.at;
  const xs = found.map((f) => (f.at - t0) / day);
  const xMean = xs.reduce((s, x) => s + x, 0) / n;
  const yMean = found.reduce((s, f) => s + f.difference, 0) / n;
  const sxx = xs.reduce((s, x) => s + (x - xMean) ** 2, 0);
  if (!(sxx > 0)) return null;
  const perDay = found.reduce((s, f, i) => s + (xs[i]! - xMean) * (f.difference - yMean), 0) / sxx;
  if (perDay === 0) return null;
  const target = Math.sign(perDay) * limit;
  const days = xMean + (target - yMean) / perDay;
  const last = xs[n - 1]!;
  const now = yMean + perDay * (last - xMean);
  if (Math.sign(now) !== Math.sign(perDay)) return null;
  return { perDay, reachesLimitAt: t0 + days * day };
}
