/**
 * How far each residual follows the one before it: its correlation at a lag of one, −1 to 1; 0 where nothing scatters.
 *
 * @param residuals in their order
 * @example followOf([1, -1, 1, -1]) // -0.75
 */
export function followOf(residuals: readonly number[]): number {
  let [together, all] = [0, 0];
  for (const [i, r] of residuals.entries()) {
    all += r * r;
    if (i > 0) together += r * residuals[i - 1]!;
  }
  return all > 0 ? together / all : 0;
}
