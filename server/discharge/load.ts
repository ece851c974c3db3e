import type { Transaction } from 'sequelize';
import { stationDischarge, type HeldCurve, type HeldSection } from '@/core/discharge/stationDischarge';
import { askAll, rows, type Database } from '@/db/database';
import type { CrossSectionRow, GaugingRow, KCurveRow } from '@/db/rows';
import { waterFile, zeroOf } from '../water/load';

/** What a station's discharge rests on, as far as it holds. In the order it was entered. */
export interface DischargeFile {
  readonly sections: readonly CrossSectionRow[];
  readonly curves: readonly KCurveRow[];
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
  const [sections, curves, gaugings] = await askAll(tx, [
    () => rows(db.crossSection, holds),
    () => rows(db.kCurve, holds),
    () => rows(db.gauging, holds),
  ]);
  return { sections, curves, gaugings };
}

export const sectionOf = (s: CrossSectionRow): HeldSection => ({
  id: s.id,
  from: s.holdsFrom.getTime(),
  points: s.points,
});
export const curveOf = (c: KCurveRow): HeldCurve => ({
  id: c.id,
  from: c.holdsFrom.getTime(),
  forward: c.forward,
  reverse: c.reverse,
});

/**
 * How discharge is reckoned at a station: by section and curve that hold at an instant, and the zero that the level counts
 * from then.
 *
 * @param levelId the channel of the level
 */
export async function dischargeBy(
  db: Database,
  stationId: string,
  levelId: string,
  tx?: Transaction,
): Promise<(at: number, level: number, velocity: number) => number> {
  const [{ sections, curves }, water] = await askAll(tx, [
    () => dischargeFile(db, stationId, tx),
    () => waterFile(db, stationId, tx),
  ]);
  const reckon = stationDischarge(sections.map(sectionOf), curves.map(curveOf));
  const zeroAt = zeroOf(water, levelId);
  return (at, level, velocity) => reckon(at, level + (zeroAt(at) ?? 0), velocity);
}
