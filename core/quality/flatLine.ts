import { notNegative, whole } from '../valid';
import { angleDifference } from './angle';
import { flag, type Flag } from './flag';

export interface FlatLimits {
  /** Movement that counts as none, base unit, ≥ 0; a difference must be below it, or be 0. */
  readonly eps: number;
  /** So many values before this one, all the same within eps: suspect, fail. Whole, suspect ≤ fail. */
  readonly suspect: number;
  readonly fail: number;
}

/**
 * Flat line test: value n against each of the values before it; the same as the last `suspect`
 * within eps is 3, as the last `fail` 4. A missing value (NaN) breaks the line. Tells of the values
 * found wanting, in their order. RangeError for counts that are not whole and above 0, or a negative eps.
 * Source: QARTOD manuals (US IOOS), flat line test (EPS, REP_CNT_SUSPECT, REP_CNT_FAIL).
 *
 * Looks at few values of a lively record: two of them more than twice eps apart cannot both be the
 * same as a third, so no line ends before the earlier of them is out of reach.
 */
export function flatLineTest(
  values: Float64Array,
  { eps, suspect, fail }: FlatLimits,
  circular: boolean,
  tell: (index: number, bad: Flag) => void,
): void {
  notNegative('eps', eps);
  whole('suspect', suspect, 1);
  whole('fail', fail, suspect);
  const n = values.length;
  const apart = (a: number, b: number) => (circular ? Math.abs(angleDifference(a, b)) : Math.abs(a - b));
  /** How many values before this one, at most `fail`, are the same as it. */
  const sameBefore = (at: number) => {
    let run = 0;
    for (; run < fail && run < at; run++) {
      const far = apart(values[at]!, values[at - 1 - run]!);
      if (!(far < eps || far === 0)) break;
    }
    return run;
  };
  const clear = 2 * eps * (1 + 1e-9);
  let at = suspect;
  while (at < n) {
    let back = 0;
    // Nothing is near a missing value, not even itself.
    while (back <= suspect && apart(values[at]!, values[at - back]!) <= clear) back++;
    if (back <= suspect) {
      at += suspect + 1 - back;
      continue;
    }
    // Perhaps a line ends here: value by value, until one stands clear of the one before.
    for (let run = sameBefore(at); ;) {
      if (run >= suspect) tell(at, run >= fail ? flag.fail : flag.suspect);
      if (++at === n) break;
      if (values[at] === values[at - 1]) run = Math.min(run + 1, fail);
      else if (apart(values[at]!, values[at - 1]!) <= clear) run = sameBefore(at);
      else break;
    }
    at += suspect;
  }
}
