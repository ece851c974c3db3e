import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { normal, uniform } from '@/test/simulate';
import { quantityOf } from '../quantity/quantity';
import { climatology, monthlyRanges } from './climatology';
import { flag } from './flag';
import { runTests } from './runTests';
import { completed } from './thresholds';

const off = completed({});
const day = 86_400;
const at = (text: string) => Date.parse(`${text}Z`) / 1000;
const months = (v: (m: number) => number | null) => Array.from({ length: 12 }, (_, m) => v(m));
const range = {
  low: months((m) => (m === 6 ? 8 : m === 0 ? -10 : null)),
  high: months((m) => (m === 6 ? 30 : m === 0 ? 12 : null)),
};

test('outside the range of its month is suspect; nothing fails by it, an empty month says nothing', () => {
  const judge = (when: string, value: number) =>
    climatology.judge(
      { at: at(when), value, before: NaN, nearBefore: NaN, nearAfter: NaN, passed: 0 },
      range,
      false,
    );
  expect(judge('2025-07-15T12:00', 7.9)).toBe(flag.suspect);
  expect(judge('2025-01-15T12:00', 7.9)).toBe(flag.good);
  expect(judge('2025-01-31T23:59', 12)).toBe(flag.good);
  expect(judge('2025-01-15T12:00', 60)).toBe(flag.suspect);
  expect(judge('2025-04-15T12:00', 60)).toBe(flag.notEvaluated);
  expect(judge('2025-07-15T12:00', NaN)).toBe(flag.missing);
});

test('within a run: every reading of the wrong month is found, though it moves as calmly as the others', () => {
  const times = Float64Array.from({ length: 24 * 365 }, (_, i) => at('2025-01-01T00:00') + i * 3600);
  const values = times.map(() => 20);
  const spans = runTests({ times, values }, 'airTemperature', { ...off, climatology: range }, 3600);
  expect(spans).toEqual([
    {
      test: 'climatology',
      flag: flag.suspect,
      from: at('2025-01-01T00:00'),
      until: at('2025-01-31T23:00'),
      n: 744,
    },
  ]);
});

test('over the edges of months, the same readings are found as one by one', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -30, max: 50 }), { minLength: 3, maxLength: 120 }), (v) => {
      const times = Float64Array.from(v, (_, i) => at('2024-12-30T00:00') + i * 3600);
      const limits = {
        low: months((m) => (m === 1 ? null : m - 12)),
        high: months((m) => (m === 1 ? null : 40 - m)),
      };
      const spans = runTests(
        { times, values: Float64Array.from(v) },
        'airTemperature',
        completed({ climatology: limits }),
        3600,
      );
      const one = v.map((value, i) =>
        climatology.judge(
          { at: times[i]!, value, before: NaN, nearBefore: NaN, nearAfter: NaN, passed: 0 },
          limits,
          false,
        ),
      );
      one.forEach((f, i) =>
        expect(spans.some((s) => s.from <= times[i]! && times[i]! <= s.until)).toBe(f === flag.suspect),
      );
    }),
  );
});

test.each([
  [{ low: months(() => null), high: months((m) => (m === 3 ? 5 : null)) }, 'Month 4 runs from nothing to 5.'],
  [{ low: months(() => 5), high: months(() => 5) }, 'Month 1 runs from 5 to 5.'],
])('half a month or an empty range is refused', (limits, detail) =>
  expect(climatology.refuse(limits, false)).toMatchObject({ detail }),
);

/** Weather of a mid-latitude place: a year, a day and a wandering of days. °C */
function weather(seed: number, years: number) {
  const gauss = normal(uniform(seed));
  let wander = 0;
  return Array.from({ length: Math.round(years * 365.25) }, (_, i) => {
    wander = 0.75 * wander + 2 * gauss();
    const middle = 9 - 8 * Math.cos((2 * Math.PI * i) / 365.25) + wander;
    return {
      at: at('2019-01-01T00:00') + i * day,
      min: middle - 3 - Math.abs(gauss()),
      max: middle + 3 + Math.abs(gauss()),
    };
  });
}

test('learned from three years: few good days of the next year are called suspect, most shifts by 8 °C are seen', () => {
  let [good, wrong, found] = [0, 0, 0];
  for (let seed = 1; seed <= 40; seed++) {
    const all = weather(seed, 4);
    const learned = monthlyRanges(all.slice(0, 1096), quantityOf('airTemperature').range)!;
    const outside = (d: (typeof all)[number], by: number) => {
      const m = new Date(d.at * 1000).getUTCMonth();
      return d.min + by < learned.low[m]! || d.max + by > learned.high[m]!;
    };
    const next = all.slice(1096, 1461);
    good += next.length;
    wrong += next.filter((d) => outside(d, 0)).length;
    // A sensor that begins to read 8 °C too high: seen on the first day out of range, within ten days?
    const begins = 180 + seed;
    found += next.slice(begins, begins + 10).some((d) => outside(d, 8)) ? 1 : 0;
  }
  // 0.7 % of the good days, two or three a year; 34 of the forty shifts within ten days.
  expect(wrong / good).toBeLessThan(0.01);
  expect(found).toBeGreaterThanOrEqual(34);
});

test('a year alone, or months with few days, teach nothing; directions have no such range', () => {
  const { learn } = climatology;
  const { range: span } = quantityOf('airTemperature');
  expect(monthlyRanges(weather(1, 1), span)).toBeNull();
  expect(
    monthlyRanges(
      weather(1, 3).filter((_, i) => i % 2 === 0),
      span,
    ),
  ).toBeNull();
  expect(learn!.from(weather(1, 3), quantityOf('windDirection'))).toBeNull();
});

test('four years of daily weather nobody here wrote (vega-datasets, BSD-3): winter is not summer', () => {
  const rows = readFileSync('node_modules/vega-datasets/data/seattle-weather.csv', 'utf8')
    .trim()
    .split('\n')
    .slice(1);
  const days = rows.map((row) => {
    const [date, , max, min] = row.split(',');
    return { at: at(`${date!.replaceAll('/', '-')}T00:00`), min: Number(min), max: Number(max) };
  });
  const learned = monthlyRanges(days, quantityOf('airTemperature').range)!;
  expect(learned.low.every((l) => l !== null)).toBe(true);
  expect(learned.high[0]!).toBeLessThan(learned.high[6]!);
  // 35 °C in January is a finding there, in July it is not.
  expect([learned.high[0]! < 35, learned.high[6]! >= 35]).toEqual([true, true]);
});
