import { roundTo } from '../quantity/format';
import type { QuantityCode } from '../quantity/quantity';
import { finite, positive } from '../valid';

/** In which steps a device takes an offset of a quantity, and how far, base unit. */
export interface OffsetTaken {
  readonly quantity: QuantityCode;
  /** > 0 */
  readonly step: number;
  /** The furthest from 0 either way, > 0. */
  readonly most: number;
}

/**
 * The offset that a device can hold next to one that is wanted, base unit: half a step goes away from zero.
 * Common practice, no source.
 *
 * @param offset wanted, base unit
 * @param step of the device, base unit, > 0; null where it takes every digit
 * @throws RangeError for a step that is not positive, or an offset that is no number
 * @example nextStep(-0.62, 0.5) // -0.5
 */
export function nextStep(offset: number, step: number | null): number {
  finite('offset', offset);
  if (step === null) return offset;
  // Cleared of what binary fractions leave, so that 0.75 is half-way between 0.5 and 1.
  const steps = roundTo(Math.abs(offset) / positive('step', step), 9);
  return roundTo(Math.sign(offset) * Math.round(steps) * step, 9) || 0;
}
