import { mayRest, quantityOf, type QuantityCode } from '../quantity/quantity';
import { positive } from '../valid';
import { flag, type Flag, type Series } from './flag';
import type { PointTest } from './qualityTest';
import { setTests, testOf, type QualityTest, type QualityThresholds } from './tests';
import { firstAtLeast, missingBetween } from './timing';
import type { Seconds } from '../time';

/** A stretch of readings that one test found wanting. s since epoch, both ends are stamps. */
export interface FlaggedSpan {
  readonly test: QualityTest;
  readonly flag: Flag;
  readonly from: Seconds;
  readonly until: Seconds;
  /** Readings flagged; for a gap, readings missing. */
  readonly n: number;
}

/** Which of a series' readings are judged; the others are only context for them. Indices, end excluded. */
export interface Judged {
  readonly from: number;
  readonly until: number;
}

/**
 * Runs every test of the thresholds over one channel's record, in pieces if it is long: readings
 * outside `judged` lend their neighbours context and are not flagged themselves.
 *
 * @param interval storage interval, s, > 0: what the gap test expects and what turns hours into counts
 * @throws RangeError for an interval that is not above 0, or arrays of unequal length
 */
export function runTests(
  series: Series,
  quantity: QuantityCode,
  thresholds: QualityThresholds,
  interval: Seconds,
  judged: Judged = { from: 0, until: series.values.length },
): FlaggedSpan[] {
  const { times, values } = series;
  positive('interval', interval);
  if (times.length !== values.length)
    throw new RangeError(`${times.length} stamps for ${values.length} values`);
  const circular = quantityOf(quantity).aggregate === 'circular';
  const gaps: FlaggedSpan[] = [];
  const set = setTests.flatMap((code) => {
    const limits: unknown = thresholds[code];
    const test = testOf(code);
    return limits === null ? [] : [{ test, limits, found: spanBuilder(code, times, apart(interval)) }];
  });
  const points = set.flatMap(({ test, limits, found }) =>
    test.kind === 'point' ? [{ test, limits, found }] : [],
  );
  // One for all readings: a fresh one for each would be most of the work.
  const reading = { at: 0, value: NaN, before: NaN, nearBefore: NaN, nearAfter: NaN, passed: 0 };
  const judge = (i: number) => {
    const passed = i > 0 ? times[i]! - times[i - 1]! : 0;
    const missing = missingBetween(passed, interval);
    const gapBehind = i + 1 < values.length && missingBetween(times[i + 1]! - times[i]!, interval) > 0;
    if (missing > 0)
      gaps.push({ test: 'gap', flag: flag.missing, from: times[i - 1]!, until: times[i]!, n: missing });
    reading.at = times[i]!;
    reading.value = values[i]!;
    reading.before = i > 0 ? values[i - 1]! : NaN;
    reading.nearBefore = missing > 0 ? NaN : reading.before;
    reading.nearAfter = gapBehind || i + 1 >= values.length ? NaN : values[i + 1]!;
    reading.passed = passed;
    for (const { test, limits, found } of points) found.add(i, test.judge(reading, limits, circular));
  };
  if (circular) for (let i = judged.from; i < judged.until; i++) judge(i);
  else eachRestless(series, points, interval, judged, judge);
  for (const { test, limits, found } of set)
    if (test.kind === 'stretch')
      test.stretch(values, limits, interval, circular, (i, bad) => {
        if (i < judged.from || i >= judged.until) return;
        if (!(test.sparesRest && mayRest(quantity, values[i]!))) found.add(i, bad);
      });
  return [gaps, ...set.map(({ found }) => found.spans)].flat();
}

/** A reading that keeps to all of these passes the gap test and every test of a point at one glance. */
interface AllCalm {
  readonly middle: number;
  /** Farthest from the middle. */
  readonly half: number;
  /** Farthest from the reading before. */
  readonly step: number;
  /** Time since the reading before, s, and how much it may differ from that. */
  readonly interval: Seconds;
  readonly leeway: number;
  /** Stamp up to which it holds, s. */
  readonly until: number;
}

type PointTests = readonly { readonly test: PointTest<unknown>; readonly limits: unknown }[];

function calmOf(tests: PointTests, interval: Seconds, at: Seconds): AllCalm {
  const calms = tests.map(({ test, limits }) => test.calm(limits, interval, at));
  const low = Math.max(-Number.MAX_VALUE, ...calms.map((c) => c.low ?? -Infinity));
  const high = Math.min(Number.MAX_VALUE, ...calms.map((c) => c.high ?? Infinity));
  // A little less than the limits, so that no rounding lets one pass that they would not.
  const under = 1 - 1e-9;
  return {
    middle: low / 2 + high / 2,
    half: (high / 2 - low / 2) * under,
    step: Math.min(...calms.map((c) => c.step ?? Infinity), Infinity) * under,
    interval,
    leeway: interval / 1000,
    until: Math.min(...calms.map((c) => c.until ?? Infinity), Infinity),
  };
}

