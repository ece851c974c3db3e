import fc from 'fast-check';
import { compareWithRecord, recordAt, stageTolerance, type GaugeInput } from './againstRecord';

const minute = 60_000;

describe('the record at an instant', () => {
  test('lies straight between the values beside it', () => {
    expect(recordAt([0, 2.1], [10 * minute, 2.4], 200_000, 25 * minute)).toMatchObject({
      value: expect.closeTo(2.2, 9) as number,
      slope: expect.closeTo(0.0005, 9) as number,
    });
    expect(recordAt([5, 2.1], [5, 2.1], 5, minute)).toMatchObject({ value: 2.1, slope: 0 });
  });
  test('is none in a gap, before it begins and after it ends', () => {
    expect(recordAt([0, 2.1], [60 * minute, 2.4], minute, 25 * minute)).toBeNull();
    expect(recordAt(null, [minute, 2], 0, minute)).toBeNull();
    expect(recordAt([0, 2], null, minute, minute)).toBeNull();
    expect(() => recordAt([0, 2], [minute, 2], Number.NaN, minute)).toThrow(RangeError);
    expect(() => recordAt([0, 2], [minute, 2], 1, 0)).toThrow(RangeError);
  });
  test('never lies outside the two', () => {
    const v = fc.double({ min: -10, max: 10, noNaN: true });
    fc.assert(
      fc.property(v, v, fc.integer({ min: 0, max: 600 }), (a, b, s) => {
        const { value } = recordAt([0, a], [600_000, b], s * 1000, 700_000)!;
        return value >= Math.min(a, b) - 1e-9 && value <= Math.max(a, b) + 1e-9;
      }),
    );
  });
});

test('stage: 0.01 ft or 0.2 % of the effective stage, whichever is more (USGS TM 3-A7, from memory)', () => {
  expect(stageTolerance(1, null)).toBeCloseTo(0.003048, 6);
  expect(stageTolerance(6, null)).toBeCloseTo(0.012, 9);
  // 6 m above the station's zero, 2 m of it water over the bed.
  expect(stageTolerance(6, 4)).toBeCloseTo(0.004, 9);
  expect(stageTolerance(-3, null)).toBeCloseTo(0.003048, 6);
});

describe('a gauge beside the record', () => {
  const input: GaugeInput = {
    level: 2.198,
    accuracy: 0.005,
    timeAccuracy: 1,
    record: { value: 2.204, slope: 0, between: [0, 1] },
    sensorTolerance: 0.01,
    sensorResolution: 0.001,
    zeroFlow: null,
    guard: 0.05,
    school: 'sum',
  };
  test('inside what both may be off it is left alone, and the sum is said', () => {
    expect(compareWithRecord(input)).toMatchObject({
      difference: 0.006,
      sum: '2.204 − 2.198 = +0.006 m',
      limit: expect.closeTo(0.015, 9) as number,
      verdict: { kind: 'agree' },
    });
  });
  test('outside it is to be put right; beyond the guard it is read again', () => {
    const off = (value: number) =>
      compareWithRecord({ ...input, record: { ...input.record, value } }).verdict;
    expect(off(2.233)).toEqual({ kind: 'adjust', by: -0.035 });
    expect(off(2.163)).toEqual({ kind: 'adjust', by: 0.035 });
    expect(off(2.3)).toMatchObject({ kind: 'beyond-guard' });
  });
  test('while the level goes, what the time is known to is level, too', () => {
    const tide = { ...input, record: { value: 2.233, slope: 0.0008, between: [0, 1] as const } };
    expect(compareWithRecord({ ...tide, timeAccuracy: 30 }).verdict.kind).toBe('agree');
    expect(compareWithRecord({ ...tide, timeAccuracy: 1 }).verdict.kind).toBe('adjust');
  });
  test('a deep river has a wider stage tolerance than its sensor', () => {
    const { budget } = compareWithRecord({ ...input, level: 12, record: { ...input.record, value: 12 } });
    expect(budget.sum.parts[0]!.limit).toBeCloseTo(0.024, 9);
  });
  test('tolerances that are none are refused', () => {
    expect(() => compareWithRecord({ ...input, accuracy: 0 })).toThrow(RangeError);
    expect(() => compareWithRecord({ ...input, level: Number.NaN })).toThrow(RangeError);
    expect(() => compareWithRecord({ ...input, timeAccuracy: -1 })).toThrow(RangeError);
  });
});
