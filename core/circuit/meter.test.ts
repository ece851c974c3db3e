import { meterLimit, meterReading, rangeFor, type MeterRange } from './meter';

const ohms = (upTo: number, count: number, unit: MeterRange['unit']): MeterRange => ({
  does: 'ohms',
  upTo,
  count,
  ofReading: 0.008,
  counts: 2,
  unit,
});
const r200 = ohms(200, 0.1, 1);
const k2 = ohms(2000, 1, 1e3);
const k20 = ohms(20e3, 10, 1e3);
const M2 = ohms(2e6, 1e3, 1e6);

test('the limit is a share of the reading and counts of its range', () => {
  // A maker's "±(0.8 % + 2 counts)": common practice, no source.
  expect(meterLimit(k2, 1000)).toBeCloseTo(10, 12);
  expect(meterLimit(k20, 10_000)).toBeCloseTo(100, 12);
  expect(meterLimit(r200, 0)).toBeCloseTo(0.2, 12);
  expect(() => meterLimit(k2, 2001)).toThrow('beyond the range of 2000');
});

test('the lowest range that shows the whole span is chosen; none where none does', () => {
  const dial = [M2, k2, r200, k20];
  expect(rangeFor(dial, 'ohms', [100, 139])).toBe(r200);
  expect(rangeFor(dial, 'ohms', [100, 201])).toBe(k2);
  expect(rangeFor(dial, 'ohms', [3500, 38_000])).toBe(M2);
  expect(rangeFor(dial, 'ohms', [1, 3e6])).toBeNull();
  expect(rangeFor(dial, 'volts-dc', [0, 1])).toBeNull();
});

test('a reading is taken as the display shows it', () => {
  for (const [text, range, value] of [
    ['8.72 k', k20, 8720],
    ['8,72k', k20, 8720],
    ['214k', M2, 214_000],
    ['1.08', k2, 1080],
    ['.998', k2, 998],
    ['0.214 M', M2, 214_000],
    ['0.214', M2, 214_000],
    ['109.7', r200, 109.7],
    ['109.7 Ω', r200, 109.7],
    ['-0.3', r200, -0.3],
    ['−0.3', r200, -0.3],
    ['12', r200, 12],
  ] as const)
    expect([text, meterReading(text, range)]).toEqual([
      text,
      { kind: 'value', value: expect.closeTo(value, 9) },
    ]);
  for (const text of ['OL', 'ol', '0.L', '0L', '.OL', 'O.L.', '∞'])
    expect([text, meterReading(text, k2)]).toEqual([text, { kind: 'over' }]);
  for (const text of ['', 'abc', '1.2.3', '12 kk', '--3', 'k', '.'])
    expect([text, meterReading(text, k2)]).toEqual([text, null]);
});

test('a current counts in mA, a small voltage in mV where its range does', () => {
  const mA: MeterRange = { does: 'milliamps', upTo: 20, count: 0.01, ofReading: 0.01, counts: 3, unit: 1 };
  expect(meterReading('12.80', mA)).toEqual({ kind: 'value', value: 12.8 });
  expect(meterReading('12.80 mA', mA)).toEqual({ kind: 'value', value: 12.8 });
  const mV: MeterRange = {
    does: 'volts-dc',
    upTo: 0.2,
    count: 1e-4,
    ofReading: 0.005,
    counts: 1,
    unit: 1e-3,
  };
  expect(meterReading('17.5', mV)).toEqual({ kind: 'value', value: expect.closeTo(0.0175, 12) });
});

test('what the range cannot show is asked, with what it may mean', () => {
  // 1080 on a dial that stands on kΩ: 1.08 MΩ is beyond it.
  expect(meterReading('1080', k2)).toEqual({ kind: 'ask', values: [1080] });
  // 1.08 on 200 Ω in steps of 0.1: somebody reads kΩ off a dial that has moved.
  expect(meterReading('1.08', r200)).toEqual({ kind: 'ask', values: [expect.closeTo(1.08, 9)] });
  expect(meterReading('9.460', ohms(40e3, 10, 1))).toEqual({
    kind: 'ask',
    values: [expect.closeTo(9460, 6)],
  });
  // With its unit said there is one meaning, which the range still cannot have shown.
  expect(meterReading('8.72 k', k2)).toEqual({ kind: 'ask', values: [expect.closeTo(8720, 9)] });
});
