/**
 * Mean direction from the sums of sines and cosines, degrees 0–360; NaN when the directions cancel
 * out and no mean exists. 350°, 10° and 20° give 6.7°.
 * Source: Mardia & Jupp, Directional Statistics (2000), 2.2.1 (from memory).
 */
export function circularMean(sinSum: number, cosSum: number): number {
  if (Math.hypot(sinSum, cosSum) < 1e-9) return Number.NaN;
  const degrees = (Math.atan2(sinSum, cosSum) * 180) / Math.PI;
  return degrees < 0 ? degrees + 360 : degrees;
}
