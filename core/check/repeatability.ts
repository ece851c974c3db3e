import { notNegative } from '../valid';
import { mean } from './uncertainty';

/** How far differences of one sensor scatter from one reading to the next. */
export interface Repeatability {
  /** Standard deviation of one difference, base unit, ≥ 0. */
  readonly s: number;
  /** Degrees of freedom, ≥ 1. */
  readonly dof: number;
}

/**
 * Repeatability over several sets of repeats, each about its own mean: what one set of three cannot tell. Null where no
 * set has two.
 *
 * Source: JCGM 100:2008 (GUM), H.3.6 and 4.2.4 (pooled experimental variance, from memory).
 *
 * @param sets differences of one sensor, base unit, a set each check
 * @example pooledRepeatability([[0, 2, 4], [7]]) // { s: 2, dof: 2 }
 */
export function pooledRepeatability(sets: readonly (readonly number[])[]): Repeatability | null {
  let [squares, dof] = [0, 0];
  for (const set of sets) {
    if (set.length < 2) continue;
    const m = mean(set);
    squares += set.reduce((sum, v) => sum + (v - m) ** 2, 0);
    dof += set.length - 1;
  }
  return dof > 0 ? { s: Math.sqrt(squares / dof), dof } : null;
}

/**
 * How many repeats those are that were taken closer together than their medium changes: within one time constant of the
 * sensor two say what one says.
 *
 * @param times s, ascending
 * @param response time constant of the sensor in its medium, s, ≥ 0
 * @example repeatsThatTell([0, 5, 90], 30) // 2
 */
export function repeatsThatTell(times: readonly number[], response: number): number {
  notNegative('response', response);
  let [count, last] = [0, -Infinity];
  for (const t of times)
    if (t - last >= response) {
      count++;
      last = t;
    }
  return count;
}

/**
 * Two repeatabilities as one, weighed by their degrees of freedom; null for none.
 *
 * @param all what is known of one sensor; null for what is not known
 */
export function together(...all: readonly (Repeatability | null)[]): Repeatability | null {
  let [squares, dof] = [0, 0];
  for (const its of all) {
    if (!its) continue;
    squares += its.dof * its.s ** 2;
    dof += its.dof;
  }
  return dof > 0 ? { s: Math.sqrt(squares / dof), dof } : null;
}
