import type { LevelReadingView, WaterView } from '@/contract/water';
import { roundTo } from '@/core/quantity/format';
import { crestPeaks, type RecordPeak } from '@/core/water/crestPeaks';
import { levelSum, rechargedBefore, type LevelRecord } from '@/core/water/levelSum';
import { elevationAt } from '@/core/water/measuringPoint';
import { query, row, rows, type Database } from '@/db/database';
import { shown } from '@/db/record';
import { stationHead } from '../station/stationBasics';
import type { Context } from '../context';
import { againstRecord, levelChannels, type LevelChannel } from './against';
import { readingOf, revisionOf, waterFile, type WaterFile } from './load';

/** So many readings are shown, newest first. */
const mostShown = 120;

/** Everything of a station's levels: what they are read from, how it was levelled, what was read. */
export async function waterView(ctx: Pick<Context, 'db' | 'now'>, stationId: string): Promise<WaterView> {
  const { db } = ctx;
  const now = ctx.now().getTime();
  const [head, file, datum, people] = await Promise.all([
    stationHead(db, stationId),
    waterFile(db, stationId),
    row(db.stationDatum, {
      where: { stationId },
      order: [
        ['recordedAt', 'DESC'],
        ['id', 'DESC'],
      ],
    }),
    rows(db.person, {}),
  ]);
  const { channels } = await levelChannels(db, stationId, file, now);
  const initials = new Map(people.map((p) => [p.id, p.initials]));
  const by = (personId: string) => initials.get(personId) ?? '';
  const all = file.readings.map(readingOf);
  const record: LevelRecord = { readings: all, revisions: file.revisions.map(revisionOf) };
  const readings = await Promise.all(
    file.readings.slice(0, mostShown).map(async (r): Promise<LevelReadingView> => {
      const reading = readingOf(r);
      const channel = channelFor(file, channels, r.pointId);
      return {
        ...reading,
        by: by(r.personId),
        lookedAgain: r.lookedAgain,
        against:
          channel &&
          (await againstRecord(reading, levelSum(reading, record), channel, zeroFlowAt(file, reading.at))),
      };
    }),
  );
  return {
    ...head,
    datum: datum && { id: datum.id, name: datum.name, others: datum.others },
    points: file.points.map((p) => ({
      id: p.id,
      code: p.code,
      name: p.name,
      kind: p.kind,
      channelId: p.channelId,
      retiredAt: p.retiredAt?.toISOString() ?? null,
    })),
    elevations: file.elevations,
    surveys: file.surveys.map((s) => ({
      id: s.id,
      surveyedAt: s.surveyedAt.toISOString(),
      surveyedBy: s.surveyedBy,
      note: s.note,
      sheet: s.sheet,
      by: by(s.personId),
    })),
    readings,
    hasMore: file.readings.length > mostShown,
    revisions: file.revisions.map((r) => ({ ...revisionOf(r), by: by(r.personId) })),
    channels: channels.map((c) => c.view),
    crests: await crestsOf(db, file, channels, now),
  };
}

/** The channel that a reading stands beside: that of its point, else the first of water level. */
export const channelFor = (
  { points }: Pick<WaterFile, 'points'>,
  channels: readonly LevelChannel[],
  pointId: string | null,
): LevelChannel | null => {
  const own = points.find((p) => p.id === pointId)?.channelId;
  return channels.find((c) => c.view.id === own) ?? channels[0] ?? null;
};

/** The lowest point of the bed at an instant: there nothing flows any more. */
export const zeroFlowAt = ({ points, elevations }: WaterFile, at: number): number | null =>
  points
    .filter((p) => p.kind === 'bed')
    .map((p) => elevationAt(elevations, p.id, at)?.elevation ?? null)
    .reduce<number | null>((low, e) => (low === null ? e : e === null ? low : Math.min(low, e)), null);

/** Nobody leaves a gauge longer than this, days. */
const longestUnread = 400;

/** Of each crest-stage gauge, the crests of the record since it was recharged last. */
async function crestsOf(
  db: Database,
  file: WaterFile,
  channels: readonly LevelChannel[],
  now: number,
): Promise<Record<string, readonly RecordPeak[]>> {
  const crests: Record<string, readonly RecordPeak[]> = {};
  for (const p of file.points.filter((x) => x.kind === 'crest-stage' && !x.retiredAt)) {
    const channel = channelFor(file, channels, p.id);
    if (!channel) continue;
    const recharged = rechargedBefore(p.id, Infinity, file.readings.map(readingOf));
    const since = Math.max(recharged ?? 0, now - longestUnread * 86_400_000);
    const found = await query<{ at: number; level: number }>(
      db,
      // The highest hours, and of each the reading that made it so.
      `select extract(epoch from r.at)::float8 * 1000 as at, r.value as level
         from station s join channel c on c.station_id = s.id
         cross join lateral (
           select bucket from reading_rollup
            where station_key = s.key and channel_key = c.key and width = 3600 and bucket >= :since
            order by max desc limit 120) u
         cross join lateral (
           select at, value from reading
            where station_key = s.key and channel_key = c.key and at >= u.bucket and at < u.bucket + interval '1 hour'
              and ${shown('s.key')}
            order by value desc, at limit 1) r
        where s.id = :stationId and c.id = :channelId`,
      { stationId: p.stationId, channelId: channel.view.id, since: new Date(since) },
    );
    const zero = channel.view.zero ?? 0;
    const above = found.map((f) => ({ at: f.at, level: roundTo(f.level + zero, 3) }));
    crests[p.id] = crestPeaks(above, since, Math.max(0, ...above.map((f) => f.level)), 5);
  }
  return crests;
}
