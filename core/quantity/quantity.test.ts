import fc from 'fast-check';
import {
  additionSum,
  decimalsOf,
  differenceSum,
  formatAge,
  formatDifference,
  formatValue,
  roundTo,
} from './format';
import { describeChannel, quantityCodes, quantityOf } from './quantity';
import {
  convertible,
  differenceFromBase,
  differenceToBase,
  isUnit,
  unitsLike,
  valueFromBase,
  valueToBase,
  type Unit,
} from './unit';

describe('units', () => {
  test('values and differences convert by different functions: an offset of 1 °C is 1.8 °F, not 33.8', () => {
    expect(valueFromBase(1, '°F', '°C')).toBeCloseTo(33.8, 10);
    expect(differenceFromBase(1, '°F', '°C')).toBeCloseTo(1.8, 10);
    expect(differenceToBase(1.8, '°F', '°C')).toBeCloseTo(1, 10);
    expect(differenceToBase(1, 'K', '°C')).toBe(1);
  });
  // NIST SP 811, Appendix B.8 (from memory).
  test.each<[number, Unit, Unit, number]>([
    [212, '°F', '°C', 100],
    [-40, '°F', '°C', -40],
    [273.15, 'K', '°C', 0],
    [1, 'ft', 'm', 0.3048],
    [1, 'in', 'mm', 25.4],
    [1, 'cm', 'm', 0.01],
    [250, 'mm', 'm', 0.25],
    [760, 'mmHg', 'hPa', 1013.25],
    [29.92, 'inHg', 'hPa', 1013.2],
    [1, 'psi', 'hPa', 68.94757],
    [101.325, 'kPa', 'hPa', 1013.25],
    [101_325, 'Pa', 'hPa', 1013.25],
    [36, 'km/h', 'm/s', 10],
    [1, 'mph', 'm/s', 0.44704],
    [1, 'kn', 'm/s', 0.514444],
    [10, 'ft/s', 'm/s', 3.048],
    [1500, 'L/s', 'm³/s', 1.5],
    [1.413, 'mS/cm', 'µS/cm', 1413],
  ])('%d %s in %s is %d', (value, unit, base, expected) => {
    expect(Math.abs(valueToBase(value, unit, base) - expected)).toBeLessThanOrEqual(
      1e-6 * Math.abs(expected) + (unit === 'inHg' ? 0.01 : 1e-4),
    );
  });
  test('there and back again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.constantFrom<[Unit, Unit]>(['°F', '°C'], ['ft', 'm'], ['mmHg', 'hPa'], ['kn', 'm/s'], ['K', '°C']),
        (v, [u, base]) => {
          expect(valueFromBase(valueToBase(v, u, base), u, base)).toBeCloseTo(v, 6);
          expect(differenceFromBase(differenceToBase(v, u, base), u, base)).toBeCloseTo(v, 6);
        },
      ),
    );
  });
  test('which units stand in for one another; the others are refused', () => {
    expect(unitsLike('°F')).toEqual(['°F', '°C', 'K']);
    expect(convertible('ft', 'mm')).toBe(true);
    expect(convertible('%', '%RH')).toBe(false);
    expect(isUnit('furlong')).toBe(false);
    expect(isUnit('constructor')).toBe(false);
    expect(() => valueToBase(1, 'm', 'hPa')).toThrow(RangeError);
  });
});

describe('numbers on screen', () => {
  test('a true minus, a sign on every difference, no negative zero', () => {
    expect(formatValue(-1.25, 2)).toBe('−1.25');
    expect(formatValue(-0.001, 2)).toBe('0.00');
    expect(formatDifference(0.4, 1)).toBe('+0.4');
    expect(formatDifference(-0.4, 1)).toBe('−0.4');
    expect(formatDifference(0.001, 1)).toBe('0.0');
    expect(formatDifference(null, 1)).toBe('–');
    expect(formatValue(Number.NaN, 1)).toBe('–');
  });
  test('decimals carried by a resolution', () => {
    expect([1, 0.5, 0.1, 0.01, 0.002, 5].map(decimalsOf)).toEqual([0, 1, 1, 2, 3, 0]);
    expect(roundTo(2.345678, 3)).toBe(2.346);
  });
  test('halves are rounded away from zero, by the digits a person sees and not their binary neighbour', () => {
    expect([1.005, 2.675, 1.115, 0.145].map((v) => roundTo(v, 2))).toEqual([1.01, 2.68, 1.12, 0.15]);
    expect([2.5, -2.5, -0.5, 0.5].map((v) => roundTo(v, 0))).toEqual([3, -3, -1, 1]);
    expect(formatValue(-1.005, 2)).toBe('−1.01');
    expect(formatValue(1e21, 1)).toBe('1e+21');
    expect(roundTo(1.5e-7, 6)).toBe(0);
  });
  test('sums add up as printed: 21.44 − 21.33 = 0.11, also where the exact difference is 0.102', () => {
    expect(differenceSum(21.436, 21.334, 2)).toBe('21.44 − 21.33 = +0.11');
    expect(additionSum(0.24, 0.68, 1)).toBe('+0.2 + (+0.5) = +0.7');
    const value = fc.double({ min: -500, max: 500, noNaN: true });
    fc.assert(
      fc.property(value, value, fc.integer({ min: 0, max: 4 }), (a, b, d) => {
        const [x, y, sum] = differenceSum(a, b, d)
          .replaceAll('+', '')
          .split(/ [−=] /)
          .map((t) => Number(t.replace('−', '-')));
        expect(x! - y!).toBeCloseTo(sum!, 9);
      }),
    );
  });
  test('ages', () => {
    const seconds = [40, 600, 7200, 3 * 86400, 999 * 86400, 133.6 * 365.25 * 86400];
    expect(seconds.map(formatAge)).toEqual(['40 s', '10 min', '2 h', '3 d', '999 d', '134 years']);
    expect(formatAge(Infinity)).toBe('never');
  });
});

describe('quantities', () => {
  test('every quantity is whole: range, tolerance, guard above tolerance', () => {
    for (const code of quantityCodes) {
      const q = quantityOf(code);
      expect(q.range[0]).toBeLessThan(q.range[1]);
      expect(q.guard).toBeGreaterThan(q.tolerance);
      for (const [low, high] of q.rests) expect(low).toBeLessThanOrEqual(high);
    }
  });
  test('good data pass the range they are tested by: saturated air, a zero that drifts, a stage far above datum', () => {
    for (const [code, value] of [
      ['humidity', 100.4],
      ['turbidity', -0.2],
      ['waterLevel', 1500],
      ['radiation', -4],
      ['airPressure', 480],
    ] as const) {
      const [low, high] = quantityOf(code).range;
      expect(value >= low && value <= high).toBe(true);
    }
  });
  test('descriptions fit what loggers keep', () => {
    expect(describeChannel('Map store', 'humidity')).toBe('Map store humidity');
    for (const code of quantityCodes)
      expect(describeChannel('A very long name of a zone indeed', code).length).toBeLessThanOrEqual(24);
  });
  test('an unknown code is a programmer’s error', () => {
    expect(() => quantityOf('phlogiston' as never)).toThrow(/phlogiston/);
  });
});
