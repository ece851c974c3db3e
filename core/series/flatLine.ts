/** Extremes of one bucket, ascending by start (s since epoch). */
export interface BucketRange {
  readonly start: number;
  readonly min: number;
  readonly max: number;
}

/**
 * Since when a record has not moved, s since epoch, looking back from its newest bucket: the start
 * of the run of buckets whose common range stays within `eps`; null when that run is shorter than
 * `shortest` seconds. Flat line test of the QARTOD manuals (US IOOS), on bucket extremes.
 *
 * @param width bucket width, s
 * @param eps largest movement that counts as none, base unit, ≥ 0
 */
export function flatSince(
  buckets: readonly BucketRange[],
  width: number,
  eps: number,
  shortest: number,
): number | null {
  const newest = buckets.at(-1);
  if (!newest) return null;
  let { min, max } = newest;
  let since: number | null = null;
  for (let i = buckets.length - 1; i >= 0; i--) {
    const bucket = buckets[i]!;
    min = Math.min(min, bucket.min);
    max = Math.max(max, bucket.max);
    if (max - min > eps) break;
    since = bucket.start;
  }
  return since !== null && newest.start + width - since >= shortest ? since : null;
}