/**
 * Calls `judge` for every reading which the tests may find wanting, in their order; for some that pass,
 * too. Most readings differ so little from the one before that no test can mind.
 */
function eachRestless(
  { times, values }: Series,
  tests: PointTests,
  interval: number,
  judged: Judged,
  judge: (index: number) => void,
): void {
  let done = judged.from - 1;
  const look = (i: number) => {
    if (i > done) judge((done = i));
  };
  for (let i = judged.from; i < judged.until;) {
    const calm = calmOf(tests, interval, times[i]!);
    const end = calm.until === Infinity ? judged.until : firstAtLeast(times, calm.until, i + 1, judged.until);
    for (; (i = nextRestless(times, values, i, end, calm)) < end; i++) {
      // A step that is too large may make a spike of either end.
      look(Math.max(judged.from, i - 1));
      look(i);
    }
  }
  // What comes behind the last one is not seen from before it.
  if (judged.until > judged.from) look(judged.until - 1);
}

/** Index of the first reading from `from` on that is not calm; `until` for none. The first of all never is. */
function nextRestless(
  times: Float64Array,
  values: Float64Array,
  from: number,
  until: number,
  { middle, half, step, interval, leeway }: AllCalm,
): number {
  let before = from > 0 ? values[from - 1]! : NaN;
  let beforeAt = from > 0 ? times[from - 1]! : NaN;
  for (let i = from; i < until; i++) {
    const v = values[i]!;
    const at = times[i]!;
    // A comparison with a missing value is false.
    if (!(
      Math.abs(v - middle) <= half &&
      Math.abs(v - before) <= step &&
      Math.abs(at - beforeAt - interval) <= leeway
    ))
      return i;
    before = v;
    beforeAt = at;
  }
  return until;
}

/** Neighbouring flagged readings are one span unless so much time lies between them, s. */
const apart = (interval: Seconds): Seconds => 2.5 * interval;

/** How many readings before the first judged one the tests look at. */
export const contextNeeded = (thresholds: QualityThresholds, interval: Seconds): number =>
  1 +
  Math.max(
    1,
    ...setTests.map((code) => {
      const test = testOf(code);
      const limits: unknown = thresholds[code];
      return limits !== null && test.kind === 'stretch' ? test.context(limits, interval) : 1;
    }),
  );

/** Gathers flagged readings, told in their order, into spans of neighbours with one flag. */
function spanBuilder(test: QualityTest, times: Float64Array, farthest: number) {
  const spans: FlaggedSpan[] = [];
  let open: { test: QualityTest; flag: Flag; from: number; until: number; n: number } | null = null;
  let last = -1;
  return {
    spans: spans as readonly FlaggedSpan[],
    add(index: number, f: Flag) {
      if (f !== flag.suspect && f !== flag.fail) return;
      const at = times[index]!;
      if (open && index === last + 1 && open.flag === f && at - open.until <= farthest) {
        open.until = at;
        open.n++;
      } else spans.push((open = { test, flag: f, from: at, until: at, n: 1 }));
      last = index;
    },
  };
}

/**
 * Joins spans of one test and flag that lie close together; then, if a test still has more than
 * `most` of them, joins over wider and wider distances, so that a noisy sensor makes a few long spans
 * and not a hundred thousand. `n` stays the number of readings really flagged. Ascending by start.
 */
export function joinSpans(spans: readonly FlaggedSpan[], interval: Seconds, most = 400): FlaggedSpan[] {
  positive('interval', interval);
  positive('most', most);
  const kinds = new Map<string, FlaggedSpan[]>();
  for (const s of spans) {
    const kind = `${s.test} ${s.flag}`;
    const list = kinds.get(kind);
    if (list) list.push(s);
    else kinds.set(kind, [s]);
  }
  const joined = [...kinds.values()].flatMap((all) => {
    let some = joinCloser(
      [...all].sort((a, b) => a.from - b.from),
      apart(interval),
    );
    for (let wide = 4 * apart(interval); some.length > most; wide *= 4) some = joinCloser(some, wide);
    return some;
  });
  return joined.sort((a, b) => a.from - b.from || a.test.localeCompare(b.test) || a.flag - b.flag);
}

function joinCloser(spans: readonly FlaggedSpan[], distance: number): FlaggedSpan[] {
  const joined: { -readonly [K in keyof FlaggedSpan]: FlaggedSpan[K] }[] = [];
  for (const s of spans) {
    const open = joined.at(-1);
    if (open && s.from - open.until <= distance) {
      open.until = Math.max(open.until, s.until);
      open.n += s.n;
    } else joined.push({ ...s });
  }
  return joined;
}
