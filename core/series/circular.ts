import { finite, positive } from '../valid';

/** A mean direction and how much of one there is. */
export interface MeanDirection {
  /** Degrees, 0 ≤ d < 360; NaN where the directions have none in common. */
  readonly degrees: number;
  /** Mean resultant length R/n, 0 (all round) to 1 (all alike). */
  readonly strength: number;
}

/** A mean is said from this strength on, however few the readings. Our own choice: within about 60° of each other. */
const clearly = 0.5;
/** Below it, when so many agree that chance would not do it: n·(R/n)² of Rayleigh's test at 5 %. */
const rayleigh = 3;

/**
 * Mean direction of n readings from the sums of their sines and cosines, with its strength. 350°, 10°
 * and 20° give 6.7°; opposite directions, or ones all round the circle, give none.
 * Source: Mardia & Jupp, Directional Statistics (2000), 2.2.1 and 6.3.1 (from memory).
 *
 * @param n readings, > 0
 * @throws RangeError for sums that are not finite, or n not above 0
 * @example meanDirection(0.3420, 1.9254 + 0.9397, 3).degrees // 6.807
 */
export function meanDirection(sinSum: number, cosSum: number, n: number): MeanDirection {
  finite('sum of sines', sinSum);
  finite('sum of cosines', cosSum);
  positive('n', n);
  const strength = Math.min(1, Math.hypot(sinSum, cosSum) / n);
  if (strength < clearly && n * strength ** 2 < rayleigh) return { degrees: Number.NaN, strength };
  const degrees = (Math.atan2(sinSum, cosSum) * 180) / Math.PI;
  // A hair below 0 is 360 in floating point.
  return { degrees: degrees < 0 ? (degrees + 360) % 360 : degrees, strength };
}
