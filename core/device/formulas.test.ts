import { convert } from './conversion';
import { formulas, type Formula, type Numbers } from './formulas';
import { otherFormulas, type OtherFormula } from './otherFormulas';
import { conversionSum, passedOn, quickSum } from './quickSum';

const all: readonly [string, Formula | OtherFormula][] = [
  ...(Object.entries(formulas) as [string, Formula][]),
  ...Object.entries(otherFormulas),
];
const begun = (f: Formula | OtherFormula) =>
  quickSum(f, Object.fromEntries(f.numbers.map((x) => [x.key, x.begin])));
const sum = (name: string, more: Numbers = {}) => {
  const [, f] = all.find(([k]) => k === name)!;
  return quickSum(f, { ...Object.fromEntries(f.numbers.map((x) => [x.key, x.begin])), ...more });
};
const atBegin = (name: string) => sum(name).of(all.find(([k]) => k === name)![1].begin);

test.each(all)('%s begins with what can be, and goes there and back', (_, f) => {
  const { wrong, of, back } = begun(f);
  expect(wrong).toBeNull();
  expect(Number.isFinite(of(f.begin))).toBe(true);
  expect(back(of(f.begin))).toBeCloseTo(f.begin, 4);
});

test('values from outside: Pt100 109.73 Ω 25 °C (IEC 60751), 12.8 mA 2.75 m, 1.28 V at 100 Ω, ratio 0.5', () => {
  expect(atBegin('callendar-van-dusen')).toBeCloseTo(25, 1);
  expect(atBegin('linear')).toBeCloseTo(2.75, 12);
  expect(atBegin('shunt')).toBeCloseTo(12.8, 12);
  expect(atBegin('half-bridge')).toBeCloseTo(10_000, 9);
  // 9.46 kΩ of a 10 kΩ NTC is about 26 °C, within 0.5 °C: common practice, no source.
  expect(Math.abs(atBegin('beta') - 26)).toBeLessThan(0.5);
  // Topp et al. (1980): a dielectric number of 20 is 0.345 m³/m³.
  expect(atBegin('polynomial')).toBeCloseTo(0.345, 3);
});

test('moist air: 20 °C/50 % has a dew point of 9.26 °C; 22 °C/56 % is 49.6 % at 24 °C (check values of WMO-No. 8)', () => {
  expect(atBegin('dew-point')).toBeCloseTo(9.255, 3);
  expect(sum('dew-point', { air: 22 }).of(56)).toBeCloseTo(12.8, 1);
  expect(atBegin('humidity-at')).toBeCloseTo(49.6, 1);
  expect(atBegin('vapour-pressure')).toBeCloseTo(23.33, 2);
  expect(sum('dew-point', { air: 80 }).of(50)).toBeNaN();
  expect(sum('vapour-pressure').back(-1)).toBeNaN();
});

test('water: 9.80665 kPa of 1 000 kg/m³ are 1 m', () => {
  expect(sum('water-column', { density: 1000 }).of(9.80665)).toBeCloseTo(1, 12);
  expect(sum('water-column', { density: -1 }).of(10)).toBeNaN();
});

test('± of what goes in is passed on by the slope there: 0.385 Ω of a Pt100 is 1 °C', () => {
  expect(passedOn(sum('callendar-van-dusen').of, 109.73, 0.385)).toBeCloseTo(1, 1);
  expect(passedOn(sum('callendar-van-dusen').of, 109.73, -1)).toBeNaN();
});

test('numbers that are missing are refused like any that cannot be', () => {
  for (const [, f] of all) if (f.numbers.length > 0) expect(quickSum(f, {}).wrong).not.toBeNull();
});

test('a table of a file is a quick sum like any', () => {
  const step = { step: 'table', x: [100, 110], y: [0, 25] } as const;
  expect(conversionSum(step).of(105)).toBe(convert([step], 105));
  expect(conversionSum(step).back(25)).toBe(110);
});
