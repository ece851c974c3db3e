import fc from 'fast-check';
import psychrolib from 'psychrolib';
import { derive, type InputSeries } from './derive';
import { formulaCodes, formulaOf, formulas } from './formulas';
import { oxygenAtSaturation } from './oxygen';

const series = (rows: readonly (readonly [at: number, value: number, run?: number])[]): InputSeries => ({
  times: Float64Array.from(rows, (r) => r[0]),
  values: Float64Array.from(rows, (r) => r[1]),
  runs: Int16Array.from(rows, (r) => r[2] ?? 0),
});

test.each([
  [0, 14.62],
  [5, 12.77],
  [10, 11.29],
  [15, 10.08],
  [20, 9.09],
  [25, 8.26],
  [30, 7.56],
])('oxygen at saturation, fresh water at %d °C: %d mg/L (Standard Methods 4500-O)', (t, mgL) =>
  expect(oxygenAtSaturation(t, 1013.25, 0)).toBeCloseTo(mgL, 2),
);
test('oxygen under less air and in the sea (the same table, 0.95 atm and salinity 35)', () => {
  expect(oxygenAtSaturation(20, 962.6, 0)).toBeCloseTo(8.63, 2);
  expect(oxygenAtSaturation(20, 1013.25, 35)).toBeGreaterThan(7.37);
  expect(oxygenAtSaturation(20, 1013.25, 35)).toBeLessThan(7.41);
});
test.each([
  [-1, 1000, 0, 'temperature -1'],
  [20, 100, 0, 'pressure 100'],
  [20, 1000, -1, 'salinity -1'],
  [NaN, 1000, 0, 'temperature NaN'],
])('oxygen at %d °C, %d hPa, %d g/kg is refused', (t, p, s, words) =>
  expect(() => oxygenAtSaturation(t, p, s)).toThrow(words),
);

test('dew points are those of WMO-No. 8; psychrolib (ASHRAE) within 0.1 °C', () => {
  const found = derive(
    formulaOf('dewPoint'),
    {
      temperature: series([
        [0, 20],
        [600, 30],
        [1200, 25],
      ]),
      humidity: series([
        [0, 50],
        [600, 35],
        [1200, 60],
      ]),
    },
    {},
  );
  expect(found.map((r) => Number(r.value.toFixed(2)))).toEqual([9.26, 12.87, 16.69]);
  psychrolib.SetUnitSystem(psychrolib.SI);
  expect(Math.abs(found[0]!.value - psychrolib.GetTDewPointFromRelHum(20, 0.5))).toBeLessThan(0.1);
});

describe('at the stamps all inputs have', () => {
  const mean = formulaOf('meanOfTwins');
  test('a stamp one lacks, or a value that is missing, gives none', () => {
    const one = series([
      [0, 1],
      [600, 2],
      [1200, NaN],
      [1800, 4],
    ]);
    const other = series([
      [0, 3],
      [1200, 5],
      [1800, 6],
      [2400, 7],
    ]);
    expect(derive(mean, { one, other }, {})).toEqual([
      { at: 0, run: 0, value: 2 },
      { at: 1800, run: 0, value: 5 },
    ]);
  });
  test('stamps that repeat over a clock set back are told apart by their run', () => {
    const one = series([
      [0, 1],
      [600, 2, 0],
      [600, 10, 1],
    ]);
    const other = series([
      [600, 4, 0],
      [600, 20, 1],
    ]);
    expect(derive(mean, { one, other }, {})).toEqual([
      { at: 600, run: 0, value: 3 },
      { at: 600, run: 1, value: 15 },
    ]);
  });
  test('directions on the circle; opposite ones have no mean', () => {
    const one = series([
      [0, 350],
      [600, 90],
    ]);
    const other = series([
      [0, 20],
      [600, 270],
    ]);
    const found = derive(mean, { one, other }, {}, true);
    expect(found).toHaveLength(1);
    expect(found[0]!.value).toBeCloseTo(5, 9);
  });
  test('an optional input counts when it is there, else what was set', () => {
    const inputs = { oxygen: series([[0, 9.09]]), temperature: series([[0, 20]]) };
    const set = { pressure: 1013.25, salinity: 0 };
    const formula = formulaOf('oxygenSaturation');
    expect(derive(formula, inputs, set)[0]!.value).toBeCloseTo(100, 0);
    const high = derive(formula, { ...inputs, pressure: series([[0, 962.6]]) }, set)[0]!.value;
    expect(high).toBeCloseTo((100 * 9.09) / 8.63, 0);
    expect(derive(formula, { ...inputs, pressure: series([[600, 962.6]]) }, set)).toEqual([]);
  });
  test('a level over its datum', () =>
    expect(
      derive(formulaOf('levelAboveDatum'), { level: series([[0, 1.25]]) }, { zero: 12.34 })[0]!.value,
    ).toBeCloseTo(13.59, 9));
  test('as the definition says, for any stamps', () => {
    const rows = fc
      .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 1 })), {
        selector: (r) => `${r}`,
      })
      .map((all) =>
        [...all].sort((a, b) => a[0] - b[0] || a[1] - b[1]).map(([at, run]) => [at, at + run, run] as const),
      );
    fc.assert(
      fc.property(rows, rows, (a, b) => {
        const found = derive(mean, { one: series(a), other: series(b) }, {});
        const both = a.filter(([at, , run]) => b.some((o) => o[0] === at && o[2] === run));
        expect(found.map((r) => [r.at, r.run])).toEqual(both.map(([at, , run]) => [at, run]));
      }),
    );
  });
});

test('whatever the values, a formula gives a number or none, and never throws', () => {
  const any = fc.oneof(fc.double(), fc.integer({ min: -200, max: 2000 }).map(Number));
  fc.assert(
    fc.property(fc.constantFrom(...formulaCodes), any, any, any, (code, a, b, c) => {
      const formula = formulaOf(code);
      const values = Object.fromEntries(Object.keys(formula.inputs).map((name, i) => [name, [a, b, c][i]]));
      const set = Object.fromEntries(Object.entries(formula.parameters).map(([name, p]) => [name, p.usual]));
      expect(typeof formula.of(values, set, false, { at: 0, discharge: (_, x, y) => x * y })).toBe('number');
    }),
  );
  expect(Object.keys(formulas)).toEqual(formulaCodes);
});
