import type { Transaction } from 'sequelize';
import type { WithdrawImport } from '@/contract/importRequests';
import { longWork, query, row, type Database } from '@/db/database';
import { refreshRollups } from '@/db/rollup';
import type { ImportRow } from '@/db/rows';
import { lockActs, lockStation } from '../station/atStation';
import type { Context } from '../context';
import { startOperation, type Progress } from '../process/operation';
import { inTheWay, notFound } from '../problem';
import { testRecord } from '../quality/testRecord';
import { channelOf, loadStation, type StationGraph } from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import { recordAct } from '../book/recordAct';

interface Withdrawal {
  id: string;
  channelId: string;
}

/**
 * Takes an import out of the record as a whole, by a layer over each of its channels, or brings it back by
 * taking those layers back. Nothing is deleted: what came with it is read by nobody meanwhile, neither in
 * traces nor in counts or tests, and its stamps are free for the right file.
 */
export async function withdrawImport(
  ctx: Context,
  stationId: string,
  importId: string,
  request: WithdrawImport,
) {
  const graph = await loadStation(ctx.db, stationId);
  const imported = await row(ctx.db.recordImport, { where: { stationId, id: importId } });
  if (!imported) throw notFound('import', importId);
  return startOperation(ctx, { id: request.operationId, stationId, kind: 'withdraw' }, async (progress) => {
    await progress.report(0.05, request.back ? 'Bringing it back' : 'Withdrawing it');
    return ctx.db.transact(async (tx) => {
      await longWork(ctx.db, tx);
      // The record first: whoever stores now has stored when this goes on.
      await lockStation(ctx.db, tx, graph.station.key);
      await lockActs(ctx.db, tx, stationId);
      return request.back
        ? bringBack(ctx, tx, graph, imported, request.reason, progress)
        : takeOut(ctx, tx, graph, imported, request.reason, progress);
    });
  });
}

const standing = (db: Database, tx: Transaction, i: ImportRow): Promise<Withdrawal[]> =>
  query<Withdrawal>(
    db,
    `select id, channel_id as "channelId" from active_layer
      where station_id = :stationId and kind = 'withdrawal' and parameters->>'importId' = :id`,
    { stationId: i.stationId, id: i.id },
    tx,
  );

async function takeOut(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  i: ImportRow,
  reason: string,
  progress: Progress,
) {
  if (i.state !== 'complete' || !i.stored || !i.fromAt || !i.untilAt)
    throw inTheWay(
      'nothing-to-withdraw',
      `${i.fileName} stored nothing: there is nothing to withdraw.`,
      'Nothing needs to be done.',
    );
  if ((await standing(ctx.db, tx, i)).length > 0)
    throw inTheWay('withdrawn-already', `${i.fileName} is withdrawn already.`, 'Nothing needs to be done.');
  const channels = await channelsOf(ctx.db, tx, graph, i);
  for (const channelId of channels)
    await lay(ctx, tx, i, channelId, `import of ${i.fileName} withdrawn: ${reason}`, { why: reason });
  await settleRecord(ctx, tx, graph, i, channels, progress);
  await leave(ctx, tx, i, `Withdrew the import of ${i.fileName}: ${reason}`, 'import.withdraw');
  return { message: `${i.stored} values withdrawn`, result: { values: i.stored } };
}

async function bringBack(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  i: ImportRow,
  reason: string,
  progress: Progress,
) {
  const layers = await standing(ctx.db, tx, i);
  if (layers.length === 0)
    throw inTheWay('not-withdrawn', `${i.fileName} is not withdrawn.`, 'Nothing needs to be done.');
  const [taken] = await query<{ n: number }>(
    ctx.db,
    `select count(*)::int as n from reading mine join reading theirs using (station_key, channel_key, at, clock_run)
      where mine.station_key = :station and mine.source = :source and theirs.source <> :source
        and theirs.source <> all ((select withdrawn_sources(:station))::int[])`,
    { station: graph.station.key, source: i.key },
    tx,
  );
  if (taken!.n > 0)
    throw inTheWay(
      'stamps-taken',
      `${taken!.n} of its stamps hold other values now, stored since it was withdrawn.`,
      'Withdraw the import they came with first, or leave this one withdrawn.',
    );
  for (const l of layers)
    await lay(
      ctx,
      tx,
      i,
      l.channelId,
      `import of ${i.fileName} brought back: ${reason}`,
      { empty: true },
      l.id,
    );
  const channels = layers.map((l) => l.channelId);
  await settleRecord(ctx, tx, graph, i, channels, progress);
  await leave(ctx, tx, i, `Brought back the import of ${i.fileName}: ${reason}`, 'import.bring-back');
  return { message: `${i.stored} values are back`, result: { values: i.stored } };
}

/** A layer of one channel over the span of the import, or one that takes such a layer back. */
const lay = (
  ctx: Context,
  tx: Transaction,
  i: ImportRow,
  channelId: string,
  reason: string,
  parameters: Record<string, unknown>,
  revokes: string | null = null,
) =>
  createLayer(ctx, tx, {
    stationId: i.stationId,
    channelId,
    kind: 'withdrawal',
    fromAt: i.fromAt!,
    untilAt: i.untilAt,
    parameters: { importId: i.id, ...parameters },
    reason,
    revokes,
  });

/** Channels that readings of an import went to. */
async function channelsOf(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  i: ImportRow,
): Promise<string[]> {
  const found = await query<{ key: number }>(
    db,
    `select c.key from channel c where c.station_id = :stationId and exists (
       select 1 from reading r where r.station_key = :station and r.channel_key = c.key and r.source = :source
          and r.at between :from and :until)`,
    { stationId: i.stationId, station: graph.station.key, source: i.key, from: i.fromAt, until: i.untilAt },
    tx,
  );
  const keys = new Set(found.map((f) => f.key));
  return graph.channels.filter((c) => keys.has(c.row.key)).map((c) => c.row.id);
}

/** Rolls up and tests anew what the record holds in the span of an import. */
async function settleRecord(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  i: ImportRow,
  channelIds: readonly string[],
  progress: Progress,
): Promise<void> {
  const [from, until] = [i.fromAt!.getTime(), i.untilAt!.getTime()];
  for (const [n, channelId] of channelIds.entries()) {
    const channel = channelOf(graph, channelId);
    const { key, quantity } = channel.row;
    const stationKey = graph.station.key;
    await refreshRollups(ctx.db, stationKey, key, from, until, tx);
    const interval = channel.written?.settings.storageInterval ?? null;
    const tested = { stationId: i.stationId, stationKey, id: channelId, key, quantity, interval };
    await testRecord(ctx, tx, tested, from, until);
    await progress.report(0.1 + (0.85 * (n + 1)) / channelIds.length, `Testing ${channel.name}`);
  }
}

async function leave(
  ctx: Context,
  tx: Transaction,
  i: ImportRow,
  text: string,
  action: string,
): Promise<void> {
  const { stationId } = i;
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'import',
    text,
    sum: `${i.stored} values`,
    action: action,
    subject: { importId: i.id },
  });
}
