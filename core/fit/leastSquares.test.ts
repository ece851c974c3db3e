import { det, inv, lusolve, type Matrix } from 'mathjs';
import { normal as normalNumbers, uniform } from '@/test/simulate';
import { covarianceOf, lnDeterminant, normalOf, solveNormal } from './leastSquares';

test('solved as a general library solves it, with unknowns that lie twelve decades apart', () => {
  const random = normalNumbers(uniform(4));
  for (let round = 0; round < 30; round++) {
    const n = 2 + (round % 7);
    const sigma = Array.from({ length: n }, (_, k) => 10 ** (k % 2 ? 6 : -6));
    const rows = Array.from({ length: n + 2 }, () => sigma.map((s) => random() / s));
    const bend = sigma.map((s) => (random() > 0 ? 0.5 / s ** 2 : 0));
    const matrix = sigma.map((s, i) =>
      sigma.map(
        (_, j) => rows.reduce((sum, r) => sum + r[i]! * r[j]!, 0) + (i === j ? 1 / s ** 2 + bend[i]! : 0),
      ),
    );
    const right = sigma.map((s) => random() / s);
    const made = normalOf(rows, sigma, bend);
    const wanted = (lusolve(matrix, right) as unknown as number[][]).map((r) => r[0]!);
    solveNormal(made, right).forEach((v, k) => expect(v / sigma[k]!).toBeCloseTo(wanted[k]! / sigma[k]!, 7));
    const inverse = inv(matrix) as unknown as number[][] | Matrix;
    const covariance = covarianceOf(made);
    (Array.isArray(inverse) ? inverse : (inverse.toArray() as number[][])).forEach((row, i) =>
      row.forEach((v, j) =>
        expect(covariance[i]![j]! / (sigma[i]! * sigma[j]!)).toBeCloseTo(v / (sigma[i]! * sigma[j]!), 7),
      ),
    );
    // Scaled by hand, since the library's determinant overflows otherwise.
    const unit = matrix.map((row, i) => row.map((v, j) => v * sigma[i]! * sigma[j]!));
    const ln = Math.log(det(unit)) - 2 * sigma.reduce((sum, s) => sum + Math.log(s), 0);
    expect(lnDeterminant(made)).toBeCloseTo(ln, 7);
  }
});
