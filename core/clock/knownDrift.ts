import { finite } from '../valid';
import type { ClockDrift } from '../series/correction';
import type { Milliseconds, Seconds } from '../time';

/** A comparison of a logger's clock with the true time. */
export interface ClockContact {
  /** What the logger's clock showed, ms. */
  readonly stamp: Milliseconds;
  /** Logger − true, s. */
  readonly difference: Seconds;
  /** ± s */
  readonly uncertainty: Seconds;
  readonly run: number;
}

/**
 * How a logger's clock ran between every two comparisons of one run: what can be known of its stamps, whether anybody had
 * the record corrected by it or not.
 *
 * Source: common practice, no source (a clock that drifts steadily).
 *
 * @param contacts ascending by stamp
 * @example knownDrift([{ stamp: 0, difference: 0, uncertainty: 1, run: 1 }, { stamp: 1000, difference: 2, uncertainty: 1, run: 1 }]).length // 1
 */
export const knownDrift = (contacts: readonly ClockContact[]): ClockDrift[] =>
  contacts.slice(1).flatMap((until, i) => {
    const from = contacts[i]!;
    return from.run === until.run && from.stamp < until.stamp
      ? [
          {
            fromStamp: from.stamp,
            fromDifference: from.difference,
            untilStamp: until.stamp,
            untilDifference: until.difference,
            run: from.run,
          },
        ]
      : [];
  });

/**
 * How far the time of a stamp is in doubt once `knownDrift` was taken out, ± s: between two comparisons as far as they are;
 * before the first and after the last by what the nearest one found, too. 0 where the clock was never compared.
 *
 * @param contacts ascending by stamp
 * @param stamp ms; RangeError for one that is not finite
 */
export function stampDoubt(contacts: readonly ClockContact[], stamp: Milliseconds): Seconds {
  finite('stamp', stamp);
  const before = contacts.findLast((c) => c.stamp <= stamp);
  const after = contacts.find((c) => c.stamp >= stamp);
  if (before && after && before.run === after.run) return Math.max(before.uncertainty, after.uncertainty);
  const near = before ?? after;
  return near ? Math.abs(near.difference) + near.uncertainty : 0;
}
