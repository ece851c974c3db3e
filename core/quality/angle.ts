/**
 * Signed difference a − b of two directions on the circle, −180 … 180°. Any finite degrees.
 *
 * @example angleDifference(350, 20) // -30
 */
export function angleDifference(a: number, b: number): number {
  let d = (a - b) % 360;
  if (d > 180) d -= 360;
  else if (d < -180) d += 360;
  return d;
}
