import { groupBy } from '../groupBy';
import { finite } from '../valid';
import { mean, standardDeviation, studentAt } from './uncertainty';

/** A check, by whom it was made and what it found. */
export interface MadeBy {
  readonly person: string;
  /** What names the sensor. */
  readonly sensor: string;
  /** ms since epoch */
  readonly at: number;
  /** As found, base unit. */
  readonly difference: number;
  /** Whether the sensor was adjusted in it: what comes after begins anew. */
  readonly isAdjusted: boolean;
}

export interface PersonDifference {
  readonly person: string;
  readonly checks: number;
  /** Checks that another person made next to theirs, of the same unchanged sensor. */
  readonly pairs: number;
  /** By how much this person finds more than the others do, base unit; null for fewer than three pairs. */
  readonly mean: number | null;
  /** ± at 95 % for all persons together, base unit; null with the mean. */
  readonly doubt: number | null;
  /** Whether that is more than chance. */
  readonly differs: boolean;
}

/** Two pairs say nothing of how far pairs scatter. */
const fewestPairs = 3;

/**
 * Whether persons find different things of the same sensors: neighbouring checks of one sensor by two persons, with no
 * adjustment between, are paired, each check once; of each person the mean of their side minus the other's, with
 * Student's t, shared out over all persons (Bonferroni). A sensor that drifts adds to the scatter, not to a person, as
 * long as persons take turns.
 *
 * Source: paired differences, Student's t; in the manner of an intermediate precision study (ISO 5725-3), from memory.
 *
 * @param made in any order; differences finite, RangeError otherwise
 * @returns by person, in the order in which they first appear
 */
export function personDifferences(made: readonly MadeBy[]): readonly PersonDifference[] {
  const found = new Map<string, number[]>();
  for (const m of made) {
    finite('difference', m.difference);
    if (!found.has(m.person)) found.set(m.person, []);
  }
  for (const all of groupBy(made, (m) => m.sensor).values()) {
    const inOrder = [...all].sort((a, b) => a.at - b.at);
    for (let i = 1; i < inOrder.length; i++) {
      const [a, b] = [inOrder[i - 1]!, inOrder[i]!];
      if (a.isAdjusted || a.person === b.person) continue;
      found.get(b.person)!.push(b.difference - a.difference);
      found.get(a.person)!.push(a.difference - b.difference);
      // Each check counts once: pairs that share one would follow one another.
      i++;
    }
  }
  return [...found].map(([person, pairs]): PersonDifference => {
    const checks = made.filter((m) => m.person === person).length;
    const nothing = { person, checks, pairs: pairs.length, mean: null, doubt: null, differs: false };
    if (pairs.length < fewestPairs) return nothing;
    const its = mean(pairs);
    const doubt =
      (studentAt(1 - 0.025 / found.size, pairs.length - 1) * standardDeviation(pairs)) /
      Math.sqrt(pairs.length);
    return { ...nothing, mean: its, doubt, differs: Math.abs(its) > doubt };
  });
}
