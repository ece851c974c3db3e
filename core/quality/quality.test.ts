import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { angleDifference } from './angle';
import { flag, type Flag, type Series } from './flag';
import { flatLineTest, type FlatLimits } from './flatLine';
import { rangeTest } from './range';
import { rateOfChangeTest } from './rateOfChange';
import { contextNeeded, joinSpans, runTests } from './runTests';
import { stuckSince } from './stuck';
import { uniform } from '@/test/simulate';
import { spikeTest, type SpikeLimits } from './spike';
import { completed, defaultThresholds } from './thresholds';
import { missingBetween, usualInterval } from './timing';

/** Flags as the QARTOD manuals' definitions (US IOOS) demand on constructed series. */
const f64 = (...v: number[]) => Float64Array.from(v);
const ranges = (v: number[], low: number, high: number, bad: Flag) =>
  v.map((x) => rangeTest(x, low, high, bad));
const spikes = (v: number[], limits: SpikeLimits, circular = false) =>
  v.map((x, i) => spikeTest(v[i - 1] ?? NaN, x, v[i + 1] ?? NaN, limits, circular));
/** The same where readings lie 600 s apart: what lies beyond a gap is no neighbour. */
const spikesBetweenGaps = (times: number[], v: number[], limits: SpikeLimits) =>
  v.map((x, i) => {
    const beside = (j: number) => (Math.abs((times[j] ?? NaN) - times[i]!) <= 660 ? v[j]! : NaN);
    return spikeTest(beside(i - 1), x, beside(i + 1), limits);
  });
const rates = (times: number[], v: number[], perHour: number, circular = false) =>
  v.map((x, i) => rateOfChangeTest(v[i - 1] ?? NaN, x, times[i]! - (times[i - 1] ?? NaN), perHour, circular));
const flats = (v: readonly number[], limits: FlatLimits, circular = false) => {
  const flags: Flag[] = v.map((x) => (Number.isNaN(x) ? flag.missing : flag.good));
  flatLineTest(Float64Array.from(v), limits, circular, (i, bad) => (flags[i] = bad));
  return flags;
};
const every = (seconds: number, n: number, from = 0) =>
  Float64Array.from({ length: n }, (_, i) => from + i * seconds);

/** Lively and calm ones, with values and readings missing here and there. */
const anySeries = fc
  .tuple(
    fc.constantFrom(1, 2, 10),
    fc.array(
      fc.record({
        v: fc.option(fc.integer({ min: -40, max: 40 }), { nil: null, freq: 9 }),
        gap: fc.oneof(
          { weight: 6, arbitrary: fc.constant(1) },
          { weight: 1, arbitrary: fc.integer({ min: 1, max: 4 }) },
        ),
      }),
      { minLength: 3, maxLength: 80 },
    ),
  )
  .map(([lively, rows]): Series => {
    let t = 0;
    return {
      times: Float64Array.from(rows.map((r) => (t += 600 * r.gap))),
      values: Float64Array.from(rows.map((r) => (r.v === null ? NaN : (r.v * lively) / 8))),
    };
  });

const thresholds = {
  gross: { low: -40, high: 40 },
  user: { low: -20, high: 30 },
  spike: { suspect: 8, fail: 16 },
  rate: { perHour: 96 },
  flat: { eps: 0.25, suspectHours: 0.5, failHours: 1 },
};
const none = completed({});

describe('range: outside fails, the ends themselves pass, missing is 9', () => {
  test('line', () => {
    expect(ranges([-1, 0, 5, 10, 10.01, NaN], 0, 10, flag.fail)).toEqual([4, 1, 1, 1, 4, 9]);
    expect(ranges([-1, 5], 0, 10, flag.suspect)).toEqual([3, 1]);
  });
  test('through north', () => {
    expect(ranges([350, 10, 180, 330, 30], 330, 30, flag.suspect)).toEqual([1, 1, 3, 1, 1]);
  });
});

