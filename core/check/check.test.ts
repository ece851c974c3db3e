import fc from 'fast-check';
import { accuracyRatioText, toleranceBudget, type BudgetInput } from './budget';
import { compareHumidity, temperatureShare } from './humidityComparison';
import { judgePlausible } from './plausible';
import {
  combine,
  coverageFactor,
  mean,
  normalizedError,
  readTo,
  rectangular,
  repeats,
  standardDeviation,
} from './uncertainty';
import { judge, judgeConvergence, limitOf, type VerdictInput } from './verdict';

describe('uncertainty, JCGM 100:2008 (GUM)', () => {
  test('the example ±0.5 and ±0.3, both read to 0.1: u = 0.339, U = 0.68', () => {
    const c = combine([
      rectangular('sensor', 0.5),
      rectangular('reference', 0.3),
      readTo('sensor', 0.1),
      readTo('reference', 0.1),
    ]);
    expect(c.u).toBeCloseTo(0.339, 3);
    expect(c.U).toBeCloseTo(0.68, 2);
    expect(c.dof).toBe(Infinity);
  });
  test('three repeats that dominate: two degrees of freedom, k = 4.3', () => {
    const c = combine([repeats('repeats', [20.0, 21.0, 22.0])!, readTo('resolution', 0.001)]);
    expect(c.dof).toBeCloseTo(2, 3);
    expect(coverageFactor(2)).toBeCloseTo(4.303, 3);
    expect(c.k).toBeCloseTo(4.3, 1);
  });
  // GUM table G.2, column 95 %: t for 1, 3, 5, 10, 20, 50 degrees of freedom.
  test.each([
    [1, 12.71],
    [3, 3.18],
    [5, 2.57],
    [10, 2.23],
    [20, 2.09],
    [50, 2.01],
  ])('Student’s t at %d degrees of freedom is %d', (dof, k) => {
    expect(coverageFactor(dof)).toBeCloseTo(k, 2);
  });
  test('many degrees of freedom: the conventional 2.00 (GUM G.6.6)', () => {
    expect(coverageFactor(Infinity)).toBe(2);
    expect(coverageFactor(500)).toBe(2);
    expect(() => coverageFactor(0.5)).toThrow(RangeError);
  });
  test('mean, standard deviation and its mean (GUM 4.2)', () => {
    expect(mean([1, 2, 3, 4])).toBe(2.5);
    expect(standardDeviation([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(2.138, 3);
    expect(repeats('r', [1])).toBeNull();
    expect(repeats('r', [1, 3])!.u).toBeCloseTo(1, 10);
  });
  test('Eₙ (ISO 13528): 2 apart with U 1.5 and 2.0 is 0.8', () => {
    expect(normalizedError(12, 10, 1.5, 2)).toBeCloseTo(0.8, 10);
    expect(normalizedError(10, 12, 1.5, 2)).toBeCloseTo(-0.8, 10);
    expect(() => normalizedError(1, 1, 0, 0)).toThrow(RangeError);
  });
});

const budgetInput = (differences: number[], more: Partial<BudgetInput> = {}): BudgetInput => ({
  differences,
  sensorTolerance: 0.2,
  sensorResolution: 0.01,
  referenceTolerance: 0.2,
  referenceResolution: 0.1,
  ...more,
});

describe('tolerance budget in both schools', () => {
  test('two instruments of ±0.2 may differ by 0.4 and both be right (common practice, no source)', () => {
    expect(toleranceBudget(budgetInput([0.4])).sum.limit).toBeCloseTo(0.4, 12);
  });
  test('further limits enter both schools', () => {
    const plain = toleranceBudget(budgetInput([0.1, 0.1, 0.1]));
    const more = toleranceBudget(
      budgetInput([0.1, 0.1, 0.1], { further: [{ name: 'thermometer', limit: 0.5 }] }),
    );
    expect(more.sum.limit - plain.sum.limit).toBeCloseTo(0.5, 12);
    expect(more.gum.U).toBeGreaterThan(plain.gum.U);
  });
  test('accuracy ratio is said in words', () => {
    expect(toleranceBudget(budgetInput([0])).accuracyRatio).toBe(1);
    expect(accuracyRatioText(1)).toMatch(/own class/);
    expect(accuracyRatioText(4)).toMatch(/can correct/);
    expect(accuracyRatioText(2)).toMatch(/with care/);
    expect(accuracyRatioText(0.5)).toMatch(/worse/);
  });
  test('nothing to judge, or tolerances that are none, are refused', () => {
    expect(() => toleranceBudget(budgetInput([]))).toThrow(RangeError);
    expect(() => toleranceBudget(budgetInput([Number.NaN]))).toThrow(RangeError);
    expect(() => toleranceBudget(budgetInput([1], { sensorTolerance: 0 }))).toThrow(/sensor tolerance/);
    expect(() => toleranceBudget(budgetInput([1], { referenceTolerance: -1 }))).toThrow(
      /reference tolerance/,
    );
  });
  test('property: scaling all units scales limits and leaves Eₙ alone', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 2, maxLength: 6 }),
        fc.double({ min: 0.1, max: 50, noNaN: true }),
        (ds, f) => {
          const a = toleranceBudget(budgetInput(ds));
          const b = toleranceBudget({
            differences: ds.map((d) => d * f),
            sensorTolerance: 0.2 * f,
            sensorResolution: 0.01 * f,
            referenceTolerance: 0.2 * f,
            referenceResolution: 0.1 * f,
          });
          expect(b.sum.limit / a.sum.limit).toBeCloseTo(f, 8);
          expect(b.gum.U / a.gum.U).toBeCloseTo(f, 8);
          expect(b.en).toBeCloseTo(a.en, 8);
        },
      ),
    );
  });
});

