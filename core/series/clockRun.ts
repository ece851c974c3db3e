import { finite } from '../valid';
import type { Milliseconds } from '../time';

/** A stretch of a logger's record between two settings of its clock. ms since epoch. */
export interface ClockRun {
  readonly run: number;
  /** What its clock showed just before it was set, and just after; this run begins with the latter. */
  readonly stampBefore: Milliseconds;
  readonly stampAfter: Milliseconds;
}

/**
 * Which clock run a stamp belongs to; 'was-twice' when the clock was set back over it, so that two
 * runs hold such a stamp honestly. Runs ascending; before the first lies run 0.
 * @example clockRunOf([], 0) // 0
 */
export function clockRunOf(runs: readonly ClockRun[], stamp: Milliseconds): number | 'was-twice' {
  finite('stamp', stamp);
  let found: number | null = null;
  for (let i = 0; i <= runs.length; i++) {
    const begins = i === 0 ? -Infinity : runs[i - 1]!.stampAfter;
    const ends = i === runs.length ? Infinity : runs[i]!.stampBefore;
    if (stamp < begins || stamp > ends) continue;
    if (found !== null) return 'was-twice';
    found = i === 0 ? 0 : runs[i - 1]!.run;
  }
  // A stamp the clock was set forward over: the run before went on, as far as anyone can say.
  return found ?? [...runs].reverse().find((r) => r.stampAfter <= stamp)?.run ?? 0;
}
