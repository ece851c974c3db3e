import { positive } from '../valid';
import type { Seconds } from '../time';

/** How much later than due a reading may come and still be the next one, as a share of the interval. */
export const gapLeeway = 0.1;

/**
 * Timing/gap test on two neighbouring stamps: how many values are missing between them, where more
 * than `interval` and a tenth of it lies between: at least one. Source: QARTOD manuals (US IOOS),
 * timing/gap test, applied to a record after the event rather than to a stream.
 *
 * @param between s; 0 or less for stamps that repeat or run backwards, between which nothing is missing
 * @param interval s, > 0; RangeError otherwise
 * @example missingBetween(3000, 600) // 4
 */
export const missingBetween = (between: Seconds, interval: Seconds): number =>
  between > positive('interval', interval) * (1 + gapLeeway)
    ? Math.max(1, Math.round(between / interval) - 1)
    : 0;

/**
 * The interval most stamps keep, s: the commonest difference; null with fewer than two stamps.
 *
 * @example usualInterval(Float64Array.of(0, 600, 1200, 4800, 5400)) // 600
 */
export function usualInterval(times: Float64Array): Seconds | null {
  const counts = new Map<number, number>();
  for (let i = 1; i < times.length; i++) {
    const between = Math.round(times[i]! - times[i - 1]!);
    if (between > 0) counts.set(between, (counts.get(between) ?? 0) + 1);
  }
  let best: number | null = null;
  for (const [between, n] of counts) if (best === null || n > counts.get(best)!) best = between;
  return best;
}

/** Index of the first stamp from `from` on, before `until`, that is at least `at`; `until` for none. By halving. */
export function firstAtLeast(times: Float64Array, at: Seconds, from = 0, until = times.length): number {
  let [low, high] = [from, until];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle]! < at) low = middle + 1;
    else high = middle;
  }
  return low;
}
