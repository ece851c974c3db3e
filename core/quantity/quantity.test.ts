import fc from 'fast-check';
import { decimalsOf, formatAge, formatDifference, formatValue, roundTo } from './format';
import { describeChannel, quantityCodes, quantityOf } from './quantity';
import {
  baseUnit,
  differenceFromBase,
  differenceToBase,
  isUnit,
  unitsLike,
  valueFromBase,
  valueToBase,
} from './unit';

describe('units', () => {
  test('values and differences convert by different functions: an offset of 1 °C is 1.8 °F, not 33.8', () => {
    expect(valueFromBase(1, '°F')).toBeCloseTo(33.8, 10);
    expect(differenceFromBase(1, '°F')).toBeCloseTo(1.8, 10);
    expect(differenceToBase(1.8, '°F')).toBeCloseTo(1, 10);
  });
  test('exact factors (NIST SP 811, from memory)', () => {
    expect(valueToBase(212, '°F')).toBeCloseTo(100, 10);
    expect(valueToBase(-40, '°F')).toBeCloseTo(-40, 10);
    expect(valueToBase(1, 'ft')).toBe(0.3048);
    expect(valueToBase(1, 'in')).toBe(25.4);
    expect(valueToBase(760, 'mmHg')).toBeCloseTo(1013.25, 2);
  });
  test('there and back again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.constantFrom('°F' as const, 'ft' as const, 'mmHg' as const),
        (v, u) => {
          expect(valueFromBase(valueToBase(v, u), u)).toBeCloseTo(v, 6);
          expect(differenceFromBase(differenceToBase(v, u), u)).toBeCloseTo(v, 6);
        },
      ),
    );
  });
  test('which units stand in for one another', () => {
    expect(unitsLike('°F')).toEqual(['°C', '°F']);
    expect(baseUnit('ft')).toBe('m');
    expect(isUnit('furlong')).toBe(false);
    expect(isUnit('constructor')).toBe(false);
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
  test('ages', () => {
    expect([40, 600, 7200, 3 * 86400].map(formatAge)).toEqual(['40 s', '10 min', '2 h', '3 d']);
    expect(formatAge(Infinity)).toBe('never');
  });
});

describe('quantities', () => {
  test('every quantity is whole: range, tolerance, guard above tolerance', () => {
    for (const code of quantityCodes) {
      const q = quantityOf(code);
      expect(q.range[0]).toBeLessThan(q.range[1]);
      expect(q.guard).toBeGreaterThan(q.tolerance);
      expect(baseUnit(q.unit)).toBe(q.unit);
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
