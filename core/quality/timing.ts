/** A stretch without the readings that were due. s since epoch. */
export interface MissingStretch {
  /** Stamp of the reading before, and of the one after. */
  readonly after: number;
  readonly before: number;
  readonly missing: number;
}

/**
 * Timing/gap test on stamps: where more than `interval` (with a tenth's leeway) lies between two
 * readings, values are missing. Source: QARTOD manuals (US IOOS), timing/gap test, applied to a
 * record after the event rather than to a stream.
 *
 * @param times s since epoch, ascending
 * @param interval storage interval, s, > 0
 */
export function timingTest(times: Float64Array, interval: number): MissingStretch[] {
  const found: MissingStretch[] = [];
  for (let i = 1; i < times.length; i++) {
    const between = times[i]! - times[i - 1]!;
    if (between <= interval * 1.1) continue;
    const missing = Math.round(between / interval) - 1;
    if (missing > 0) found.push({ after: times[i - 1]!, before: times[i]!, missing });
  }
  return found;
}

/** The interval most stamps keep, s: the commonest difference; null with fewer than two stamps. */
export function usualInterval(times: Float64Array): number | null {
  const counts = new Map<number, number>();
  for (let i = 1; i < times.length; i++) {
    const between = Math.round(times[i]! - times[i - 1]!);
    if (between > 0) counts.set(between, (counts.get(between) ?? 0) + 1);
  }
  let best: number | null = null;
  for (const [between, n] of counts) if (best === null || n > counts.get(best)!) best = between;
  return best;
}
