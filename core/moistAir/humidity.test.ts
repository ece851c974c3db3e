import fc from 'fast-check';
import psychrolib from 'psychrolib';
import { dewPoint, frostPointOf, humidityAt, humidityPerDegree, saturationPressure } from './humidity';

psychrolib.SetUnitSystem(psychrolib.SI);

describe('moist air, WMO-No. 8 Annex 4.B', () => {
  test('saturation vapour pressure at 20 °C is 23.33 hPa', () => {
    expect(saturationPressure(20)).toBeCloseTo(23.33, 2);
    expect(saturationPressure(0)).toBeCloseTo(6.112, 6);
  });
  test.each([
    [20, 50, 9.26],
    [30, 35, 12.87],
    [25, 60, 16.69],
    [22, 56, 12.8],
    [24, 54, 14.1],
  ])('dew point of %d °C / %d %%RH is %d °C', (t, rh, expected) => {
    expect(dewPoint(t, rh)).toBeCloseTo(expected, expected * 10 === Math.round(expected * 10) ? 1 : 2);
  });
  test('22 °C / 56 % brought to 24 °C reads 49.6 %: two readings two apart in % are not two apart in air', () => {
    expect(humidityAt(56, 22, 24)).toBeCloseTo(49.6, 1);
  });
  test('second witness: psychrolib (ASHRAE 2017) within 0.1 °C where the dew point is ≥ 0 °C', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 45, noNaN: true }),
        fc.double({ min: 15, max: 100, noNaN: true }),
        (t, rh) => {
          const ours = dewPoint(t, rh);
          fc.pre(ours >= 0.2);
          expect(Math.abs(ours - psychrolib.GetTDewPointFromRelHum(t, rh / 100))).toBeLessThan(0.1);
        },
      ),
    );
  });
  test('below 0 °C frost forms before dew would: psychrolib (ASHRAE 2017, over ice) within 0.1 °C', () => {
    for (const dew of [-1, -5, -10, -20, -30]) {
      const frost = frostPointOf(dew)!;
      expect(frost).toBeGreaterThan(dew);
      expect(
        Math.abs(frost - psychrolib.GetTDewPointFromVapPres(10, 100 * saturationPressure(dew))),
      ).toBeLessThan(0.1);
    }
    expect(frostPointOf(0)).toBeNull();
    expect(frostPointOf(12)).toBeNull();
    expect(() => frostPointOf(-80)).toThrow(RangeError);
  });
  test('there and back again is the same air', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        (a, b, rh) => {
          const there = humidityAt(rh, a, b);
          fc.pre(there <= 105);
          expect(humidityAt(there, b, a)).toBeCloseTo(rh, 8);
        },
      ),
    );
  });
  test('saturated air has its dew point at its own temperature', () => {
    for (const t of [-20, 0, 15, 40]) expect(dewPoint(t, 100)).toBeCloseTo(t, 8);
  });
  test('change per degree is the slope of humidityAt', () => {
    const slope = (humidityAt(55, 15, 15.01) - humidityAt(55, 15, 14.99)) / 0.02;
    expect(humidityPerDegree(15, 55)).toBeCloseTo(slope, 3);
  });
  test('outside its range it refuses', () => {
    expect(() => saturationPressure(61)).toThrow(/outside −45…60/);
    expect(() => saturationPressure(Number.NaN)).toThrow(RangeError);
    expect(() => dewPoint(20, 0)).toThrow(/no dew point/);
    expect(() => dewPoint(20, 106)).toThrow(RangeError);
    expect(() => humidityAt(-1, 20, 20)).toThrow(RangeError);
  });
});
