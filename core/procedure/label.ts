import type { PlannedPoint } from '../check/plan';
import { quantityOf, type QuantityCode } from '../quantity/quantity';

/** What is wrong with the label of a standard as it was typed; null where nothing is. */
export interface LabelFault {
  /** Index of the row. */
  readonly row: number;
  readonly of: 'temperature' | 'value';
  readonly says: string;
  readonly remedy: string;
}

/**
 * Looks over the values of a standard’s label: one value, or a table over the temperature.
 *
 * @param values base unit and °C, as typed
 * @param quantity what it is a standard of
 */
export function faultOfLabel(values: PlannedPoint['values'], quantity: QuantityCode): LabelFault | null {
  const { name, range, unit } = quantityOf(quantity);
  for (const [row, { temperature, value }] of values.entries()) {
    if (!(value >= range[0] && value <= range[1]))
      return {
        row,
        of: 'value',
        says: `${name} of ${value} ${unit} cannot be.`,
        remedy: `Enter ${range[0]} to ${range[1]} ${unit}, as its label says.`,
      };
    if (values.length === 1) continue;
    if (temperature === null)
      return {
        row,
        of: 'temperature',
        says: 'A row of its table has no temperature.',
        remedy: 'Give each row its temperature, or keep the one value that hangs on none.',
      };
    const before = row > 0 ? values[row - 1]!.temperature : null;
    if (before !== null && !(temperature > before))
      return {
        row,
        of: 'temperature',
        says: `${temperature} °C comes after ${before} °C.`,
        remedy: 'Order the rows by their temperature, each once.',
      };
  }
  return null;
}

/** Points closer together than so many of their tolerances are one. Our own choice. */
const apart = 4;

/**
 * Whether two standards lie too close together for a line through them.
 *
 * @example areOne({ values: [{ temperature: null, value: 7 }], tolerance: 0.02 }, { values: [{ temperature: null, value: 7.01 }], tolerance: 0.02 }) // true
 */
export function areOne(
  a: Pick<PlannedPoint, 'values' | 'tolerance'>,
  b: Pick<PlannedPoint, 'values' | 'tolerance'>,
): boolean {
  const [x, y] = [a, b].map(({ values }) => values[Math.floor(values.length / 2)]?.value);
  if (x === undefined || y === undefined) return false;
  return Math.abs(x - y) <= apart * Math.max(a.tolerance, b.tolerance);
}

/**
 * The values of a label as they are typed: one number, or a line for each temperature, "20 6.88". Commas are decimal points.
 *
 * @returns null where a line is no number, or not two
 * @example valuesFromText('15 6.90\n20 6,88') // [{ temperature: 15, value: 6.9 }, { temperature: 20, value: 6.88 }]
 */
export function valuesFromText(text: string): PlannedPoint['values'] | null {
  const lines = text
    .split('\n')
    .map((line) => line.trim().replaceAll(',', '.'))
    .filter((line) => line !== '');
  const rows = lines.map((line) => line.split(/[\s;:]+/).map(Number));
  if (rows.length === 0 || rows.some((r) => r.some((n) => !Number.isFinite(n)))) return null;
  if (rows.length === 1 && rows[0]!.length === 1) return [{ temperature: null, value: rows[0]![0]! }];
  return rows.every((r) => r.length === 2)
    ? rows.map(([temperature, value]) => ({ temperature: temperature!, value: value! }))
    : null;
}

/** The same the other way round, to begin with. */
export const textFromValues = (values: PlannedPoint['values']): string =>
  values
    .map(({ temperature, value }) => (temperature === null ? String(value) : `${temperature} ${value}`))
    .join('\n');
