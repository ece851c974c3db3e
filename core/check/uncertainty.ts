import jstat from 'jstat';
import { finite, notNegative } from '../valid';

/**
 * Standard uncertainties and how they combine.
 * Source: JCGM 100:2008 (GUM): rectangular 4.3.7, resolution F.2.2.1, repeats 4.2.3,
 * combination 5.1.2, effective degrees of freedom and coverage G.4, G.6.4.
 */
export interface Contribution {
  readonly name: string;
  /** Standard uncertainty, base unit, ≥ 0. */
  readonly u: number;
  /** Degrees of freedom; Infinity for limits taken from a data sheet. */
  readonly dof: number;
  /** How u came about: a limit, a resolution or a scatter, base unit, over the root of a number: 0.5 / √3. */
  readonly of: number;
  readonly root: number;
}

/** Limits ± a, every value between equally likely: a/√3. Limit ≥ 0. */
export const rectangular = (name: string, limit: number): Contribution => ({
  name,
  u: notNegative(name, limit) / Math.sqrt(3),
  dof: Infinity,
  of: limit,
  root: 3,
});

/** An expanded uncertainty at k = 2, as certificates state it: U/2 (4.3.3). U ≥ 0. */
export const expanded = (name: string, uncertainty: number): Contribution => ({
  name,
  u: notNegative(name, uncertainty) / 2,
  dof: Infinity,
  of: uncertainty,
  root: 4,
});

/** Reading in steps of r: r/√12. Resolution ≥ 0. */
export const readTo = (name: string, resolution: number): Contribution => ({
  name,
  u: notNegative(name, resolution) / Math.sqrt(12),
  dof: Infinity,
  of: resolution,
  root: 12,
});

/** Mean of n repeats: s/√n with n − 1 degrees of freedom; null for fewer than two. */
export function repeats(name: string, values: readonly number[]): Contribution | null {
  const n = values.length;
  for (const v of values) finite(name, v);
  if (n < 2) return null;
  const s = standardDeviation(values);
  return { name, u: s / Math.sqrt(n), dof: n - 1, of: s, root: n };
}

/**
 * Arithmetic mean; NaN for none.
 *
 * @example mean([1, 2, 6]) // 3
 */
export const mean = (values: readonly number[]): number => values.reduce((s, v) => s + v, 0) / values.length;

/**
 * Sample standard deviation (n − 1); 0 for fewer than two values.
 *
 * @example standardDeviation([1, 2, 6]) // 2.6458
 */
export function standardDeviation(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const m = mean(values);
  return Math.sqrt(values.reduce((s, v) => s + (v - m) ** 2, 0) / (values.length - 1));
}

export interface Combined {
  /** Combined standard uncertainty. */
  readonly u: number;
  /** Effective degrees of freedom (Welch–Satterthwaite), Infinity when no repeats take part. */
  readonly dof: number;
  /** Coverage factor for about 95 %. */
  readonly k: number;
  /** Expanded uncertainty k·u. */
  readonly U: number;
}

/** Root sum of squares, Welch–Satterthwaite degrees of freedom, coverage factor, k·u. */
export function combine(contributions: readonly Contribution[]): Combined {
  let [squares, fourths] = [0, 0];
  for (const { name, u, dof } of contributions) {
    const square = notNegative(name, u) * u;
    squares += square;
    fourths += (square * square) / dof;
  }
  const u = Math.sqrt(squares);
  const dof = fourths > 0 ? (squares * squares) / fourths : Infinity;
  const k = coverageFactor(dof);
  return { u, dof, k, U: k * u };
}

/**
 * Coverage factor for about 95 %: Student's t at the effective degrees of freedom, rounded down to
 * whole ones (GUM G.4.1), and never below the conventional 2.00 that it approaches when they are
 * many (GUM G.6.6). 2 degrees: 4.30. Degrees ≥ 1, RangeError below.
 * @example coverageFactor(Infinity) // 2
 */
export function coverageFactor(dof: number): number {
  if (!(dof >= 1)) throw new RangeError(`degrees of freedom ${dof} must be at least 1`);
  if (dof > 1000) return 2;
  return Math.max(2, studentAt(0.975, Math.floor(dof)));
}

/**
 * Student's t below which so large a share of chance lies.
 *
 * @param share 0 < share < 1
 * @param dof whole degrees of freedom, ≥ 1; RangeError below
 * @example Number(studentAt(0.975, 4).toFixed(3)) // 2.776
 */
export function studentAt(share: number, dof: number): number {
  if (!(dof >= 1)) throw new RangeError(`degrees of freedom ${dof} must be at least 1`);
  if (!(share > 0 && share < 1)) throw new RangeError(`a share of ${share} lies outside 0 to 1`);
  const known = (quantiles[share] ??= []);
  return (known[dof] ??= jstat.studentt.inv(share, dof));
}

/** By share and degrees, reckoned once each: whoever judges thousands of checks again asks for the same few. */
const quantiles: Record<number, number[]> = {};

/**
 * Eₙ = (x − X)/√(U_x² + U_X²), all in one unit; |Eₙ| ≤ 1 is satisfactory.
 * Source: ISO 13528 and ISO/IEC 17043, B.3. RangeError when both uncertainties are 0.
 */
export function normalizedError(x: number, reference: number, ux: number, uReference: number): number {
  finite('x', x);
  finite('reference', reference);
  const denominator = Math.hypot(notNegative('U of x', ux), notNegative('U of the reference', uReference));
  if (!(denominator > 0)) throw new RangeError('Eₙ needs an uncertainty above 0');
  return (x - reference) / denominator;
}
