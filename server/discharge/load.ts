import type { Transaction } from 'sequelize';
import {
  ratedBy,
  stationDischarge,
  type HeldCurve,
  type HeldRating,
  type HeldSection,
} from '@/core/discharge/stationDischarge';
import { askAll, rows, type Database } from '@/db/database';
import type { CrossSectionRow, DerivationRow, GaugingRow, KCurveRow, LevelRatingRow } from '@/db/rows';
import { waterFile, zeroOf } from '../water/load';

/** What a station's discharge rests on, as far as it holds. In the order it was entered. */
export interface DischargeFile {
  readonly sections: readonly CrossSectionRow[];
  readonly curves: readonly KCurveRow[];
  readonly ratings: readonly LevelRatingRow[];
  readonly gaugings: readonly GaugingRow[];
}

export async function dischargeFile(
  db: Database,
  stationId: string,
  tx?: Transaction,
): Promise<DischargeFile> {
  const holds = {
    transaction: tx,
    where: { stationId, takenBackAt: null },
    order: [
      ['recordedAt', 'ASC'],
      ['id', 'ASC'],
    ] as [string, string][],
  };
  const [sections, curves, ratings, gaugings] = await askAll(tx, [
    () => rows(db.crossSection, holds),
    () => rows(db.kCurve, holds),
    () => rows(db.levelRating, holds),
    () => rows(db.gauging, holds),
  ]);
  return { sections, curves, ratings, gaugings };
}

export const sectionOf = (s: CrossSectionRow): HeldSection => ({
  id: s.id,
  from: s.holdsFrom.getTime(),
  points: s.points,
});
export const ratingOf = (r: LevelRatingRow): HeldRating => ({
  id: r.id,
  from: r.holdsFrom.getTime(),
  segments: r.segments,
  shift: r.shift,
});
export const curveOf = (c: KCurveRow): HeldCurve => ({
  id: c.id,
  from: c.holdsFrom.getTime(),
  forward: c.forward,
  reverse: c.reverse,
});

/**
 * How a channel of discharge is reckoned: by the sections and curves of its station or by its ratings, and the zero that
 * the level counts from. Null for a channel of anything else.
 */
export async function dischargeBy(
  db: Database,
  { stationId, formula, inputs }: DerivationRow,
  tx?: Transaction,
): Promise<((at: number, level: number, velocity: number) => number) | null> {
  if (formula !== 'surfaceVelocity' && formula !== 'levelRating') return null;
  const [{ sections, curves, ratings }, water] = await askAll(tx, [
    () => dischargeFile(db, stationId, tx),
    () => waterFile(db, stationId, tx),
  ]);
  const reckon =
    formula === 'levelRating'
      ? ratedBy(ratings.map(ratingOf))
      : stationDischarge(sections.map(sectionOf), curves.map(curveOf));
  const zeroAt = zeroOf(water, inputs.level!);
  return (at, level, velocity) => reckon(at, level + (zeroAt(at) ?? 0), velocity);
}
