import fc from 'fast-check';
import { accuracyText, toleranceAt } from './accuracy';
import { convert, invert, refuseConversion, type ConversionStep } from './conversion';
import { platinumTolerance, resistanceAt, temperatureAt } from './platinum';
import { steinhartHartThrough } from './thermistor';

describe('platinum, against the table of IEC 60751', () => {
  const table: [number, number][] = [
    [-200, 18.52],
    [-100, 60.26],
    [-50, 80.31],
    [0, 100],
    [25, 109.73],
    [50, 119.4],
    [100, 138.51],
    [200, 175.86],
    [400, 247.09],
  ];
  test.each(table)('%d °C is %d Ω, both ways', (t, ohms) => {
    expect(resistanceAt(t, 100)).toBeCloseTo(ohms, 2);
    // A hundredth of an ohm is a fortieth of a degree.
    expect(Math.abs(temperatureAt(ohms, 100) - t)).toBeLessThan(0.02);
  });
  test('there and back over all of it, a Pt1000 too', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 850, noNaN: true }),
        fc.constantFrom(100, 500, 1000),
        (t, r0) => {
          expect(temperatureAt(resistanceAt(t, r0), r0)).toBeCloseTo(t, 8);
        },
      ),
    );
  });
  test('tolerances of its classes, and nothing beyond its range', () => {
    // IEC 60751: class A ±(0.15 + 0.002·|t|), class B ±(0.30 + 0.005·|t|).
    expect(platinumTolerance('A', -100)).toBeCloseTo(0.35, 12);
    expect(platinumTolerance('B', 100)).toBeCloseTo(0.8, 12);
    expect(resistanceAt(851, 100)).toBeNaN();
    expect(temperatureAt(18, 100)).toBeNaN();
  });
  test('two ohms of lead are 5 °C on a Pt100 and half a degree on a Pt1000', () => {
    expect(temperatureAt(102, 100)).toBeCloseTo(5.12, 2);
    expect(temperatureAt(resistanceAt(25, 100) + 2, 100) - 25).toBeCloseTo(5.16, 2);
    expect(temperatureAt(1002, 1000)).toBeCloseTo(0.512, 2);
  });
});

describe('thermistors', () => {
  const through = steinhartHartThrough([
    [0, 32_650],
    [25, 10_000],
    [70, 1752],
  ]);
  const curve: ConversionStep = { step: 'steinhart-hart', ...through };
  test('the curve through three points meets the table of a common 10 kΩ element (memory)', () => {
    expect(Math.abs(convert([curve], 19_900) - 10)).toBeLessThan(0.05);
    expect(Math.abs(convert([curve], 5327) - 39.99)).toBeLessThan(0.05);
  });
  test('9.46 kΩ of it is about 26 °C; 349 kΩ through a fixed 249 kΩ leaves 100 kΩ: 25 °C (common practice, no source)', () => {
    expect(Math.abs(convert([curve], 9460) - 26)).toBeLessThan(0.5);
    const through249: ConversionStep[] = [
      { step: 'linear', gain: 1, offset: -249_000 },
      { step: 'beta', at25: 100_000, beta: 4000 },
    ];
    expect(convert(through249, 349_000)).toBeCloseTo(25, 9);
  });
  test('an open or a short element has no temperature', () => {
    expect(convert([curve], 0)).toBeNaN();
    expect(convert([{ step: 'half-bridge', fixed: 10_000, sensing: 'to-ground' }, curve], 1)).toBeNaN();
    expect(convert([{ step: 'half-bridge', fixed: 10_000, sensing: 'to-ground' }, curve], 0)).toBeNaN();
  });
});

test('a divider of two equal resistors is at one half, whichever arm senses', () => {
  for (const sensing of ['to-ground', 'to-excitation'] as const)
    expect(convert([{ step: 'half-bridge', fixed: 10_000, sensing }], 0.5)).toBeCloseTo(10_000, 9);
});
test('12.8 mA on 0–5 m is 2.75 m, over a shunt of 100 Ω 1.28 V', () => {
  const loop: ConversionStep[] = [
    { step: 'shunt', ohms: 100 },
    { step: 'linear', gain: 5 / 16, offset: (-5 * 4) / 16 },
  ];
  expect(convert(loop, 1.28)).toBeCloseTo(2.75, 12);
  expect(invert(loop, 2.75)).toBeCloseTo(1.28, 12);
});
test('soil moisture by Topp et al. (1980) from the dielectric number', () => {
  const topp: ConversionStep[] = [
    { step: 'polynomial', coefficients: [-5.3e-2, 2.92e-2, -5.5e-4, 4.3e-6], over: [1, 60] },
  ];
  expect(convert(topp, 5)).toBeCloseTo(0.08, 3);
  expect(convert(topp, 20)).toBeCloseTo(0.345, 3);
  expect(convert(topp, 40)).toBeCloseTo(0.51, 3);
  expect(invert(topp, convert(topp, 20))).toBeCloseTo(20, 9);
  expect(convert(topp, 90)).toBeNaN();
});

