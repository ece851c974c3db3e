import { finite, positive } from '../valid';
import type { Seconds } from '../time';

/** One bucket of a record: its start (s since epoch) and how many readings it holds. */
export interface BucketCount {
  readonly start: Seconds;
  readonly n: number;
}

export interface Gap {
  /** s since epoch. */
  readonly from: Seconds;
  readonly until: Seconds;
  /** Readings that are not there. */
  readonly missing: number;
}

/** When readings are due: at `phase` and every `interval` from it, both s. */
export interface Due {
  readonly interval: Seconds;
  readonly phase: Seconds;
}

/** Stamps that are due from `from` (inside) to `until` (outside), s: ⌈until/i⌉ − ⌈from/i⌉ about the phase. */
export function dueBetween(from: Seconds, until: Seconds, { interval, phase }: Due): number {
  positive('interval', interval);
  const before = (t: number) => Math.ceil((finite('time', t) - finite('phase', phase)) / interval);
  return Math.max(0, before(until) - before(from));
}

/**
 * Stretches of a record with readings missing, from bucket counts; buckets with no reading need not
 * be listed. What a bucket holds too much makes up for one that is due within an interval of it: a
 * reading may come a little early or late across the edge of a bucket, or at another minute than the
 * newest one. Neighbouring short buckets become one gap. Any interval, also one longer than a bucket.
 * After the gap test of the QARTOD manuals (US IOOS), applied per bucket rather than per reading.
 *
 * @param counts ascending, one row per bucket at most
 * @param from, until s since epoch, on bucket edges; the end is outside
 * @param width bucket width, s, > 0
 * @param dueAt when readings are due in the bucket that begins at a time: intervals change over the years
 * @throws RangeError for a width or interval that is not above 0, or a time that is not finite
 */
export function findGaps(
  counts: readonly BucketCount[],
  from: Seconds,
  until: Seconds,
  width: Seconds,
  dueAt: (start: Seconds) => Due,
): Gap[] {
  positive('width', width);
  finite('from', from);
  finite('until', until);
  const held = new Map(counts.map((c) => [c.start, c.n]));
  /** Readings each bucket holds beyond what is due; negative where some are missing. */
  const surplus: number[] = [];
  const reach: number[] = [];
  for (let start = from; start < until; start += width) {
    const due = dueAt(start);
    surplus.push((held.get(start) ?? 0) - dueBetween(start, start + width, due));
    reach.push(Math.max(1, Math.ceil(due.interval / width)));
  }
  for (let i = 0; i < surplus.length; i++)
    for (let away = 1; away <= reach[i]! && surplus[i]! > 0; away++)
      for (const j of [i - away, i + away])
        if (surplus[i]! > 0 && (surplus[j] ?? 0) < 0) {
          surplus[j]!++;
          surplus[i]!--;
        }
  const gaps: Gap[] = [];
  let open: { from: number; until: number; missing: number } | null = null;
  for (const [i, more] of surplus.entries()) {
    const start = from + i * width;
    if (more >= 0) {
      // Of a record sparser than its buckets, an empty one between two with readings missing tells nothing.
      if (dueBetween(start, start + width, dueAt(start)) > 0) open = null;
      continue;
    }
    const end = Math.min(until, start + width);
    if (open) {
      open.until = end;
      open.missing -= more;
    } else gaps.push((open = { from: start, until: end, missing: -more }));
  }
  return gaps;
}
