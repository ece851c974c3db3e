import type { EnteredValue } from '@/contract/requests';
import { judgePlausible, type Plausibility } from '@/core/check/plausible';
import { formatValue } from '@/core/quantity/format';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { convertible, valueFromBase, valueToBase, type Unit } from '@/core/quantity/unit';
import { badField } from '../problem';

/** What a person typed off a display: in a unit that it can have, and a number that it can have shown. */

/** In the base unit; refused in a unit of something else. */
export function inBase(
  { name, unit }: { readonly name: string; readonly unit: Unit },
  field: string,
  entered: EnteredValue,
): number {
  if (!convertible(entered.unit, unit))
    throw badField(
      'wrong-unit',
      field,
      entered.unit,
      `${name} is not read in ${entered.unit}.`,
      `Enter it in ${unit} or a unit that converts to it.`,
    );
  return valueToBase(entered.value, entered.unit, unit);
}

/** The same of a quantity. */
export const quantityInBase = (quantity: QuantityCode, field: string, entered: EnteredValue): number =>
  inBase(quantityOf(quantity), field, entered);

/** Refuses what the instrument cannot have shown; what is far from another reading wants to be confirmed. */
export function requirePlausible(
  quantity: QuantityCode,
  field: string,
  entered: EnteredValue,
  /** What it should be near to, base unit; null for nothing. */
  beside: number | null,
  range: readonly [number, number],
  far: number,
  confirmed = false,
): void {
  const verdict = judgePlausible({ quantity, ...entered, sensor: beside, range, far });
  if (verdict.kind === 'plausible' || (verdict.kind === 'far-off' && confirmed)) return;
  throw implausible(quantity, field, entered, verdict);
}

function implausible(
  quantity: QuantityCode,
  field: string,
  entered: EnteredValue,
  verdict: Exclude<Plausibility, { kind: 'plausible' }>,
) {
  const q = quantityOf(quantity);
  const shown = `${entered.value} ${entered.unit}`;
  if (verdict.kind === 'not-a-number')
    return badField(
      'not-a-number',
      field,
      String(entered.value),
      'The reference value is not a number.',
      'Enter the number on the display.',
    );
  const { meant } = verdict;
  const remedy = meant
    ? meant.why === 'unit'
      ? `Did you mean ${meant.value} ${meant.unit}? Choose that unit.`
      : `Did you mean ${meant.value} ${meant.unit}? Mind the decimal point.`
    : 'Read the display again.';
  if (verdict.kind === 'outside-range') {
    const at = (v: number) => formatValue(valueFromBase(v, entered.unit, q.unit), q.decimals);
    return badField(
      'outside-instrument-range',
      field,
      entered.value,
      `${shown} is outside what the instrument can show (${at(verdict.low)}–${at(verdict.high)} ${entered.unit}).`,
      remedy,
      { meant },
    );
  }
  return badField(
    'far-from-sensor',
    field,
    entered.value,
    `${shown} is far from the sensor's ${formatValue(valueFromBase(verdict.from, entered.unit, q.unit), q.decimals)} ${entered.unit}.`,
    `${remedy} If the display really shows this, confirm it.`,
    { meant, confirm: true },
  );
}
