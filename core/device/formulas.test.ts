import { convert, invert, refuseConversion } from './conversion';
import { formulas, type Formula } from './formulas';

const all = Object.entries(formulas) as [string, Formula][];
const begun = ([, f]: (typeof all)[number]) =>
  f.make(Object.fromEntries(f.numbers.map((x) => [x.key, x.begin])));

test.each(all)('%s begins with what can be, and goes there and back', (...one) => {
  const step = begun(one);
  expect(refuseConversion([step])).toBeNull();
  const out = convert([step], one[1].begin);
  expect(Number.isFinite(out)).toBe(true);
  expect(invert([step], out)).toBeCloseTo(one[1].begin, 4);
});

test('values from outside: Pt100 109.73 Ω 25 °C (IEC 60751), 12.8 mA 2.75 m, 1.28 V at 100 Ω, ratio 0.5', () => {
  const of = (name: string) => {
    const one = all.find(([k]) => k === name)!;
    return convert([begun(one)], one[1].begin);
  };
  expect(of('callendar-van-dusen')).toBeCloseTo(25, 1);
  expect(of('linear')).toBeCloseTo(2.75, 12);
  expect(of('shunt')).toBeCloseTo(12.8, 12);
  expect(of('half-bridge')).toBeCloseTo(10_000, 9);
  // 9.46 kΩ of a 10 kΩ NTC is about 26 °C, within 0.5 °C: common practice, no source.
  expect(Math.abs(of('beta') - 26)).toBeLessThan(0.5);
});

test('numbers that are missing are refused like any that cannot be', () => {
  for (const [, f] of all) expect(refuseConversion([f.make({})])).not.toBeNull();
});
