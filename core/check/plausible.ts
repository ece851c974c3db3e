import { differenceOf } from './comparison';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { unitsLike, valueToBase, type Unit } from '../quantity/unit';

export type Plausibility =
  | { readonly kind: 'plausible' }
  | { readonly kind: 'not-a-number' }
  | {
      readonly kind: 'outside-range';
      readonly low: number;
      readonly high: number;
      readonly meant: Suggestion | null;
    }
  | { readonly kind: 'far-off'; readonly from: number; readonly meant: Suggestion | null };

export interface Suggestion {
  readonly why: 'decimal-point' | 'unit';
  readonly value: number;
  readonly unit: Unit;
}

export interface PlausibleInput {
  readonly quantity: QuantityCode;
  /** As typed, in `unit`. */
  readonly value: number;
  readonly unit: Unit;
  /** What the sensor reads at the same time, base unit; null when it reads nothing. */
  readonly sensor: number | null;
  /** What the instrument can show, base unit; the quantity's own range when it states none. */
  readonly range?: readonly [number, number];
  /** Largest difference that needs no second look, base unit, > 0. */
  readonly far: number;
}

/**
 * Whether a typed reference value can be what the instrument showed. A value outside the
 * instrument's range is refused; one far from the sensor is asked about. In both cases a slipped
 * decimal point (214 for 21.4) and a wrong unit (70.5 °F taken as °C) are tried, and named if they
 * bring the value near the sensor's. Common practice, no source.
 */
export function judgePlausible(input: PlausibleInput): Plausibility {
  if (!(input.far > 0)) throw new RangeError(`far ${input.far} is not above 0`);
  if (!Number.isFinite(input.value)) return { kind: 'not-a-number' };
  const base = valueToBase(input.value, input.unit, quantityOf(input.quantity).unit);
  const [low, high] = input.range ?? quantityOf(input.quantity).range;
  if (base < low || base > high)
    return { kind: 'outside-range', low, high, meant: suggest(input, [low, high]) };
  if (input.sensor !== null && Math.abs(differenceOf(input.quantity, base, input.sensor)) > input.far)
    return { kind: 'far-off', from: input.sensor, meant: suggest(input, [low, high]) };
  return { kind: 'plausible' };
}

function suggest(input: PlausibleInput, [low, high]: readonly [number, number]): Suggestion | null {
  const { sensor, far } = input;
  const { unit: base } = quantityOf(input.quantity);
  if (sensor === null) return null;
  const fits = (v: number) =>
    v >= low && v <= high && Math.abs(differenceOf(input.quantity, v, sensor)) <= far;
  const candidates: Suggestion[] = [
    ...[10, 0.1, 100, 0.01].map((f) => ({
      why: 'decimal-point' as const,
      value: Number((input.value * f).toPrecision(12)),
      unit: input.unit,
    })),
    ...unitsLike(input.unit)
      .filter((u) => u !== input.unit)
      .map((unit) => ({ why: 'unit' as const, value: input.value, unit })),
  ];
  return candidates.find((c) => fits(valueToBase(c.value, c.unit, base))) ?? null;
}
