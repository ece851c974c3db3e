import { convert, invert, refuseConversion, type ConversionStep } from './conversion';
import type { Formula, Numbers } from './formulas';
import type { OtherFormula } from './otherFormulas';

/** Any of them, ready to be worked with some numbers. */
export interface QuickSum {
  /** What is wrong with its numbers; null for nothing. */
  readonly wrong: string | null;
  readonly of: (x: number) => number;
  readonly back: (y: number) => number;
}

/**
 * A quick sum with its numbers put in.
 *
 * @param formula one of those above
 * @param numbers by their keys
 */
export function quickSum(formula: Formula | OtherFormula, numbers: Numbers): QuickSum {
  if ('make' in formula) return conversionSum(formula.make(numbers));
  const missing = formula.numbers.find((x) => !Number.isFinite(numbers[x.key] ?? Number.NaN));
  return {
    wrong: missing ? `${missing.label} is missing` : null,
    of: (x) => formula.forward(numbers, x),
    back: (y) => formula.backward(numbers, y),
  };
}

/** A quick sum of a step, a table read from a file as well. */
export const conversionSum = (step: ConversionStep): QuickSum => ({
  wrong: refuseConversion([step]),
  of: (x) => convert([step], x),
  back: (y) => invert([step], y),
});

/**
 * What ± of what goes in becomes.
 *
 * @param of the sum
 * @param x where, with ± `u` of it, 0 or more
 */
export function passedOn(of: (x: number) => number, x: number, u: number): number {
  const h = Math.max(Math.abs(x), 1e-6) * 1e-6;
  return u >= 0 ? (Math.abs(of(x + h) - of(x - h)) / (2 * h)) * u : Number.NaN;
}
