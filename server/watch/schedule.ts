import type { SetCollectSchedule } from '@/contract/watch';
import { formatAge } from '@/core/quantity/format';
import { query, type Database } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf } from '../station/stationGraph';

/** Has the application ask a logger for its record by itself, so often; or by hand only. */
export async function setCollectSchedule(
  ctx: Context,
  stationId: string,
  { scheduleId, everySeconds }: SetCollectSchedule,
): Promise<{ everySeconds: number | null }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    loggerOf(graph);
    const [now] = await query<{ every: number | null }>(
      ctx.db,
      'select every_seconds as every from collect_schedule_in_force where station_id = :stationId',
      { stationId },
      tx,
    );
    const said = everySeconds === null ? 'by hand only' : `every ${formatAge(everySeconds)} by itself`;
    if ((now?.every ?? null) === everySeconds)
      throw inTheWay(
        'same-schedule',
        `The record is collected ${said} already.`,
        'Nothing needs to be done.',
      );
    await ctx.db.collectSchedule.create(
      { stationId, id: scheduleId, everySeconds, personId: ctx.person.id, setAt: ctx.now() },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'watch',
      text: `The record is collected ${said}`,
      action: 'watch.schedule',
      subject: { everySeconds },
    });
    return { everySeconds };
  });
}

/** Stations whose record is due to be collected by the application. */
export const dueCollections = async (db: Database, now: Date): Promise<string[]> =>
  (
    await query<{ id: string }>(
      db,
      `select f.station_id as id from collect_schedule_in_force f join open_station s on s.id = f.station_id
        where f.every_seconds is not null
          and not exists (select 1 from collection c where c.station_id = f.station_id
                             and c.collected_at > cast(:now as timestamptz) - make_interval(secs => f.every_seconds - 5))`,
      { now },
    )
  ).map((f) => f.id);

/** Stations where a silence is due to ring. */
export const dueSilences = async (db: Database, now: Date): Promise<string[]> =>
  (
    await query<{ id: string }>(
      db,
      'select distinct station_id as id from watch_state where silent_at < :now',
      { now },
    )
  ).map((f) => f.id);
