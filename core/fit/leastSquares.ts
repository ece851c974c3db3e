/**
 * The normal equations of least squares with what is believed beforehand: how firmly each unknown is held, by the
 * residuals that follow it and by belief. Unknowns may lie decades apart: they are scaled to ones before anything is
 * solved. Cholesky's decomposition is our own here: a general library took five times as long for twenty unknowns,
 * most of it for making matrices, and an explanation is weighed by dozens of these.
 */
export interface Normal {
  readonly size: number;
  /** Factor by which each unknown is scaled. */
  readonly scale: Float64Array;
  /** Lower triangle whose product with itself is the scaled matrix, row by row. */
  readonly lower: Float64Array;
}

/**
 * @param rows how each residual follows each unknown
 * @param sigma standard uncertainty of each unknown beforehand, above 0
 * @param bend what is added to the diagonal: curvature that the rows leave out, 0 or more
 */
export function normalOf(
  rows: readonly ArrayLike<number>[],
  sigma: readonly number[],
  bend: readonly number[] = [],
): Normal {
  const n = sigma.length;
  const a = new Float64Array(n * n);
  for (const row of rows)
    for (let i = 0; i < n; i++) {
      const its = row[i]!;
      if (its === 0) continue;
      for (let j = 0; j <= i; j++) a[i * n + j]! += its * row[j]!;
    }
  const scale = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    a[k * n + k]! += 1 / sigma[k]! ** 2 + (bend[k] ?? 0);
    scale[k] = 1 / Math.sqrt(a[k * n + k]!);
  }
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]! * (scale[i]! * scale[j]!);
      for (let k = 0; k < j; k++) sum -= a[i * n + k]! * a[j * n + k]!;
      a[i * n + j] = i === j ? Math.sqrt(sum) : sum / a[j * n + j]!;
    }
  return { size: n, scale, lower: a };
}

/** The unknowns for which the equations hold. */
export function solveNormal({ size: n, scale, lower }: Normal, right: readonly number[]): number[] {
  const x = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    x[i] = right[i]! * scale[i]!;
    for (let k = 0; k < i; k++) x[i]! -= lower[i * n + k]! * x[k]!;
    x[i]! /= lower[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= lower[k * n + i]! * x[k]!;
    x[i]! /= lower[i * n + i]!;
  }
  return Array.from(x, (v, k) => v * scale[k]!);
}

/** Covariance of the unknowns, row by row: the lower triangle inverted, and that times itself. */
export function covarianceOf({ size: n, scale, lower }: Normal): number[][] {
  const inverse = new Float64Array(n * n);
  for (let k = 0; k < n; k++) {
    inverse[k * n + k] = 1 / lower[k * n + k]!;
    for (let i = k + 1; i < n; i++) {
      let sum = 0;
      for (let j = k; j < i; j++) sum -= lower[i * n + j]! * inverse[j * n + k]!;
      inverse[i * n + k] = sum / lower[i * n + i]!;
    }
  }
  const found = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  for (let a = 0; a < n; a++)
    for (let b = 0; b <= a; b++) {
      let sum = 0;
      for (let i = a; i < n; i++) sum += inverse[i * n + a]! * inverse[i * n + b]!;
      found[a]![b] = found[b]![a] = sum * scale[a]! * scale[b]!;
    }
  return found;
}

/** ln of the determinant. */
export function lnDeterminant({ size: n, scale, lower }: Normal): number {
  let ln = 0;
  for (let k = 0; k < n; k++) ln += 2 * Math.log(lower[k * n + k]! / scale[k]!);
  return ln;
}
