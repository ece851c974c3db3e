import { differenceSum, formatDifference, formatValue, roundTo } from '../quantity/format';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { angleDifference } from '../quality/angle';
import type { TimedValue } from './timedValue';

/**
 * Sensor − reference, base unit: of a direction the shorter way round, −180 to 180°; else the plain difference.
 *
 * @param quantity what both measure
 * @param sensor base unit
 * @param reference base unit
 * @example differenceOf('windDirection', 355, 5) // -10
 */
export const differenceOf = (quantity: QuantityCode, sensor: number, reference: number): number =>
  isCircular(quantity) ? angleDifference(sensor, reference) : sensor - reference;

/**
 * The same as a sum that adds up in print; where a direction goes through north, with the whole turn: "355 − 5 − 360 = −10".
 *
 * @param decimals of both readings
 * @example comparedSum('windDirection', 355, 5, 0) // '355 − 5 − 360 = −10'
 */
export function comparedSum(
  quantity: QuantityCode,
  sensor: number,
  reference: number,
  decimals: number,
): string {
  const [a, b] = [roundTo(sensor, decimals), roundTo(reference, decimals)];
  const difference = differenceOf(quantity, a, b);
  const turn = Math.round((difference - (a - b)) / 360);
  return turn === 0 || Number.isNaN(turn)
    ? differenceSum(sensor, reference, decimals)
    : `${formatValue(a, decimals)} − ${formatValue(b, decimals)} ${turn < 0 ? '−' : '+'} 360 = ${formatDifference(difference, decimals)}`;
}

/**
 * Values of one quantity on a straight line, so that slopes and means of them are what they are: a direction that goes
 * through north goes on beyond 360°.
 *
 * @param quantity what they are of
 * @param values base unit, in their order
 * @example unrolled('windDirection', [350, 355, 2]) // [350, 355, 362]
 */
export function unrolled(quantity: QuantityCode, values: readonly number[]): number[] {
  if (!isCircular(quantity)) return [...values];
  const found: number[] = [];
  let last = Number.NaN;
  for (const value of values) {
    const next =
      Number.isFinite(last) && Number.isFinite(value) ? last + angleDifference(value, last) : value;
    found.push(next);
    if (Number.isFinite(next)) last = next;
  }
  return found;
}

/** The same of readings with their times. */
export function onALine(quantity: QuantityCode, readings: readonly TimedValue[]): TimedValue[] {
  const values = unrolled(
    quantity,
    readings.map((r) => r.value),
  );
  return readings.map(({ t }, i) => ({ t, value: values[i]! }));
}

const isCircular = (quantity: QuantityCode): boolean => quantityOf(quantity).aggregate === 'circular';
