import fc from 'fast-check';
import { pressureAt } from './seaLevel';

// ISO 2533 (from memory): the standard atmosphere.
test.each([
  [0, 1013.25],
  [500, 954.61],
  [1000, 898.75],
  [2000, 794.95],
  [3000, 701.08],
])('at %d m the standard atmosphere has %d hPa', (elevation, hPa) =>
  expect(pressureAt(1013.25, elevation, null)).toBeCloseTo(hPa, 1),
);

test('with the temperature the standard atmosphere has there, both practices say the same', () => {
  for (const h of [0, 300, 1000, 1500])
    expect(pressureAt(1013.25, h, 15 - 0.0065 * h)).toBeCloseTo(pressureAt(1013.25, h, null), 1);
});

test('on a cold day at 300 m they lie 3 hPa apart: a report reduced one way is not one reduced the other', () => {
  const apart = pressureAt(1020, 300, null) - pressureAt(1020, 300, -10);
  expect(apart).toBeGreaterThan(2.7);
  expect(apart).toBeLessThan(3.3);
});

test('near the sea 8 m are about 1 hPa', () =>
  expect(pressureAt(1013.25, 0, null) - pressureAt(1013.25, 8.3, null)).toBeCloseTo(1, 1));

test('less with every metre, more with every hectopascal of the report; warm air weighs less', () =>
  fc.assert(
    fc.property(
      fc.double({ min: 870, max: 1080, noNaN: true }),
      fc.double({ min: 0, max: 4000, noNaN: true }),
      fc.double({ min: -40, max: 40, noNaN: true }),
      (report, h, t) => {
        expect(pressureAt(report, h + 10, null)).toBeLessThan(pressureAt(report, h, null));
        expect(pressureAt(report + 1, h, t)).toBeGreaterThan(pressureAt(report, h, t));
        expect(pressureAt(report, h + 100, t + 5)).toBeGreaterThan(pressureAt(report, h + 100, t));
      },
    ),
  ));

test.each([
  ['a report in pascal', [101_325, 10, null], /reduced to sea level 101325/],
  ['an elevation that is none', [1013, NaN, null], /elevation NaN/],
  ['a temperature in kelvin', [1013, 10, 288], /air temperature 288/],
] as const)('%s is refused', (_, [p, h, t], says) => expect(() => pressureAt(p, h, t)).toThrow(says));
