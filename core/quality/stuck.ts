import { finite, positive } from '../valid';
import type { Seconds } from '../time';

/** A stretch that the flat line test found wanting. s since epoch, both ends are stamps. */
export interface FlatSpan {
  readonly from: Seconds;
  readonly until: Seconds;
  /** Hours the test lets a value stand still before it is suspect. */
  readonly suspectHours: number;
}

/**
 * Since when a channel stands still up to its newest value, s since epoch; null when it does not. What
 * the flat line test of the channel itself says, with its thresholds and its being switched off, and no
 * second test beside it: the line began as long before its first suspect value as a value may stand still.
 *
 * @param spans of the flat line test, in any order
 * @param lastAt newest stamp, s
 * @param interval storage interval, s, > 0
 * @example stuckSince([{ from: 90_000, until: 100_000, suspectHours: 12 }], 100_000, 600) // 46800
 */
export function stuckSince(spans: readonly FlatSpan[], lastAt: Seconds, interval: Seconds): Seconds | null {
  finite('newest stamp', lastAt);
  positive('interval', interval);
  const near = 2.5 * interval;
  let since = lastAt;
  let found: number | null = null;
  // Suspect turns into fail within one line: those that touch are one.
  for (const s of [...spans].sort((a, b) => b.until - a.until)) {
    if (s.until < since - near) break;
    since = Math.min(since, s.from);
    found = Math.min(found ?? Infinity, s.from - s.suspectHours * 3600);
  }
  return found;
}
