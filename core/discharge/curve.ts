import { finite, positive } from '../valid';

/** A place at which a curve was set: it is led by these. */
export interface Support {
  /** m above the station's zero. */
  readonly level: number;
  readonly k: number;
}

/** Supports with the slopes between them, for whoever asks a million times. */
export interface Curve {
  readonly levels: Float64Array;
  readonly ks: Float64Array;
  /** Slope of the curve at each support, 1/m. */
  readonly slopes: Float64Array;
}

/**
 * A smooth curve through its supports that never runs beyond the two beside it; before the first and after the last it
 * stays as they are.
 *
 * Source: Fritsch & Butland (1984), weighted harmonic means of the slopes beside each support (from memory); monotone
 * between supports by Fritsch & Carlson (1980).
 *
 * @param supports levels ascending, one or more; RangeError otherwise, and for a k that is not above 0
 */
export function curveThrough(supports: readonly Support[]): Curve {
  if (supports.length === 0) throw new RangeError('a curve needs a support');
  const n = supports.length;
  const levels = Float64Array.from(supports, (s) => finite('level', s.level));
  const ks = Float64Array.from(supports, (s) => positive('k', s.k));
  const steps = new Float64Array(Math.max(0, n - 1));
  const secants = new Float64Array(Math.max(0, n - 1));
  for (let i = 0; i + 1 < n; i++) {
    steps[i] = levels[i + 1]! - levels[i]!;
    if (!(steps[i]! > 0)) throw new RangeError(`two supports at ${levels[i + 1]} m, or out of order`);
    secants[i] = (ks[i + 1]! - ks[i]!) / steps[i]!;
  }
  const slopes = new Float64Array(n);
  for (let i = 1; i + 1 < n; i++) {
    const [before, after] = [secants[i - 1]!, secants[i]!];
    if (before * after <= 0) continue;
    const [w1, w2] = [2 * steps[i]! + steps[i - 1]!, steps[i]! + 2 * steps[i - 1]!];
    slopes[i] = (w1 + w2) / (w1 / before + w2 / after);
  }
  return { levels, ks, slopes };
}

/**
 * The curve at a level.
 *
 * @param level m, finite
 */
export function kAt({ levels, ks, slopes }: Curve, level: number): number {
  const n = levels.length;
  if (level <= levels[0]!) return ks[0]!;
  if (level >= levels[n - 1]!) return ks[n - 1]!;
  let i = 0;
  while (levels[i + 1]! <= level) i++;
  const step = levels[i + 1]! - levels[i]!;
  const t = (level - levels[i]!) / step;
  const [t2, t3] = [t * t, t * t * t];
  return (
    ks[i]! * (2 * t3 - 3 * t2 + 1) +
    ks[i + 1]! * (3 * t2 - 2 * t3) +
    step * (slopes[i]! * (t3 - 2 * t2 + t) + slopes[i + 1]! * (t3 - t2))
  );
}

/** Ratios of mean to surface velocity that anybody found; outside, it is asked. */
export const usualK: readonly [number, number] = [0.3, 1.2];

/**
 * Mean ÷ surface velocity over a rough bed by the logarithmic velocity distribution: k = 1 − 1 / ln(30 h / kₛ).
 *
 * Source: Prandtl and von Kármán's law of the wall over a rough bed, as in Chow, Open-Channel Hydraulics (1959), ch. 8
 * (from memory); mean over the depth by integration.
 *
 * @param depth mean depth, m, > 0; RangeError otherwise
 * @param roughness height of the bed's grains or weed, kₛ, m, > 0; RangeError otherwise
 * @returns 0.5 where the bed is as rough as the water deep, and below
 * @example logLawK(1, 0.1).toFixed(3) // '0.825'
 */
export function logLawK(depth: number, roughness: number): number {
  const over = Math.log((30 * positive('depth', depth)) / positive('roughness', roughness));
  return over > 2 ? 1 - 1 / over : 0.5;
}
