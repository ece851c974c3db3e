import type { Transaction } from 'sequelize';
import type { LevelReading, LevelRevision } from '@/core/water/levelReading';
import { elevationAt, type PointElevation } from '@/core/water/measuringPoint';
import { askAll, query, rows, type Database } from '@/db/database';
import type { LevelReadingRow, LevelRevisionRow, LevelSurveyRow, MeasuringPointRow } from '@/db/rows';

/** All that is on file of a station's levels and holds. */
export interface WaterFile {
  readonly points: readonly MeasuringPointRow[];
  readonly surveys: readonly LevelSurveyRow[];
  readonly elevations: readonly PointElevation[];
  /** Newest first. */
  readonly readings: readonly LevelReadingRow[];
  readonly revisions: readonly LevelRevisionRow[];
}

/**
 * The file of a station. What was taken back is not in it.
 *
 * @param since readings before it are left out, and what was found out of them
 */
export async function waterFile(
  db: Database,
  stationId: string,
  tx?: Transaction,
  since = new Date(0),
): Promise<WaterFile> {
  const holds = { transaction: tx, where: { stationId, takenBackAt: null } };
  const [points, surveys, elevations, readings, revisions] = await askAll(tx, [
    () => rows(db.measuringPoint, { transaction: tx, where: { stationId }, order: [['code', 'ASC']] }),
    () => rows(db.levelSurvey, { ...holds, order: [['surveyedAt', 'DESC']] }),
    () =>
      query<{ pointId: string; surveyId: string; at: Date; elevation: number; accuracy: number }>(
        db,
        `select e.point_id as "pointId", e.survey_id as "surveyId", s.surveyed_at as at, e.elevation, e.accuracy
           from point_elevation e join level_survey s on s.station_id = e.station_id and s.id = e.survey_id
          where e.station_id = :stationId and s.taken_back_at is null order by s.surveyed_at`,
        { stationId },
        tx,
      ),
    () =>
      rows(db.levelReading, {
        ...holds,
        order: [
          ['readAt', 'DESC'],
          ['id', 'DESC'],
        ],
      }),
    () => rows(db.levelRevision, { ...holds, order: [['recordedAt', 'ASC']] }),
  ]);
  return {
    points,
    surveys,
    elevations: elevations.map((e) => ({ ...e, at: e.at.getTime() })),
    readings: readings.filter((r) => r.readAt >= since),
    revisions,
  };
}

export const readingOf = (r: LevelReadingRow): LevelReading => ({
  id: r.id,
  pointId: r.pointId,
  at: r.readAt.getTime(),
  read: r.read,
  accuracy: r.accuracy,
  elevation:
    r.surveyId === null
      ? null
      : { surveyId: r.surveyId, elevation: r.elevation!, accuracy: r.elevationAccuracy! },
});

export const revisionOf = ({
  id,
  readingId,
  because,
  adds,
  surveyId,
  reason,
}: LevelRevisionRow): LevelRevision => ({
  id,
  readingId,
  because,
  adds,
  surveyId,
  reason,
});

/**
 * The elevation that a channel's values count from, by instant (ms): of its zero as it was levelled; null where it logs
 * above the station's zero.
 */
export function zeroOf(
  { points, elevations }: Pick<WaterFile, 'points' | 'elevations'>,
  channelId: string,
): (at: number) => number | null {
  const zeros = points.filter((p) => p.kind === 'sensor-zero' && p.channelId === channelId);
  return (at) =>
    zeros.reduce<number | null>((z, p) => elevationAt(elevations, p.id, at)?.elevation ?? z, null);
}
