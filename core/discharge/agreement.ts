import { positive, finite, notNegative } from '../valid';

/** A gauging beside a curve: how far its k lies from it, and how well that is known. */
export interface Departure {
  /** (k of the gauging − k of the curve) ÷ k of the curve. */
  readonly share: number;
  /** Expanded uncertainty at 95 % of its own: gauging, velocity, level meanwhile; share. */
  readonly U: number;
}

export interface Together {
  readonly n: number;
  /** Weighted mean of the departures. */
  readonly share: number;
  /** ± at 95 %. */
  readonly U: number;
  /** Gaugings above the curve, and below it. */
  readonly above: number;
  readonly below: number;
  /** How often so one-sided a set would come by chance, two-sided. */
  readonly chance: number;
}

/**
 * Whether one gauging says that the curve is off: not while it may be chance.
 *
 * @param departure finite
 * @param common expanded uncertainty that all gaugings share, as of the section; share, ≥ 0
 */
export const isBeside = ({ share, U }: Departure, common = 0): boolean =>
  Math.abs(finite('departure', share)) > Math.hypot(U, notNegative('common uncertainty', common));

/**
 * What all gaugings say together: their mean, each by how well it is known. What they share, as the error of one section,
 * does not become less by gauging more often.
 *
 * Source: weighted mean, JCGM 100:2008 (5.1.2); sign test, Conover, Practical Nonparametric Statistics (from memory).
 *
 * @param departures one or more; RangeError for none, or for an uncertainty that is not above 0
 * @param common as for `isBeside`
 * @example allTogether([-0.04, -0.04, -0.04, -0.04].map((share) => ({ share, U: 0.05 }))).U // 0.025
 */
export function allTogether(departures: readonly Departure[], common = 0): Together {
  if (departures.length === 0) throw new RangeError('no gauging to go by');
  let [weights, sum, above, below] = [0, 0, 0, 0];
  for (const { share, U } of departures) {
    const weight = 1 / positive('uncertainty', U) ** 2;
    weights += weight;
    sum += weight * finite('departure', share);
    if (share > 0) above += 1;
    if (share < 0) below += 1;
  }
  return {
    n: departures.length,
    share: sum / weights,
    U: Math.hypot(1 / Math.sqrt(weights), notNegative('common uncertainty', common)),
    above,
    below,
    chance: signChance(above, below),
  };
}

/** Two-sided chance of so uneven a number of signs, each as likely as the other. */
function signChance(above: number, below: number): number {
  const n = above + below;
  if (n === 0) return 1;
  let tail = 0;
  let term = 1;
  for (let i = 0; i <= Math.min(above, below); i++) {
    tail += term;
    term *= (n - i) / (i + 1);
  }
  return Math.min(1, (2 * tail) / 2 ** n);
}
