import { roundTo } from '../quantity/format';
import { finite, notNegative, positive, whole } from '../valid';
import type { Budget, School } from './budget';
import { standardDeviation } from './uncertainty';

export type Verdict =
  | { readonly kind: 'agree' }
  | { readonly kind: 'adjust'; readonly by: number }
  | { readonly kind: 'beyond-guard'; readonly guard: number }
  | {
      readonly kind: 'not-settled';
      readonly why: 'moving' | 'reference-moving' | 'scattered' | 'too-few' | 'one-alone';
    };

export interface VerdictInput {
  readonly budget: Budget;
  readonly school: School;
  /** Largest single adjustment, base unit, > 0. */
  readonly guard: number;
  /** How many repeats the check was planned with, ≥ 1. */
  readonly plannedRepeats: number;
  readonly differences: readonly number[];
  /** Whether each captured repeat was taken from a settled reading. */
  readonly settled: readonly boolean[];
  /** Whether the reference had come to rest, too; true where nothing says otherwise. */
  readonly referenceSettled?: boolean;
  /** Whether one repeat alone, of which nothing says how far it scatters, decides nothing. */
  readonly needsRepeatability?: boolean;
  /** Decimals the device can take an offset in. */
  readonly decimals: number;
}

/**
 * What a comparison means. In order: repeats that are too few, unsettled or scattered decide
 * nothing; inside the tolerance the sensor is left alone (an adjustment would chase noise); beyond
 * the guard nothing is adjusted at once; only then an adjustment is proposed.
 * Scattered means that one repeat deviates from the next by more than half of the tolerances together, however many
 * there are. Common practice, no source.
 */
export function judge(input: VerdictInput): Verdict {
  const { budget, differences } = input;
  positive('guard', input.guard);
  whole('planned repeats', input.plannedRepeats, 1);
  if (differences.length < input.plannedRepeats) return { kind: 'not-settled', why: 'too-few' };
  if (!input.settled.every(Boolean)) return { kind: 'not-settled', why: 'moving' };
  if (input.referenceSettled === false) return { kind: 'not-settled', why: 'reference-moving' };
  if (input.needsRepeatability && !budget.hasRepeatability) return { kind: 'not-settled', why: 'one-alone' };
  if (standardDeviation(differences) > scattered * budget.sum.limit)
    return { kind: 'not-settled', why: 'scattered' };
  const size = Math.abs(budget.meanDifference);
  if (within(size, limitOf(budget, input.school))) return { kind: 'agree' };
  if (size > input.guard) return { kind: 'beyond-guard', guard: input.guard };
  const by = roundTo(-budget.meanDifference, input.decimals);
  return by === 0 ? { kind: 'agree' } : { kind: 'adjust', by };
}

/** Standard deviation of one difference, share of the limit, from which on nothing is decided. */
const scattered = 0.5;

/** Exactly on the line is inside; the binary residue of a mean is no difference. */
const within = (size: number, limit: number): boolean => size <= limit * (1 + 1e-9);

/** The largest difference that still counts as agreement, base unit. */
export const limitOf = (budget: Budget, school: School): number =>
  school === 'sum' ? budget.sum.limit : budget.gum.U;

export type Convergence =
  | { readonly kind: 'converged' }
  | { readonly kind: 'try-again'; readonly remaining: number }
  | { readonly kind: 'does-not-converge'; readonly remaining: number };

/**
 * What a verification reading after an adjustment means. Inside the limit it holds. Otherwise one
 * more adjustment is worth a try only if the first took away at least half of the difference; after
 * two adjustments, or if the difference barely moved, one of the two instruments is faulty.
 * Common practice, no source.
 */
export function judgeConvergence(
  before: number,
  after: number,
  limit: number,
  adjustmentsMade: number,
): Convergence {
  finite('before', before);
  notNegative('limit', limit);
  whole('adjustments', adjustmentsMade, 1);
  if (within(Math.abs(finite('after', after)), limit)) return { kind: 'converged' };
  const halved = Math.abs(after) <= Math.abs(before) / 2;
  return halved && adjustmentsMade < 2
    ? { kind: 'try-again', remaining: after }
    : { kind: 'does-not-converge', remaining: after };
}