describe('spike: against the middle of the neighbours', () => {
  test('suspect above the low threshold, fail above the high one, the ends not evaluated', () => {
    // 14 is 4 from the middle of 10 and 10; the 10 behind it 3.5 from that of 14 and 13, which is not above 3.5.
    expect(spikes([10, 14, 10, 13, 10, 12, 10], { suspect: 2, fail: 3.5 })).toEqual([2, 4, 3, 3, 3, 1, 2]);
  });
  test('beside a missing value nothing can be said', () => {
    expect(spikes([10, 14, NaN, 10, 10], { suspect: 2, fail: 3 })).toEqual([2, 2, 9, 2, 2]);
  });
  test('a steady slope is no spike', () => {
    expect(spikes([0, 5, 10, 15], { suspect: 0.1, fail: 1 })).toEqual([2, 1, 1, 2]);
  });
  test('directions: 350° between 355° and 5° lies 10° from north', () => {
    expect(spikes([355, 350, 5], { suspect: 8, fail: 20 }, true)).toEqual([2, 3, 2]);
    expect(spikes([355, 0, 5], { suspect: 8, fail: 20 }, true)).toEqual([2, 1, 2]);
    // On the number line the same is a spike of 180.
    expect(spikes([355, 0, 5], { suspect: 8, fail: 20 })).toEqual([2, 4, 2]);
  });
});

describe('rate of change', () => {
  test('over the time between, whatever the interval', () => {
    const [times, values] = [
      [0, 600, 1200, 4800],
      [10, 11, 13, 24],
    ];
    // 6, 12 and 11 per hour.
    expect(rates(times, values, 11)).toEqual([2, 1, 3, 1]);
    expect(rates(times, values, 12)).toEqual([2, 1, 1, 1]);
  });
  test('after a missing value nothing can be said', () => {
    expect(rates([0, 600, 1200, 1800], [10, NaN, 40, 10], 12)).toEqual([2, 9, 2, 3]);
  });
  test('directions turn over north', () => {
    expect(rates([0, 3600], [355, 5], 15, true)).toEqual([2, 1]);
    expect(rates([0, 3600], [355, 5], 15)).toEqual([2, 3]);
  });
});

describe('flat line: the same as the last REP_CNT values within EPS', () => {
  test('suspect, then fail, then free again', () => {
    const v = [1, 2, 2, 2, 2, 2, 3, 3];
    expect(flats(v, { eps: 0.1, suspect: 2, fail: 4 })).toEqual([1, 1, 1, 3, 3, 4, 1, 1]);
  });
  test('within eps of each of them, so a slow creep passes in the end', () => {
    const v = [0, 0.04, 0.08, 0.12, 0.16];
    // The last is 0.08 from the one two before it, 0.12 from the one three before it.
    expect(flats(v, { eps: 0.1, suspect: 2, fail: 3 })).toEqual([1, 1, 3, 3, 3]);
  });
  test('a missing value breaks it; with eps 0 only the very same counts', () => {
    expect(flats([5, 5, NaN, 5, 5], { eps: 0, suspect: 1, fail: 2 })).toEqual([1, 3, 9, 1, 3]);
  });
  test('a vane that rests over north', () => {
    expect(flats([359.9, 0.1, 359.9], { eps: 1, suspect: 1, fail: 2 }, true)).toEqual([1, 3, 4]);
  });
  test('as the definition word by word, on any series', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.option(
            fc.integer({ min: 0, max: 4 }).map((v) => v / 10),
            { nil: NaN },
          ),
          { maxLength: 60 },
        ),
        fc.constantFrom(0, 0.05, 0.15, 0.25),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 0, max: 5 }),
        (values, eps, suspect, more) => {
          const fail = suspect + more;
          const same = (n: number, count: number) => {
            if (n < count) return false;
            for (let i = 1; i <= count; i++) {
              const away = Math.abs(values[n]! - values[n - i]!);
              if (!(away < eps || away === 0)) return false;
            }
            return true;
          };
          const want = values.map((v, n) =>
            Number.isNaN(v) ? 9 : same(n, fail) ? 4 : same(n, suspect) ? 3 : 1,
          );
          expect(flats(values, { eps, suspect, fail })).toEqual(want);
        },
      ),
    );
  });
});

