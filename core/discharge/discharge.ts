import { finite, notNegative } from '../valid';
import { kAt, type Curve } from './curve';
import { areaBy, widthBy, type SectionTable } from './section';

/** Curves of one station: against the stream water runs over other banks. */
export interface Curves {
  readonly forward: Curve;
  /** Null where it never runs back, or nobody gauged it: then the forward one stands in. */
  readonly reverse: Curve | null;
}

/** Standard uncertainties that a discharge rests on. */
export interface DischargeDoubt {
  /** Of the section's area, share: one error for all values. */
  readonly section: number;
  /** Of k, share: likewise. */
  readonly k: number;
  /** Of a level, m. */
  readonly level: number;
  /** Of a velocity, share, and at least so many m/s. */
  readonly velocity: number;
  readonly velocityLeast: number;
}

/**
 * Standard uncertainties from what somebody knows of a station: expanded shares of section and k (k = 2), and tolerances
 * of its sensors, within which every value is as likely.
 *
 * Source: JCGM 100:2008, 4.3.7 (a tolerance ± a counts as a / √3) and 6.2.1 (U = k · u).
 *
 * @param of shares, m and m/s, all ≥ 0; RangeError otherwise
 */
export const dischargeDoubts = (of: {
  readonly section: number;
  readonly k: number;
  readonly level: number;
  readonly velocity: number;
}): DischargeDoubt => ({
  section: notNegative('section', of.section) / 2,
  k: notNegative('k', of.k) / 2,
  level: notNegative('level', of.level) / Math.sqrt(3),
  velocity: 0,
  velocityLeast: notNegative('velocity', of.velocity) / Math.sqrt(3),
});

/**
 * Discharge from level and surface velocity: k(h) · v · A(h), m³/s; against the stream negative, by the reverse curve.
 *
 * Source: velocity-index method with a surface velocity, ISO 15769 in substance (from memory).
 *
 * @param level m above the station's zero; NaN gives NaN
 * @param velocity m/s; NaN gives NaN
 */
export const dischargeAt = (
  section: SectionTable,
  { forward, reverse }: Curves,
  level: number,
  velocity: number,
): number => kAt(velocity < 0 && reverse ? reverse : forward, level) * velocity * areaBy(section, level);

/**
 * Discharges of a record, m³/s, one for each pair; NaN where either is missing.
 *
 * @param levels m
 * @param velocities m/s, as many
 */
export function dischargesOf(
  section: SectionTable,
  curves: Curves,
  levels: Float64Array,
  velocities: Float64Array,
): Float64Array {
  const found = new Float64Array(levels.length);
  for (let i = 0; i < levels.length; i++) found[i] = dischargeAt(section, curves, levels[i]!, velocities[i]!);
  return found;
}

/**
 * Expanded uncertainty (k = 2) of one discharge, m³/s: section, k, velocity and level combined.
 *
 * Source: JCGM 100:2008, 5.1.2: relative shares in root sum of squares; a level enters by the width of the surface,
 * dA/dh = W.
 *
 * @param level m, finite
 * @param velocity m/s, finite
 * @param doubt all ≥ 0
 */
export function dischargeDoubt(
  section: SectionTable,
  curves: Curves,
  level: number,
  velocity: number,
  doubt: DischargeDoubt,
): number {
  const discharge = Math.abs(
    dischargeAt(section, curves, finite('level', level), finite('velocity', velocity)),
  );
  const area = areaBy(section, level);
  if (area === 0) return 0;
  const k = kAt(velocity < 0 && curves.reverse ? curves.reverse : curves.forward, level);
  const ofLevel = (notNegative('level', doubt.level) * widthBy(section, level)) / area;
  const ofVelocity = Math.max(
    notNegative('velocity', doubt.velocity) * Math.abs(velocity),
    doubt.velocityLeast,
  );
  return 2 * Math.hypot(discharge * Math.hypot(doubt.section, doubt.k, ofLevel), k * area * ofVelocity);
}
