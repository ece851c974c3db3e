import { finite } from '../valid';

/** Largest share of the range that chance leaves to the outermost of n, at 95 %. Dixon (1951), from memory. */
const critical = [0.97, 0.829, 0.71, 0.625, 0.568, 0.526, 0.493, 0.466];

export interface Outlier {
  /** Its place among the values. */
  readonly index: number;
  /** Its distance from the next, as a share of the whole range. */
  readonly q: number;
}

/**
 * The one among a few values that lies too far from the others for chance, by Dixon’s Q at 95 %; null for none, for fewer
 * than three, and for more than ten. A value is not left out for that: it says that one should be taken again.
 *
 * @param values of one thing
 * @example outlierOf([14.1, 14.2, 14.1, 16.9]) // { index: 3, q: 0.964 }
 */
export function outlierOf(values: readonly number[]): Outlier | null {
  for (const v of values) finite('value', v);
  const limit = critical[values.length - 3];
  if (limit === undefined) return null;
  const sorted = values.map((value, index) => ({ value, index })).sort((a, b) => a.value - b.value);
  const [first, second] = sorted as [Ranked, Ranked];
  const [before, last] = sorted.slice(-2) as [Ranked, Ranked];
  const range = last.value - first.value;
  if (range === 0) return null;
  const [low, high] = [(second.value - first.value) / range, (last.value - before.value) / range];
  const [q, { index }] = low > high ? [low, first] : [high, last];
  return q > limit ? { index, q: Number(q.toFixed(3)) } : null;
}

interface Ranked {
  readonly value: number;
  readonly index: number;
}
