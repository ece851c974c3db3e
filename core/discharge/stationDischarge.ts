import type { Milliseconds } from '../time';
import { curveThrough, type Support } from './curve';
import { dischargeAt, type Curves } from './discharge';
import { inForceAt, versionAt, type HoldsFrom } from './inForce';
import { levelRatingAt, type LevelRating } from './rating';
import { sectionTable, type SectionPoint, type SectionTable } from './section';

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
  const tables = new Map<string, SectionTable>(sections.map((s) => [s.id, sectionTable(s.points)]));
  const through = new Map<string, Curves>(curves.map((c) => [c.id, curvesOf(c)]));
  return (at, level, velocity) => {
    const section = inForceAt(sections, at);
    const curve = versionAt(curves, at);
    if (!section || !curve) return Number.NaN;
    return dischargeAt(tables.get(section.id)!, through.get(curve.id)!, level, velocity);
  };
}

export const curvesOf = ({ forward, reverse }: Pick<HeldCurve, 'forward' | 'reverse'>): Curves => ({
  forward: curveThrough(forward),
  reverse: reverse && curveThrough(reverse),
});
