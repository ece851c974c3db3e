import fc from 'fast-check';
import { fromDatum, toDatum } from './datum';
import { waterDensity } from './density';
import { metresOf } from './metres';
import { pressureDepth } from './pressureDepth';
import { writtenSum } from './writtenSum';

test.each([
  [0, 999.843],
  [4, 999.975],
  [20, 998.207],
  [25, 997.047],
])('fresh water of %d °C: %d kg/m³ (Tanaka et al., 2001)', (t, density) => {
  expect(waterDensity(t)).toBeCloseTo(density, 3);
});
test.each([
  [35, 5, 1027.67547],
  [35, 25, 1023.34306],
])('sea water of salinity %d at %d °C: %d kg/m³ (UNESCO, 1983, from memory)', (s, t, density) => {
  // Fresh water by Tanaka and not by EOS-80: a few thousandths apart.
  expect(Math.abs(waterDensity(t, s) - density)).toBeLessThan(0.01);
});
test('salt makes water denser at every temperature', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 40, noNaN: true }),
      fc.double({ min: 0, max: 41, noNaN: true }),
      (t, s) => waterDensity(t, s + 1) > waterDensity(t, s),
    ),
  );
});
test('densities outside their sources are refused', () => {
  expect(() => waterDensity(-1)).toThrow(RangeError);
  expect(() => waterDensity(10, 43)).toThrow(RangeError);
  expect(() => waterDensity(Number.NaN)).toThrow(RangeError);
});

test('30 kPa of fresh water at 20 °C is 3.0646 m (hydrostatics, g = 9.80665 m/s²)', () => {
  const vented = { pressure: 300, air: null, temperature: 20, salinity: 0 };
  expect(pressureDepth(vented)).toBeCloseTo(3.0646, 4);
  // Unvented, the air is taken off first.
  expect(pressureDepth({ ...vented, pressure: 1300, air: 1000 })).toBeCloseTo(3.0646, 4);
  // 10 hPa of air that nobody took off are a decimetre of water.
  expect(pressureDepth({ ...vented, pressure: 310 }) - 3.0646).toBeCloseTo(0.1022, 3);
  expect(() => pressureDepth(vented, 1.6)).toThrow(RangeError);
  expect(() => pressureDepth({ ...vented, air: Number.NaN })).toThrow(RangeError);
});

test('a datum and back is where it was', () => {
  const tenths = fc.integer({ min: -90_000_000, max: 90_000_000 }).map((n) => n / 10_000);
  fc.assert(
    fc.property(tenths, tenths, (elevation, zero) => {
      const other = { name: 'other', zero };
      expect(fromDatum(toDatum(elevation, other), other)).toBeCloseTo(elevation, 4);
    }),
  );
});
test('through a third datum is the same as straight', () => {
  const [a, b] = [
    { name: 'a', zero: 12.34 },
    { name: 'b', zero: -3.415 },
  ];
  expect(toDatum(fromDatum(20, a), b)).toBe(4.245);
});

test.each([
  ['3.415', 3.415],
  ['3,415', 3.415],
  ['341.5 cm', 3.415],
  ['3415mm', 3.415],
  ['11.2 ft', 3.4138],
  ['−0.2', -0.2],
  ['.5', 0.5],
])('"%s" is %d m', (text, metres) => {
  expect(metresOf(text)).toBeCloseTo(metres, 4);
});
test.each(['', 'm', '-', '3.4.1', '3 4', 'three', '12 miles'])('"%s" is no length', (text) => {
  expect(metresOf(text)).toBeNaN();
});

test('a written sum comes to what it says', () => {
  expect(writtenSum('12.340 − 3.415')?.result).toBe(8.925);
  expect(writtenSum('12,340-3,415 = 8,925')?.result).toBe(8.925);
  expect(writtenSum('12.340 - 3.415 + 0.012 m')).toEqual({ parts: [12.34, -3.415, 0.012], result: 8.937 });
  expect(writtenSum('8.925')?.result).toBe(8.925);
});
test.each(['', '12.340 − 3.415 = 8.935', '1 = 1 = 1', '12 * 3', 'level', '12.340 −', '1 = '])(
  '"%s" is no sum',
  (text) => {
    expect(writtenSum(text)).toBeNull();
  },
);
