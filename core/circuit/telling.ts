import { ownUncertainty, type Grounds } from './evidence';
import { modelOf } from './explanation';
import type { Weighed } from './diagnose';
import type { Measurement } from './measurement';
import { predictorOf } from './predict';
import type { Rig } from './rig';

/** What a measurement would tell, beside others. */
export interface Telling {
  readonly of: Measurement;
  /** Expected gain of information, bit: 1 halves what is possible. */
  readonly bits: number;
}

/** Explanations below this likelihood are not asked: what would tell them apart changes nothing. */
const leastLikely = 0.01;

/** What an explanation expects of a measurement: a number with its uncertainty, or none: over the range, no value. */
interface Expected {
  readonly mean: number | null;
  readonly u: number;
}

/**
 * What each measurement would tell of the explanations that are left, the most telling first: the information it is
 * expected to bring (mutual information of explanation and outcome).
 *
 * Source: D. V. Lindley, "On a measure of the information provided by an experiment", Ann. Math. Statist. 27 (1956)
 * 986–1005 (from memory).
 *
 * @param rig what stands on the bench
 * @param weighed explanations under what was read so far
 * @param candidates what can still be measured
 */
export function mostTelling(
  rig: Rig,
  weighed: readonly Weighed[],
  candidates: readonly Measurement[],
): Telling[] {
  if (candidates.length === 0) return [];
  const left = weighed.filter((w) => w.likelihood >= leastLikely);
  const all = left.reduce((sum, w) => sum + w.likelihood, 0);
  const p = left.map((w) => w.likelihood / all);
  const expected = expectedOf(rig, left, candidates);
  return candidates
    .map((of, i) => ({
      of,
      bits: information(
        p,
        expected.map((e) => e[i]!),
      ),
    }))
    .sort((a, b) => b.bits - a.bits);
}

/**
 * Explanations that no measurement within reach tells apart, in groups, the likeliest first; each of the others is
 * alone.
 *
 * @param rig what stands on the bench
 * @param weighed explanations under what was read so far
 * @param candidates what can be measured
 */
export function alikeWithinReach(
  rig: Rig,
  weighed: readonly Weighed[],
  candidates: readonly Measurement[],
): Weighed[][] {
  const left = weighed.filter((w) => w.likelihood >= leastLikely);
  const expected = expectedOf(rig, left, candidates);
  const alike = (a: number, b: number) =>
    candidates.every((_, i) => {
      const [one, other] = [expected[a]![i]!, expected[b]![i]!];
      if (one.mean === null || other.mean === null) return one.mean === other.mean;
      return Math.abs(one.mean - other.mean) < Math.hypot(one.u, other.u);
    });
  const groups: number[][] = [];
  for (const a of left.keys()) {
    const its = groups.find((g) => g.every((b) => alike(a, b)));
    if (its) its.push(a);
    else groups.push([a]);
  }
  const likelihood = (g: Weighed[]) => g.reduce((sum, w) => sum + w.likelihood, 0);
  return groups.map((g) => g.map((k) => left[k]!)).sort((a, b) => likelihood(b) - likelihood(a));
}

/** What each explanation expects of each measurement. */
function expectedOf(rig: Rig, left: readonly Weighed[], candidates: readonly Measurement[]): Expected[][] {
  const grounds: Grounds = { range: rig.range, tolerance: rig.tolerance };
  return left.map(({ explanation, fit }) => {
    const model = modelOf(rig, explanation);
    const { values, rows } = predictorOf(model, rig.range, candidates).slopes(
      fit.unknowns.map((k) => k.value),
    );
    return candidates.map((m, i): Expected => {
      const mean = values[i]!;
      const over = 'range' in m ? !(Math.abs(mean) <= m.range.upTo) : Number.isNaN(mean);
      if (over) return { mean: null, u: 0 };
      const row = rows[i]!;
      const spread = row.reduce(
        (sum, a, j) => sum + row.reduce((s, b, k) => s + a * b * fit.covariance[j]![k]!, 0),
        0,
      );
      const gain = 'range' in m ? (mean * m.range.ofReading) / Math.sqrt(3) : 0;
      const own = ownUncertainty(m, grounds, model.drifted);
      return { mean, u: Math.sqrt(Math.max(0, spread) + gain ** 2 + own ** 2) };
    });
  });
}

/** Places and weights of Gauss and Hermite for seven points. Source: Abramowitz & Stegun, table 25.10. */
const hermite = [
  [-2.651961356835233, 0.000971781245099519],
  [-1.673551628767471, 0.05451558281912703],
  [-0.8162878828589647, 0.4256072526101278],
  [0, 0.8102646175568073],
  [0.8162878828589647, 0.4256072526101278],
  [1.673551628767471, 0.05451558281912703],
  [2.651961356835233, 0.000971781245099519],
] as const;

/** Bit that an outcome is expected to tell of which of them holds. */
function information(p: readonly number[], expected: readonly Expected[]): number {
  const density = (k: number, y: number) => {
    const { mean, u } = expected[k]!;
    return mean === null ? 0 : Math.exp(-(((y - mean) / u) ** 2) / 2) / (u * Math.sqrt(2 * Math.PI));
  };
  const none = p.reduce((sum, its, k) => sum + (expected[k]!.mean === null ? its : 0), 0);
  let nats = 0;
  for (const [h, its] of p.entries()) {
    const { mean, u } = expected[h]!;
    if (mean === null) {
      nats -= its * Math.log(none);
      continue;
    }
    for (const [t, weight] of hermite) {
      const y = mean + Math.SQRT2 * u * t;
      const mixed = p.reduce((sum, q, k) => sum + q * density(k, y), 0);
      nats += (its * weight * Math.log(density(h, y) / mixed)) / Math.sqrt(Math.PI);
    }
  }
  return Math.max(0, nats / Math.LN2);
}