describe('verdict', () => {
  const verdict = (differences: number[], more: Partial<VerdictInput> = {}) =>
    judge({
      budget: toleranceBudget(budgetInput(differences)),
      school: 'sum',
      guard: 2,
      plannedRepeats: 3,
      differences,
      settled: differences.map(() => true),
      decimals: 2,
      ...more,
    });
  test('inside the tolerance: leave it alone, also exactly on the line', () => {
    expect(verdict([0.3, 0.31, 0.29])).toEqual({ kind: 'agree' });
    expect(verdict([0.4, 0.4, 0.4])).toEqual({ kind: 'agree' });
  });
  test('well outside: adjust by the difference with its sign turned', () => {
    expect(verdict([0.8, 0.82, 0.78])).toEqual({ kind: 'adjust', by: -0.8 });
    expect(verdict([-1.1, -1.1, -1.1])).toEqual({ kind: 'adjust', by: 1.1 });
  });
  test('beyond the guard nothing is adjusted', () => {
    expect(verdict([2.4, 2.5, 2.6])).toEqual({ kind: 'beyond-guard', guard: 2 });
  });
  test('too few, moving or scattered repeats decide nothing', () => {
    expect(verdict([0.8, 0.8])).toEqual({ kind: 'not-settled', why: 'too-few' });
    expect(verdict([0.8, 0.8, 0.8], { settled: [true, false, true] })).toEqual({
      kind: 'not-settled',
      why: 'moving',
    });
    expect(verdict([0.5, 1.0, 0.7])).toEqual({ kind: 'not-settled', why: 'scattered' });
  });
  test('the GUM school draws its own line', () => {
    const budget = toleranceBudget(budgetInput([0.35, 0.36, 0.34]));
    expect(limitOf(budget, 'gum')).toBeLessThan(limitOf(budget, 'sum'));
    expect(verdict([0.35, 0.36, 0.34], { school: 'gum' }).kind).toBe('adjust');
    expect(verdict([0.35, 0.36, 0.34], { school: 'sum' }).kind).toBe('agree');
  });
  test('property: what is proposed would have brought the mean difference to nothing', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.9, max: 1.9, noNaN: true }), (d) => {
        const v = verdict([d, d, d]);
        if (v.kind === 'adjust') expect(Math.abs(d + v.by)).toBeLessThanOrEqual(0.00501);
        else expect(Math.abs(d)).toBeLessThanOrEqual(0.4 + 1e-9);
      }),
    );
  });
  test('convergence: holds, once more, or one of the two is faulty (common practice, no source)', () => {
    expect(judgeConvergence(1, 0.1, 0.4, 1)).toEqual({ kind: 'converged' });
    expect(judgeConvergence(3, 0.9, 0.4, 1)).toEqual({ kind: 'try-again', remaining: 0.9 });
    expect(judgeConvergence(1, 0.8, 0.4, 1)).toEqual({ kind: 'does-not-converge', remaining: 0.8 });
    expect(judgeConvergence(0.9, 0.45, 0.4, 2)).toEqual({ kind: 'does-not-converge', remaining: 0.45 });
  });
});

