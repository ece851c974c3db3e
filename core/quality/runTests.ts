import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { flag, type Flag, type Series } from './flag';
import { flatLineTest } from './flatLine';
import { rangeTest } from './range';
import { rateOfChangeTest } from './rateOfChange';
import { spikeTest } from './spike';
import type { QualityTest, QualityThresholds } from './thresholds';
import { timingTest } from './timing';

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
 * @param interval storage interval, s: what the gap test expects and what turns hours into counts
 */
export function runTests(
  series: Series,
  quantity: QuantityCode,
  thresholds: QualityThresholds,
  interval: number,
  judged: Judged = { from: 0, until: series.values.length },
): FlaggedSpan[] {
  const { times, values } = series;
  const circular = quantityOf(quantity).aggregate === 'circular';
  const flags = new Uint8Array(values.length);
  const spans: FlaggedSpan[] = timingTest(
    times.subarray(Math.max(0, judged.from - 1), judged.until),
    interval,
  ).map((g) => ({ test: 'gap', flag: flag.missing, from: g.after, until: g.before, n: g.missing }));
  const add = (test: QualityTest) => spans.push(...flaggedSpans(times, flags, test, apart(interval), judged));
  const { gross, user, spike, rate, flat } = thresholds;
  if (gross) {
    rangeTest(values, gross.low, gross.high, flag.fail, flags);
    add('gross');
  }
  if (user) {
    rangeTest(values, user.low, user.high, flag.suspect, flags);
    add('user');
  }
  if (spike) {
    spikeTest(values, spike, circular, flags);
    add('spike');
  }
  if (rate) {
    rateOfChangeTest(series, rate.perHour, circular, flags);
    add('rate');
  }
  if (flat) {
    flatLineTest(values, flatCounts(flat, interval), circular, flags);
    add('flat');
  }
  return spans;
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

function flaggedSpans(
  times: Float64Array,
  flags: Uint8Array,
  test: QualityTest,
  farthest: number,
  judged: Judged,
): FlaggedSpan[] {
  const spans: FlaggedSpan[] = [];
  let open: { test: QualityTest; flag: Flag; from: number; until: number; n: number } | null = null;
  for (let i = judged.from; i < judged.until; i++) {
    const f = flags[i]!;
    if (f !== flag.suspect && f !== flag.fail) {
      open = null;
      continue;
    }
    const at = times[i]!;
    if (open && open.flag === f && at - open.until <= farthest) {
      open.until = at;
      open.n++;
    } else {
      open = { test, flag: f as Flag, from: at, until: at, n: 1 };
      spans.push(open);
    }
  }
  return spans;
}

/**
 * Joins spans of one test and flag that lie close together; then, if a test still has more than
 * `most` of them, joins over wider and wider distances, so that a noisy sensor makes a few long spans
 * and not a hundred thousand. `n` stays the number of readings really flagged. Ascending by start.
 */
export function joinSpans(spans: readonly FlaggedSpan[], interval: number, most = 400): FlaggedSpan[] {
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
