import type { LevelReadingView, WaterView } from '@/contract/water';
import { roundTo } from '@/core/quantity/format';
import { crestPeaks, type RecordPeak } from '@/core/water/crestPeaks';
import { levelSum, rechargedBefore, type LevelRecord } from '@/core/water/levelSum';
import { query, row, rows, type Database } from '@/db/database';
import { shown } from '@/db/record';
import { stationHead } from '../station/stationBasics';
import { loadStation } from '../station/stationGraph';
import type { Context } from '../context';
import { airPressures } from './air';
import { againstRecord, channelFor, levelChannels, type LevelChannel } from './against';
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
  const channels = await levelChannels(db, await loadStation(db, stationId), file, now);
  const initials = new Map(people.map((p) => [p.id, p.initials]));
  const by = (personId: string) => initials.get(personId) ?? '';
  const all = file.readings.map(readingOf);
  const record: LevelRecord = { readings: all, revisions: file.revisions.map(revisionOf) };
  const newest = file.readings.slice(0, mostShown);
  const beside = await againstRecord(
    newest.map((r) => ({ reading: readingOf(r), sum: levelSum(readingOf(r), record) })),
    file,
    channels,
  );
  const readings = newest.map((r): LevelReadingView => ({
    ...readingOf(r),
    by: by(r.personId),
    lookedAgain: r.lookedAgain,
    against: beside.get(r.id) ?? null,
  }));
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
    air: await airPressures(db, stationId, now),
  };
}

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
