import { finite, notNegative } from '../valid';

/** Between which readings of the sensor a check, or an adjustment, was proved; base unit. */
export interface ProvedSpan {
  readonly low: number;
  readonly high: number;
}

/** So many limits of agreement away a value still counts as proved. Our own choice: one point proves one point. */
const near = 5;

/**
 * How much of a record lies where nothing proves its sensor: further than five limits of agreement from the span of its
 * last check. No fault, but to be said: an offset that was found at one temperature need not hold at another.
 *
 * @param buckets smallest and largest value of a bucket, base unit, and how many readings are in it
 * @param proved low ≤ high
 * @param limit of agreement of that check, base unit, ≥ 0
 * @returns share of readings, 0 to 1, whose bucket reaches outside; and what the record reaches to. Null for no readings.
 * @example outsideProved([{ min: 15, max: 17, n: 3 }, { min: 20, max: 25, n: 1 }], { low: 16, high: 16 }, 0.3)?.share // 0.25
 */
export function outsideProved(
  buckets: readonly { readonly min: number | null; readonly max: number | null; readonly n: number }[],
  { low, high }: ProvedSpan,
  limit: number,
): { readonly share: number; readonly from: number; readonly to: number } | null {
  const margin = near * notNegative('limit', limit);
  finite('low', low);
  finite('high', high);
  let [n, outside, from, to] = [0, 0, Infinity, -Infinity];
  for (const b of buckets) {
    if (b.min === null || b.max === null || b.n === 0) continue;
    n += b.n;
    from = Math.min(from, b.min);
    to = Math.max(to, b.max);
    if (b.min < low - margin || b.max > high + margin) outside += b.n;
  }
  return n > 0 ? { share: outside / n, from, to } : null;
}