describe('a line that is none', () => {
  const still = (quantity: 'humidity' | 'windSpeed' | 'windDirection', value: (i: number) => number) => {
    const times = every(600, 400);
    const flat = { eps: 0.5, suspectHours: 12, failHours: 24 };
    return runTests({ times, values: times.map((_, i) => value(i)) }, quantity, { ...none, flat }, 600);
  };
  test('saturated air and a calm may stand still; a humidity of 62 % may not', () => {
    expect(still('humidity', () => 100)).toEqual([]);
    expect(still('windSpeed', () => 0)).toEqual([]);
    expect(still('humidity', () => 62).map((s) => s.flag)).toEqual([flag.suspect, flag.fail]);
  });
  test('a vane at rest on north stands still, though its numbers run from 359.9 to 0.1', () => {
    expect(still('windDirection', (i) => (i % 2 ? 359.9 : 0.1)).length).toBeGreaterThan(0);
  });
  test('a spike is not read across a gap', () => {
    const times = f64(0, 600, 86_400, 87_000);
    const spike = { suspect: 3, fail: 6 };
    expect(
      runTests({ times, values: f64(4, 4, 20, 20) }, 'airTemperature', { ...none, spike }, 600),
    ).toHaveLength(1);
  });
});

describe('stuck: what the flat line test of the channel says, up to the newest value', () => {
  const line = (from: number, until: number) => ({ from, until, suspectHours: 12 });
  test('a line that reaches the newest value, suspect and then failed, began before its first flag', () => {
    expect(stuckSince([line(200_000, 260_000), line(260_600, 300_000)], 300_000, 600)).toBe(200_000 - 43_200);
  });
  test('one that ended, or none, is not stuck now', () => {
    expect(stuckSince([line(100_000, 200_000)], 300_000, 600)).toBeNull();
    expect(stuckSince([], 300_000, 600)).toBeNull();
  });
  test('simulated: ordinary weather is never stuck, a dead sensor always, whatever the interval', () => {
    for (const interval of [60, 480, 600, 2700, 7200]) {
      const random = uniform(interval);
      const n = Math.ceil((5 * 86_400) / interval);
      const flat = { eps: 0.05, suspectHours: 12, failHours: 24 };
      const stuck = (dies: number) => {
        const times = every(interval, n);
        let v = 60;
        const values = times.map((t) => (v = t >= dies ? v : 60 + 8 * Math.sin(t / 13_000) + random() - 0.5));
        const spans = runTests({ times, values }, 'humidity', { ...none, flat }, interval);
        const flats_ = spans.map((s) => ({ ...s, suspectHours: 12 }));
        return stuckSince(flats_, times[n - 1]!, interval);
      };
      for (let i = 0; i < 20; i++) {
        expect(stuck(Infinity)).toBeNull();
        const since = stuck(3 * 86_400);
        expect(Math.abs(since! - 3 * 86_400)).toBeLessThanOrEqual(3 * interval);
      }
    }
  });
});

describe('timing and gap', () => {
  test('what is missing between two stamps, with a tenth of leeway', () => {
    expect([600, 660, 661, 1200, 1740, 3000].map((s) => missingBetween(s, 600))).toEqual([0, 0, 1, 1, 2, 4]);
    const times = f64(0, 600, 1260, 3000, 3600);
    const spans = runTests({ times, values: f64(1, 2, 3, 4, 5) }, 'airTemperature', none, 600);
    expect(spans).toEqual([{ test: 'gap', flag: flag.missing, from: 1260, until: 3000, n: 2 }]);
  });
  test('the usual interval is the commonest', () => {
    expect(usualInterval(f64(0, 600, 1200, 4800, 5400))).toBe(600);
    expect(usualInterval(f64(7))).toBeNull();
  });
});

