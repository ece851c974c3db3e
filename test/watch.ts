import type { SetWatchRule } from '@/contract/watch';
import { noRule, type WatchRule } from '@/core/watch/rule';
import { query } from '@/db/database';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { RecordStore, storeTarget } from '@/server/record/store';
import { lockStation } from '@/server/station/atStation';
import { channelOf, loadStation, loggerOf } from '@/server/station/stationGraph';

/** A rule of humidity as many tests have it: too high above 65, back by 3. */
export const humid = (change: Partial<WatchRule> = {}): WatchRule => ({
  ...noRule,
  limits: { farLow: null, low: 35, high: 65, farHigh: 80 },
  hysteresis: 3,
  latest: 7200,
  ...change,
});

export const newRule = (change: Partial<SetWatchRule> = {}): SetWatchRule => ({
  ruleId: newId(),
  basedOn: null,
  rule: humid(),
  armed: true,
  note: 'as agreed',
  ...change,
});

/**
 * Values arrive as with a collection at the context's instant, by the one way into the record: stamps in
 * ms, base unit.
 *
 * @param judged tested and rolled up as well; where many collections come, what is looked at is all that matters
 */
export async function arrive(
  ctx: Context,
  stationId: string,
  values: Readonly<Record<string, readonly (readonly [at: number, value: number])[]>>,
  judged = true,
): Promise<void> {
  const { db } = ctx;
  const graph = await loadStation(db, stationId);
  await db.transact(async (tx) => {
    await lockStation(db, tx, graph.station.key);
    const record = new RecordStore(ctx, tx, { stationId, stationKey: graph.station.key, source: 0 });
    const all = Object.entries(values).flatMap(([id, of]) => of.map(([at, value]) => ({ id, at, value })));
    all.sort((a, b) => a.at - b.at);
    const targets = new Map(
      Object.keys(values).map((id) => {
        const { row, written } = channelOf(graph, id);
        return [id, storeTarget(db, graph.station.key, row, written?.settings.storageInterval ?? 600, false)];
      }),
    );
    for (const { id, at, value } of all) await record.put(targets.get(id)!, at, 0, value, 0);
    const met = await record.settle();
    if (judged) {
      await record.rollUp();
      await record.test();
    }
    const stamps = all.map((a) => a.at);
    await db.collection.create(
      {
        stationId,
        id: newId(),
        loggerId: loggerOf(graph).id,
        clockRun: 0,
        collectedAt: ctx.now(),
        fromStamp: stamps.length > 0 ? new Date(Math.min(...stamps)) : null,
        untilStamp: stamps.length > 0 ? new Date(Math.max(...stamps)) : null,
        ...met,
      },
      { transaction: tx },
    );
  });
}

/** Jobs of a task that wait. */
export const waitingJobs = async (ctx: Context, task: string): Promise<number> =>
  (
    await query<{ n: number }>(
      ctx.db,
      `select count(*)::int as n from graphile_worker.jobs where task_identifier = :task`,
      { task },
    )
  )[0]!.n;
