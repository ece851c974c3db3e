import { mayRest, quantityOf, type QuantityCode } from '../quantity/quantity';
import { positive } from '../valid';
import { flag, type Flag, type Series } from './flag';
import { flatLineTest } from './flatLine';
import { rangeTest } from './range';
import { rateOfChangeTest } from './rateOfChange';
import { spikeTest } from './spike';
import type { QualityTest, QualityThresholds } from './thresholds';
import { missingBetween } from './timing';

/** A stretch of readings that one test found wanting. s since epoch, both ends are stamps. */
export interface FlaggedSpan {
  readonly test: QualityTest;
  readonly flag: Flag;
  readonly from: number;
  readonly until: number;
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
  interval: number,
  judged: Judged = { from: 0, until: series.values.length },
): FlaggedSpan[] {
  const { times, values } = series;
  positive('interval', interval);
  if (times.length !== values.length)
    throw new RangeError(`${times.length} stamps for ${values.length} values`);
  const circular = quantityOf(quantity).aggregate === 'circular';
  const { gross, user, spike, rate, flat } = thresholds;
  const gaps: FlaggedSpan[] = [];
  const spansOf = (test: QualityTest) => spanBuilder(test, times, apart(interval));
  const found = {
    gross: spansOf('gross'),
    user: spansOf('user'),
    spike: spansOf('spike'),
    rate: spansOf('rate'),
    flat: spansOf('flat'),
  };
  const judge = (i: number) => {
    const v = values[i]!;
    const before = i > 0 ? values[i - 1]! : NaN;
    const after = i + 1 < values.length ? values[i + 1]! : NaN;
    const passed = i > 0 ? times[i]! - times[i - 1]! : 0;
    const missing = missingBetween(passed, interval);
    // A spike is judged by its neighbours, and what lies beyond a gap is none.
    const gapBehind = i + 1 < values.length && missingBetween(times[i + 1]! - times[i]!, interval) > 0;
    if (missing > 0)
      gaps.push({ test: 'gap', flag: flag.missing, from: times[i - 1]!, until: times[i]!, n: missing });
    if (gross) found.gross.add(i, rangeTest(v, gross.low, gross.high, flag.fail));
    if (user) found.user.add(i, rangeTest(v, user.low, user.high, flag.suspect));
    if (spike)
      found.spike.add(i, spikeTest(missing > 0 ? NaN : before, v, gapBehind ? NaN : after, spike, circular));
    if (rate) found.rate.add(i, rateOfChangeTest(before, v, passed, rate.perHour, circular));
  };
  if (circular) for (let i = judged.from; i < judged.until; i++) judge(i);
  else eachRestless(series, thresholds, interval, judged, judge);
  if (flat)
    flatLineTest(values, flatCounts(flat, interval), circular, (i, bad) => {
      if (i >= judged.from && i < judged.until && !mayRest(quantity, values[i]!)) found.flat.add(i, bad);
    });
  return [gaps, ...Object.values(found).map((b) => b.spans)].flat();
}

/** A reading that keeps to all of these passes the gap, range, spike and rate of change tests at one glance. */
interface Calm {
  readonly middle: number;
  /** Farthest from the middle. */
  readonly half: number;
  /** Farthest from the reading before. */
  readonly step: number;
  /** Time since the reading before, s, and how much it may differ from that. */
  readonly interval: number;
  readonly leeway: number;
}

/**
 * Calls `judge` for every reading which the tests may find wanting, in their order; for some that pass,
 * too. Most readings differ so little from the one before that no test can mind: where two steps are
 * below the spike's limit, so is the distance between the middle and its neighbours.
 */
function eachRestless(
  { times, values }: Series,
  { gross, user, spike, rate }: QualityThresholds,
  interval: number,
  judged: Judged,
  judge: (index: number) => void,
): void {
  const low = Math.max(gross?.low ?? -Number.MAX_VALUE, user?.low ?? -Number.MAX_VALUE);
  const high = Math.min(gross?.high ?? Number.MAX_VALUE, user?.high ?? Number.MAX_VALUE);
  const leeway = interval / 1000;
  // A little less than the limits, so that no rounding lets one pass that they would not.
  const under = 1 - 1e-9;
  const calm: Calm = {
    middle: low / 2 + high / 2,
    half: (high / 2 - low / 2) * under,
    step:
      Math.min(spike?.suspect ?? Infinity, ((rate?.perHour ?? Infinity) / 3600) * (interval - leeway)) *
      under,
    interval,
    leeway,
  };
  let done = judged.from - 1;
  const look = (i: number) => {
    if (i > done) judge((done = i));
  };
  for (let i = judged.from; (i = nextRestless(times, values, i, judged.until, calm)) < judged.until; i++) {
    // A step that is too large may make a spike of either end.
    look(Math.max(judged.from, i - 1));
    look(i);
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
  { middle, half, step, interval, leeway }: Calm,
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
const apart = (interval: number) => 2.5 * interval;

/** Two equal readings are no line, however far apart: so many at the least. Our own choice. */
const shortestLine = { suspect: 3, fail: 5 };

function flatCounts(flat: NonNullable<QualityThresholds['flat']>, interval: number) {
  const count = (hours: number) => Math.round((hours * 3600) / interval);
  return {
    eps: flat.eps,
    suspect: Math.max(shortestLine.suspect, count(flat.suspectHours)),
    fail: Math.max(shortestLine.fail, count(flat.failHours)),
  };
}

/** How many readings before the first judged one its tests look at. */
export const contextNeeded = (thresholds: QualityThresholds, interval: number): number =>
  1 + (thresholds.flat ? flatCounts(thresholds.flat, interval).fail : 1);

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
export function joinSpans(spans: readonly FlaggedSpan[], interval: number, most = 400): FlaggedSpan[] {
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
