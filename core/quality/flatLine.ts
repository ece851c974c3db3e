import { notNegative, whole } from '../valid';
import { angleDifference } from './angle';
import { flag, type Flag } from './flag';
import type { StretchTest } from './qualityTest';

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

export interface FlatHours {
  /** Base unit, ≥ 0. */
  readonly eps: number;
  /** Hours the value may stand still within eps, > 0, suspect ≤ fail. */
  readonly suspectHours: number;
  readonly failHours: number;
}

/** Two equal readings are no line, however far apart: so many at the least. Our own choice. */
const shortestLine = { suspect: 3, fail: 5 };

function countsOf(flat: FlatHours, interval: number): FlatLimits {
  const count = (hours: number) => Math.round((hours * 3600) / interval);
  return {
    eps: flat.eps,
    suspect: Math.max(shortestLine.suspect, count(flat.suspectHours)),
    fail: Math.max(shortestLine.fail, count(flat.failHours)),
  };
}

export const flat: StretchTest<FlatHours> = {
  kind: 'stretch',
  name: 'flat line',
  says: 'standing still',
  file: 'flatLine.ts',
  definition:
    'the same within eps as each of the last so many readings: suspect, fail; not at 100 %RH, 0 mm, calm, in the dark, where a value may honestly rest',
  fields: {
    eps: { label: 'moves less than', is: 'difference' },
    suspectHours: { label: 'suspect after', is: 'hours' },
    failHours: { label: 'fails after', is: 'hours' },
  },
  start: ({ usual }, sparse) => (sparse || !usual ? null : usual.flat),
  refuse: ({ eps, suspectHours, failHours }) =>
    eps >= 0 && suspectHours > 0 && failHours >= suspectHours
      ? null
      : {
          value: suspectHours,
          detail: `A flat line is suspect from ${suspectHours} h and failed from ${failHours} h.`,
          remedy: 'Both above 0, and suspect not above fail.',
        },
  stretch: (values, limits, interval, circular, tell) =>
    flatLineTest(values, countsOf(limits, interval), circular, tell),
  sparesRest: true,
  context: (limits, interval) => countsOf(limits, interval).fail,
};