describe('what must not change anything', () => {
  const run = (s: Series, t = thresholds) => runTests(s, 'airTemperature', completed(t), 600);
  test('looking closely only where something may be wrong: the same readings are found as one by one', () => {
    fc.assert(
      fc.property(anySeries, ({ times, values }) => {
        const { gross, user, spike, rate, flat } = thresholds;
        const v = [...values];
        const one = {
          gross: ranges(v, gross.low, gross.high, flag.fail),
          user: ranges(v, user.low, user.high, flag.suspect),
          spike: spikesBetweenGaps([...times], v, spike),
          rate: rates([...times], v, rate.perHour),
          flat: flats(v, { eps: flat.eps, suspect: 3, fail: 6 }),
        };
        const spans = run({ times, values });
        for (const [test, all] of Object.entries(one))
          for (const bad of [flag.suspect, flag.fail]) {
            const found = spans.filter((s) => s.test === test && s.flag === bad);
            expect(found.reduce((n, s) => n + s.n, 0)).toBe(all.filter((f) => f === bad).length);
            all.forEach((f, i) => {
              const within = found.some((s) => s.from <= times[i]! && times[i]! <= s.until);
              expect(within).toBe(f === bad);
            });
          }
        expect(spans.filter((s) => s.test === 'gap').reduce((n, s) => n + s.n, 0)).toBe(
          (times.at(-1)! - times[0]!) / 600 + 1 - times.length,
        );
      }),
    );
  });
  test('shifting time moves the spans and nothing else', () => {
    fc.assert(
      fc.property(anySeries, fc.integer({ min: -1_000_000, max: 1_000_000_000 }), (s, shift) => {
        const moved = run({ ...s, times: s.times.map((t) => t + shift) });
        expect(moved).toEqual(run(s).map((x) => ({ ...x, from: x.from + shift, until: x.until + shift })));
      }),
    );
  });
  test('values and thresholds in another unit give the same flags', () => {
    fc.assert(
      fc.property(anySeries, fc.constantFrom(0.25, 2, 1024), (s, k) => {
        const scale = <T extends object>(o: T) =>
          Object.fromEntries(Object.entries(o).map(([n, v]) => [n, v * k])) as T;
        const scaled = {
          gross: scale(thresholds.gross),
          user: scale(thresholds.user),
          spike: scale(thresholds.spike),
          rate: scale(thresholds.rate),
          flat: { ...thresholds.flat, eps: thresholds.flat.eps * k },
        };
        expect(run({ ...s, values: s.values.map((v) => v * k) }, scaled)).toEqual(run(s));
      }),
    );
  });
  test('run backwards, the same values are in range and the same are spikes', () => {
    fc.assert(
      fc.property(anySeries, ({ values }) => {
        const there = [...values];
        const back = [...there].reverse();
        expect(spikes(back, thresholds.spike).reverse()).toEqual(spikes(there, thresholds.spike));
        expect(ranges(back, -40, 40, 4).reverse()).toEqual(ranges(there, -40, 40, 4));
      }),
    );
  });
  test('turning every direction by the same angle changes no circular flag', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 359 }), { minLength: 3, maxLength: 40 }),
        fc.integer({ min: 0, max: 359 }),
        (v, turn) => {
          const turned = v.map((x) => (x + turn) % 360);
          const times = v.map((_, i) => 600 * i);
          // A middle of two opposite directions lies on either side: such triples are left out.
          fc.pre(v.every((x, i) => i < 2 || Math.abs(angleDifference(x, v[i - 2]!)) !== 180));
          const limits = { suspect: 30, fail: 60 };
          expect(spikes(turned, limits, true)).toEqual(spikes(v, limits, true));
          expect(rates(times, turned, 120, true)).toEqual(rates(times, v, 120, true));
        },
      ),
    );
  });
});

