import { toleranceBudget, type Budget } from '../check/budget';
import { differenceOf } from '../check/comparison';
import type { QuantityCode } from '../quantity/quantity';
import { correctionOf, limitOfCertificate, type Certificate } from './certificate';

/** One of two instruments of the kit that are read side by side, base unit. */
export interface Side {
  readonly tolerance: number;
  readonly resolution: number;
  /** What puts its readings right, and says how far they may be off then; left out, or null, where none does. */
  readonly certificate?: Certificate | null;
}

export interface CrossChecked {
  readonly budget: Budget;
  /** What was compared: the readings as their certificates put them right. */
  readonly pairs: readonly (readonly [one: number, other: number])[];
  /** Whether both may be right: inside the expanded uncertainty of their difference. */
  readonly agrees: boolean;
}

/**
 * Two instruments of the kit read side by side, each put right by its certificate where it has one: may both be right?
 * By the GUM's expanded uncertainty of the mean difference. Where they may not, one of the two is off; which one, a third
 * or a laboratory says.
 *
 * Source: JCGM 100:2008; ISO 13528, Eₙ.
 *
 * @param quantity a direction is compared the shorter way round
 * @param pairs what both showed, base unit, one or more; RangeError for none
 * @param one tolerance > 0, resolution ≥ 0, base unit
 * @param other the same of the other
 * @example crossCheck('airTemperature', [[20.1, 20.0], [20.2, 20.0]], { tolerance: 0.2, resolution: 0.1 }, { tolerance: 0.2, resolution: 0.1 }).agrees // true
 */
export function crossCheck(
  quantity: QuantityCode,
  pairs: readonly (readonly [one: number, other: number])[],
  one: Side,
  other: Side,
): CrossChecked {
  const right = pairs.map(([a, b]) => [putRight(one, a), putRight(other, b)] as const);
  const budget = toleranceBudget({
    differences: right.map(([a, b]) => differenceOf(quantity, a, b)),
    sensorTolerance: limitOfSide(one),
    sensorResolution: one.resolution,
    referenceTolerance: limitOfSide(other),
    referenceResolution: other.resolution,
  });
  return { budget, pairs: right, agrees: Math.abs(budget.meanDifference) <= budget.gum.U };
}

const putRight = ({ certificate }: Side, shown: number): number =>
  certificate ? shown + correctionOf(certificate, shown) : shown;

const limitOfSide = ({ certificate, tolerance }: Side): number =>
  certificate ? limitOfCertificate(certificate) : tolerance;