test('a table of a thermistor every 5 °C is read by the logarithm to 0.02 °C, straight it is 0.2 °C out', () => {
  // Beta is straight in ln R over 1/T; over so few degrees it is nearly straight in T, too.
  const curve: ConversionStep = { step: 'beta', at25: 10_000, beta: 3950 };
  const y = Array.from({ length: 11 }, (_, i) => 50 - 5 * i);
  const x = y.map((t) => invert([curve], t));
  const off = (log: boolean) =>
    Math.max(
      ...Array.from({ length: 99 }, (_, i) => {
        const ohms = x[0]! + ((x.at(-1)! - x[0]!) * (i + 1)) / 100;
        return Math.abs(convert([{ step: 'table', x, y, log }], ohms) - convert([curve], ohms));
      }),
    );
  expect(off(true)).toBeLessThan(0.03);
  expect(off(false)).toBeGreaterThan(0.1);
  expect(convert([{ step: 'table', x, y, log: true }], x[0]! * 0.99)).toBeNaN();
});

test('every step leads back to where it came from', () => {
  const within = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const way = fc.oneof(
    fc.record({ step: fc.constant('linear' as const), gain: within(0.001, 100), offset: within(-100, 100) }),
    fc.record({ step: fc.constant('divide' as const), by: within(0.01, 10_000) }),
    fc.constant<ConversionStep>({ step: 'table', x: [0, 10, 40, 1000], y: [500, 20, 3, -1] }),
    fc.constant<ConversionStep>({
      step: 'table',
      x: [10, 40, 1000],
      y: [20, 3, -1],
      log: true,
    }),
    fc.constant<ConversionStep>({ step: 'beta', at25: 10_000, beta: 3900 }),
    fc.constant<ConversionStep>({ step: 'callendar-van-dusen', at0: 500 }),
    fc.constant<ConversionStep>({ step: 'half-bridge', fixed: 5000, sensing: 'to-excitation' }),
    fc.constant<ConversionStep>({ step: 'shunt', ohms: 120 }),
  );
  fc.assert(
    fc.property(way, within(0.05, 0.95), (step, share) => {
      // Somewhere within what the step takes.
      const raw = { table: 1000, beta: 40_000, 'callendar-van-dusen': 1000 }[step.step as string] ?? 1;
      const x = raw * share + (step.step === 'callendar-van-dusen' ? 150 : 0);
      const y = convert([step], x);
      expect(invert([step], y)).toBeCloseTo(x, 6);
    }),
  );
});
test.each<[string, ConversionStep, RegExp]>([
  ['a gain of 0', { step: 'linear', gain: 0, offset: 1 }, /gain must not be 0/],
  ['a divisor below 0', { step: 'divide', by: -10 }, /divisor must be above 0/],
  ['a table that goes back', { step: 'table', x: [0, 2, 1], y: [1, 2, 3] }, /x must rise/],
  ['a table with a hump', { step: 'table', x: [0, 1, 2], y: [1, 3, 2] }, /y must rise or fall/],
  ['the logarithm of nothing', { step: 'table', x: [0, 1], y: [1, 2], log: true }, /above 0/],
  ['a table of one point', { step: 'table', x: [0], y: [1] }, /two points or more/],
  [
    'a polynomial with a hump',
    { step: 'polynomial', coefficients: [0, 0, 1], over: [-1, 1] },
    /rise or fall/,
  ],
  [
    'a polynomial over nothing',
    { step: 'polynomial', coefficients: [0, 1], over: [1, 1] },
    /range must rise/,
  ],
  ['no resistance', { step: 'callendar-van-dusen', at0: 0 }, /must be above 0/],
])('%s is refused in words', (_name, step, why) => {
  expect(refuseConversion([{ step: 'divide', by: 10 }, step])).toMatch(why);
  expect(refuseConversion([{ step: 'divide', by: 10 }, step])).toMatch(/^step 2 /);
});

test('an accuracy adds its parts, and says them', () => {
  const accuracy = { absolute: 0.003, ofReading: 0.001, ofRange: 0.0005 };
  expect(toleranceAt(accuracy, -2, [0, 10])).toBeCloseTo(0.003 + 0.002 + 0.005, 12);
  expect(accuracyText(accuracy, 'm')).toBe('±(0.003 m + 0.1 % of reading + 0.05 % of range)');
  expect(accuracyText({ absolute: 2, ofReading: 0, ofRange: 0 }, '%RH')).toBe('±2 %RH');
  expect(() => toleranceAt(accuracy, 1, [5, 5])).toThrow(/does not rise/);
});