describe('a year of hourly weather nobody here wrote (vega-datasets, BSD-3)', () => {
  const rows = readFileSync('node_modules/vega-datasets/data/seattle-weather-hourly-normals.csv', 'utf8')
    .trim()
    .split('\n')
    .slice(1);
  const times = Float64Array.from(rows.map((r) => Date.parse(`${r.split(',')[0]}Z`) / 1000));
  const column = (i: number) => Float64Array.from(rows.map((r) => Number(r.split(',')[i])));
  const summary = (spans: ReturnType<typeof runTests>) => {
    const counts: Record<string, number> = {};
    for (const x of spans) counts[x.test] = (counts[x.test] ?? 0) + x.n;
    return counts;
  };
  test('long-term means are smooth: no gap, spike or jump; pressure stands still for half a day once or twice', () => {
    const found = (i: number, code: 'airPressure' | 'airTemperature' | 'windSpeed') =>
      summary(runTests({ times, values: column(i) }, code, defaultThresholds(code), 3600));
    expect([found(1, 'airPressure'), found(2, 'airTemperature'), found(3, 'windSpeed')]).toEqual([
      { flat: 12 },
      {},
      {},
    ]);
  });
  test('a value put in, a stretch held, hours taken out: each is found where it is', () => {
    const values = column(2);
    values[100] = values[100]! + 9;
    values.fill(values[5000]!, 5000, 5030);
    const kept = [...times.keys()].filter((i) => i < 2000 || i >= 2006);
    const series = {
      times: Float64Array.from(kept, (i) => times[i]!),
      values: Float64Array.from(kept, (i) => values[i]!),
    };
    const spans = runTests(series, 'airTemperature', defaultThresholds('airTemperature'), 3600);
    expect(spans.filter((s) => s.test === 'gap')).toMatchObject([
      { n: 6, from: times[1999], until: times[2006] },
    ]);
    expect(spans.filter((s) => s.test === 'spike' && s.flag === 4)).toMatchObject([
      { from: times[100], n: 1 },
    ]);
    expect(spans.find((s) => s.test === 'flat' && s.flag === 4)).toMatchObject({ until: times[5029] });
  });
});

describe('a long record in pieces', () => {
  const n = 4000;
  const values = Float64Array.from(
    { length: n },
    (_, i) => 10 + 3 * Math.sin(i / 70) + ((i * 7919) % 13) / 30,
  );
  for (const i of [0, 500, 999, 1000, 1001, 2500, n - 1]) values[i] = values[i]! + 11;
  values.fill(4, 1950, 2300);
  const times = every(600, n);
  for (let i = 3000; i < n; i++) times[i] = times[i]! + 30_000;
  const thresholds = defaultThresholds('airTemperature');
  const whole = joinSpans(runTests({ times, values }, 'airTemperature', thresholds, 600), 600);

  test.each([1000, 1001, 777, 300])('pieces of %i give what the whole gives', (size) => {
    const context = contextNeeded(thresholds, 600);
    const found = [];
    for (let from = 0; from < n; from += size) {
      const until = Math.min(n, from + size);
      const [a, b] = [Math.max(0, from - context), Math.min(n, until + 1)];
      const piece = { times: times.subarray(a, b), values: values.subarray(a, b) };
      found.push(...runTests(piece, 'airTemperature', thresholds, 600, { from: from - a, until: until - a }));
    }
    expect(joinSpans(found, 600)).toEqual(whole);
  });
  test('whatever the number of spikes, a few spans hold them all', () => {
    const noisy = values.map((v, i) => (i % 5 === 0 ? v + 20 : v));
    const spans = runTests({ times, values: noisy }, 'airTemperature', thresholds, 600);
    const joined = joinSpans(spans, 600, 40);
    const count = (all: typeof spans) => all.reduce((s, x) => s + x.n, 0);
    expect(joined.length).toBeLessThan(40 * 6);
    expect(count(joined)).toBe(count(spans));
  });
});