test('the error found is known without what the sensor may be off itself', () => {
  const { found, gum } = toleranceBudget({
    differences: [0.4, 0.4, 0.4],
    sensorTolerance: 0.5,
    sensorResolution: 0.1,
    referenceTolerance: 0.3,
    referenceResolution: 0.1,
  });
  // (0.3/√3)² + 2 · (0.1/√12)² (JCGM 100:2008).
  expect(found.u).toBeCloseTo(Math.sqrt(0.03 + 2 * (0.01 / 12)), 9);
  expect(Math.hypot(found.u, 0.5 / Math.sqrt(3))).toBeCloseTo(gum.u, 9);
});

describe('humidity compared at one temperature', () => {
  test('22 °C/56 % against 24 °C/54 %: 2 % apart to the eye, 4.4 % apart in air; dew points 12.8 and 14.1 °C', () => {
    const c = compareHumidity(
      {
        sensorHumidity: 54,
        sensorTemperature: 24,
        referenceHumidity: 56,
        referenceTemperature: 22,
      },
      { sensor: 0.3, reference: 0.2 },
    );
    expect(c.method).toBe('brought');
    expect(c.referenceAtSensor).toBeCloseTo(49.6, 1);
    expect(c.difference).toBeCloseTo(4.4, 1);
    expect(c.referenceDewPoint).toBeCloseTo(12.8, 1);
    expect(c.sensorDewPoint).toBeCloseTo(14.1, 1);
  });
  test('one temperature: the plain difference', () => {
    expect(
      compareHumidity(
        {
          sensorHumidity: 52,
          sensorTemperature: 20,
          referenceHumidity: 50,
          referenceTemperature: 20,
        },
        null,
      ).difference,
    ).toBeCloseTo(2, 10);
  });
  test('in one air as far as both thermometers can tell, humidities are compared as they read', () => {
    const pair = {
      sensorHumidity: 52,
      sensorTemperature: 20.3,
      referenceHumidity: 50,
      referenceTemperature: 20,
    };
    expect(compareHumidity(pair, { sensor: 0.3, reference: 0.2 })).toMatchObject({
      method: 'direct',
      difference: 2,
    });
    expect(compareHumidity(pair, { sensor: 0.1, reference: 0.1 }).method).toBe('brought');
  });
  test('a thermometer wrong by 0.3 °C moves 55 %RH at 15 °C by about 1 %RH', () => {
    expect(temperatureShare(15, 55, 0.3)).toBeCloseTo(1.06, 1);
  });
});

describe('is the typed value plausible?', () => {
  const air = { quantity: 'airTemperature', unit: '°C', sensor: 21.2, range: [-30, 60], far: 4 } as const;
  test('a good value passes', () =>
    expect(judgePlausible({ ...air, value: 21.4 })).toEqual({ kind: 'plausible' }));
  test('21.4 typed as 214: refused, and the slipped point named', () => {
    expect(judgePlausible({ ...air, value: 214 })).toEqual({
      kind: 'outside-range',
      low: -30,
      high: 60,
      meant: { why: 'decimal-point', value: 21.4, unit: '°C' },
    });
  });
  test('70.5 read off in °F: the unit is named', () => {
    expect(judgePlausible({ ...air, value: 70.5 })).toMatchObject({
      kind: 'outside-range',
      meant: { why: 'unit', value: 70.5, unit: '°F' },
    });
  });
  test('2.14 lies within the range but far from the sensor: asked about', () => {
    expect(judgePlausible({ ...air, value: 2.14 })).toMatchObject({
      kind: 'far-off',
      from: 21.2,
      meant: { value: 21.4 },
    });
  });
  test.each([Number.NaN, Infinity, -Infinity])('%d is not a number off a display', (value) => {
    expect(judgePlausible({ ...air, value })).toEqual({ kind: 'not-a-number' });
  });
  test('1e308 is outside any range, with nothing meant', () => {
    expect(judgePlausible({ ...air, value: 1e308 })).toMatchObject({ kind: 'outside-range', meant: null });
  });
  test('without a sensor value only the range speaks', () => {
    expect(judgePlausible({ ...air, value: 2.14, sensor: null })).toEqual({ kind: 'plausible' });
    expect(
      judgePlausible({ quantity: 'humidity', unit: '%RH', value: 120, sensor: null, far: 8 }),
    ).toMatchObject({ kind: 'outside-range', high: 105 });
  });
});
