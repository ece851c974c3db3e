import type { Transaction } from 'sequelize';
import type { ImportPlan } from '@/core/import/plan';
import { usualBand } from '@/core/import/unlike';
import type { QuantityCode } from '@/core/quantity/quantity';
import { clockRunOf, type ClockRun } from '@/core/series/clockRun';
import { query, row, rows, type Database } from '@/db/database';
import { newId } from '../id';
import { storeTarget, type StoreTarget } from '../record/store';
import type { StationGraph } from '../station/stationGraph';

/** Where the readings of one column go, and what is known of them so far. */
export interface Target extends StoreTarget {
  readonly name: string;
  readonly clockRun: (at: number) => number | 'was-twice';
  /** The band outside which values are unlike everything stored; null where little is stored. */
  readonly usual: { low: number; high: number } | null;
  values: number;
  outside: number;
}

/** Opens the targets of a plan; channels that are new are made, in the import's own transaction. */
export async function openTargets(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  plan: ImportPlan,
): Promise<Target[]> {
  const stationId = graph.station.id;
  const runs = (
    await rows(db.clockRun, { where: { stationId }, order: [['run', 'ASC']], transaction: tx })
  ).map((r): ClockRun => ({
    run: r.run,
    stampBefore: r.stampBefore.getTime(),
    stampAfter: r.stampAfter.getTime(),
  }));
  const targets: Target[] = [];
  for (const { channel } of plan.columns) {
    const existing =
      channel.kind === 'existing' ? graph.channels.find((c) => c.row.id === channel.id)! : null;
    const made =
      channel.kind === 'new'
        ? await makeChannel(db, tx, stationId, channel, plan.typed ? 'manual' : 'file')
        : null;
    const { id, key, quantity, source } = made ?? existing!.row;
    const byLogger = source === 'logger' && runs.length > 0;
    const interval = existing?.written?.settings.storageInterval ?? null;
    targets.push({
      ...storeTarget(db, graph.station.key, { id, key, quantity }, interval, made !== null),
      name: existing?.name ?? (channel as { zoneName: string }).zoneName,
      clockRun: byLogger ? (at) => clockRunOf(runs, at) : () => 0,
      usual: made ? null : usualBand(await storedEnvelope(db, graph.station.key, key)),
      values: 0,
      outside: 0,
    });
  }
  return targets;
}

async function makeChannel(
  db: Database,
  tx: Transaction,
  stationId: string,
  { quantity, zoneName }: { quantity: QuantityCode; zoneName: string },
  source: 'file' | 'manual',
) {
  const id = newId();
  await db.channel.create(
    {
      stationId,
      id,
      loggerId: null,
      number: null,
      quantity,
      zoneName: zoneName.trim(),
      checkEveryDays: 180,
      source,
    },
    { transaction: tx },
  );
  return (await row(db.channel, { where: { stationId, id }, transaction: tx }))!;
}

/** Extremes and number of what a channel holds, from its days. */
export async function storedEnvelope(db: Database, stationKey: number, channelKey: number) {
  const [found] = await query<{ n: number | null; min: number; max: number }>(
    db,
    `select sum(n)::int as n, min(min) as min, max(max) as max from reading_rollup
      where station_key = :stationKey and channel_key = :channelKey and width = 86400`,
    { stationKey, channelKey },
  );
  return found?.n ? { n: found.n, min: found.min, max: found.max } : null;
}
