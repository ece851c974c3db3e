import type { Milliseconds } from '../time';
import { curveThrough, kAt, type Support } from './curve';
import { dischargeAt, dischargeDoubt, dischargeDoubts, type Curves } from './discharge';
import { inForceAt, versionAt, type HoldsFrom } from './inForce';
import { levelRatingAt, type LevelRating } from './rating';
import { areaBy, sectionTable, type SectionPoint, type SectionTable } from './section';

export interface HeldSection extends HoldsFrom {
  readonly points: readonly SectionPoint[];
}
export interface HeldCurve extends HoldsFrom {
  readonly forward: readonly Support[];
  readonly reverse: readonly Support[] | null;
}

export interface HeldRating extends HoldsFrom, LevelRating {}

/**
 * How a station's discharge is reckoned from a level alone, by the rating that was made last for an instant.
 *
 * @param ratings in the order they were entered
 * @returns m³/s; NaN where none is on file
 */
export const ratedBy =
  (ratings: readonly HeldRating[]) =>
  (at: Milliseconds, level: number): number => {
    const rating = versionAt(ratings, at);
    return rating ? levelRatingAt(rating, level) : Number.NaN;
  };

/**
 * How a station's discharge is reckoned from a level and a velocity at an instant: by the section that was measured last
 * until then, and the curve that was led last for it.
 *
 * @param sections in the order they were entered
 * @param curves likewise
 * @returns m³/s; NaN where no section or no curve is on file
 */
export function stationDischarge(
  sections: readonly HeldSection[],
  curves: readonly HeldCurve[],
): (at: Milliseconds, level: number, velocity: number) => number {
  const by = heldBy(sections, curves);
  return (at, level, velocity) => {
    const held = by(at);
    return held ? dischargeAt(held.table, held.curves, level, velocity) : Number.NaN;
  };
}

/**
 * What a discharge of a station is good to, from its level and itself at an instant: expanded (k = 2), m³/s.
 *
 * Source: `dischargeDoubt`; the velocity is what the discharge says by section and curve.
 *
 * @param sections, curves as for `stationDischarge`, with their expanded relative uncertainty
 * @param tolerance of the sensors of level, m, and velocity, m/s
 * @returns NaN where no section or no curve is on file
 */
export function stationDoubt(
  sections: readonly (HeldSection & Doubtful)[],
  curves: readonly (HeldCurve & Doubtful)[],
  tolerance: { readonly level: number; readonly velocity: number },
): (at: Milliseconds, level: number, discharge: number) => number {
  const by = heldBy(sections, curves);
  return (at, level, discharge) => {
    const held = by(at);
    if (!held) return Number.NaN;
    const { table, curves: led } = held;
    const area = areaBy(table, level);
    const k = kAt(discharge < 0 && led.reverse ? led.reverse : led.forward, level);
    const doubts = dischargeDoubts({
      ...tolerance,
      section: held.section.uncertainty,
      k: held.curve.uncertainty,
    });
    return dischargeDoubt(table, led, level, area > 0 ? discharge / (k * area) : 0, doubts);
  };
}

interface Doubtful {
  /** Expanded relative uncertainty, share. */
  readonly uncertainty: number;
}

/** Section and curve that hold at an instant, ready to be reckoned with; null where one is not on file. */
function heldBy<S extends HeldSection, C extends HeldCurve>(sections: readonly S[], curves: readonly C[]) {
  const tables = new Map<string, SectionTable>(sections.map((s) => [s.id, sectionTable(s.points)]));
  const through = new Map<string, Curves>(curves.map((c) => [c.id, curvesOf(c)]));
  return (at: Milliseconds) => {
    const section = inForceAt(sections, at);
    const curve = versionAt(curves, at);
    return (
      section && curve && { section, curve, table: tables.get(section.id)!, curves: through.get(curve.id)! }
    );
  };
}

export const curvesOf = ({ forward, reverse }: Pick<HeldCurve, 'forward' | 'reverse'>): Curves => ({
  forward: curveThrough(forward),
  reverse: reverse && curveThrough(reverse),
});
