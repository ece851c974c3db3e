import { comparedSum, differenceOf, onALine, unrolled } from './comparison';
import { judgePlausible } from './plausible';
import { judgeSettling } from './settling';

test('a direction is compared the shorter way round; anything else on a straight line', () => {
  expect(differenceOf('windDirection', 355, 5)).toBe(-10);
  expect(differenceOf('windDirection', 5, 355)).toBe(10);
  expect(differenceOf('airTemperature', 20.5, 20)).toBe(0.5);
});

test('a direction that swings about north is plausible and settles like any other', () => {
  const asked = { quantity: 'windDirection', value: 358, unit: '°', sensor: 4, far: 20 } as const;
  expect(judgePlausible(asked)).toEqual({ kind: 'plausible' });
  expect(judgePlausible({ ...asked, value: 180 })).toMatchObject({ kind: 'far-off' });
  const swings = Array.from({ length: 80 }, (_, i) => ({ t: i, value: (360 + 2 * Math.sin(i)) % 360 }));
  const rule = { window: 60, band: 3, resolution: 1 };
  expect(judgeSettling(swings, rule).state).not.toBe('settled');
  expect(judgeSettling(onALine('windDirection', swings), rule).state).toBe('settled');
});

test('what is missing does not break the line', () => {
  expect(unrolled('windDirection', [350, Number.NaN, 2, 10])).toEqual([350, Number.NaN, 362, 370]);
  expect(unrolled('airTemperature', [350, 2])).toEqual([350, 2]);
});

test('the sum of a direction adds up: a whole turn stands in it where it goes through north', () => {
  expect(comparedSum('windDirection', 355, 5, 0)).toBe('355 − 5 − 360 = −10');
  expect(comparedSum('windDirection', 5, 355, 0)).toBe('5 − 355 + 360 = +10');
  expect(comparedSum('windDirection', 90, 80, 0)).toBe('90 − 80 = +10');
  expect(comparedSum('airTemperature', 21.436, 21.334, 2)).toBe('21.44 − 21.33 = +0.11');
});
