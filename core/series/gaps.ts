/** One bucket of a record: its start (s since epoch) and how many readings it holds. */
export interface BucketCount {
  readonly start: number;
  readonly n: number;
}

export interface Gap {
  /** s since epoch. */
  readonly from: number;
  readonly until: number;
  /** Readings that are not there. */
  readonly missing: number;
}

/**
 * Stretches of a record with readings missing, from bucket counts. Buckets with no reading need not
 * be listed. `from` and `until` must lie on bucket edges; neighbouring short buckets become one gap.
 * After the gap test of the QARTOD manuals (US IOOS), applied per bucket rather than per reading.
 *
 * @param counts ascending, one row per bucket at most
 * @param width bucket width, s, > 0
 * @param expected readings a full bucket holds, > 0
 */
export function findGaps(
  counts: readonly BucketCount[],
  from: number,
  until: number,
  width: number,
  expected: number,
): Gap[] {
  const held = new Map(counts.map((c) => [c.start, c.n]));
  const gaps: Gap[] = [];
  let open: { from: number; until: number; missing: number } | null = null;
  for (let start = from; start < until; start += width) {
    const missing = Math.max(0, Math.round(expected) - (held.get(start) ?? 0));
    if (missing === 0) {
      open = null;
    } else if (open) {
      open.until = Math.min(until, start + width);
      open.missing += missing;
    } else {
      open = { from: start, until: Math.min(until, start + width), missing };
      gaps.push(open);
    }
  }
  return gaps;
}
