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

/**
 * Runs every test of the thresholds over one channel's record.
 *
 * @param interval storage interval, s: what the gap test expects and what turns hours into counts
 */
export function runTests(
  series: Series,
  quantity: QuantityCode,
  thresholds: QualityThresholds,
  interval: number,
): FlaggedSpan[] {
  const { times, values } = series;
  const circular = quantityOf(quantity).aggregate === 'circular';
  const flags = new Uint8Array(values.length);
  const spans: FlaggedSpan[] = timingTest(times, interval).map((g) => ({
    test: 'gap',
    flag: flag.missing,
    from: g.after,
    until: g.before,
    n: g.missing,
  }));
  const add = (test: QualityTest) => spans.push(...flaggedSpans(times, flags, test, 2.5 * interval));
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
    const count = (hours: number) => Math.max(1, Math.round((hours * 3600) / interval));
    flatLineTest(
      values,
      { eps: flat.eps, suspect: count(flat.suspectHours), fail: count(flat.failHours) },
      circular,
      flags,
    );
    add('flat');
  }
  return spans;
}

/** Neighbouring readings with one flag as one span; a span ends where a stamp is missing for `apart` s. */
export function flaggedSpans(
  times: Float64Array,
  flags: Uint8Array,
  test: QualityTest,
  apart: number,
): FlaggedSpan[] {
  const spans: FlaggedSpan[] = [];
  let open: { test: QualityTest; flag: Flag; from: number; until: number; n: number } | null = null;
  for (let i = 0; i < flags.length; i++) {
    const f = flags[i]!;
    if (f !== flag.suspect && f !== flag.fail) {
      open = null;
      continue;
    }
    const at = times[i]!;
    if (open && open.flag === f && at - open.until <= apart) {
      open.until = at;
      open.n++;
    } else {
      open = { test, flag: f, from: at, until: at, n: 1 };
      spans.push(open);
    }
  }
  return spans;
}
