import type { Transaction } from 'sequelize';
import { formatDifference } from '@/core/quantity/format';
import { longWork, query, type Database } from '@/db/database';
import type { ClockReading } from '@/db/stored/action';
import { compareClock } from '../clock/compare';
import { loggerText } from '../clock/stamp';
import type { Context } from '../context';
import { askLogger } from '../device/askLogger';
import { newId } from '../id';
import { loggerLink } from '../device/loggerLink';
import { startOperation, type Progress } from '../process/operation';
import { lockStation } from '../station/atStation';
import { createLayer } from '../verify/layers';
import { readLoggerRecord } from './loggerRecord';
import { RecordStore, spanOf, storeTarget, type StoreTarget } from './store';
import { loadStation, type ChannelNode, type StationGraph, loggerOf } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** So many rows that were not taken are kept with their reason. */
const mostRefused = 1000;

/** Fetches what the logger stored since the last collection; measures its clock on the way. */
export async function collect(ctx: Context, stationId: string, operationId: string) {
  const graph = await loadStation(ctx.db, stationId);
  loggerOf(graph);
  return startOperation(ctx, { id: operationId, stationId, kind: 'collect' }, (progress) =>
    collectRecord(ctx, graph, progress),
  );
}

/**
 * The same by the application itself, on its schedule. What it brought stands in the record and with its
 * collection; the field book is for what people did.
 */
export async function collectByItself(ctx: Context, stationId: string): Promise<CollectResult> {
  const graph = await loadStation(ctx.db, stationId);
  loggerOf(graph);
  return fetchRecord(ctx, graph, { report: async () => {} });
}

export interface CollectResult {
  stored: number;
  known: number;
  conflicting: number;
  refused: { line: number; why: string }[];
  clock: Pick<ClockReading, 'difference' | 'uncertainty' | 'off' | 'sum'>;
}

async function collectRecord(ctx: Context, graph: StationGraph, progress: Progress) {
  const result = await fetchRecord(ctx, graph, progress);
  await ctx.db.transact((tx) => noteCollection(ctx, tx, graph, result));
  const { difference, uncertainty } = result.clock;
  return {
    message: `${result.stored} values new`,
    result: { ...result, refused: result.refused.slice(0, 50), clock: { difference, uncertainty } },
  };
}

const noteCollection = (ctx: Context, tx: Transaction, graph: StationGraph, result: CollectResult) => {
  const { stored, known, conflicting, clock } = result;
  return recordAct(ctx, tx, {
    stationId: graph.station.id,
    occurredAt: ctx.now(),
    kind: 'collect',
    text:
      `Collected the record: ${stored} values new, ${known} known, ${conflicting} in conflict, ${result.refused.length} refused` +
      (clock.off ? `; logger clock ${formatDifference(clock.difference, 0)} s, stamps marked` : ''),
    sum: clock.sum,
    action: 'record.collect',
    subject: { stored, known, conflicting },
  });
};

async function fetchRecord(ctx: Context, graph: StationGraph, progress: Progress): Promise<CollectResult> {
  const { db } = ctx;
  const clock = await recordOf(() => compareClock(ctx, graph));
  const newest = await newestStamps(db, graph);
  const count = { stored: 0, known: 0, conflicting: 0 };
  const refused: CollectResult['refused'] = [];
  // The rest of the run collected last, then every run begun since by setting the clock.
  for (let run = Math.min(clock.run, Math.max(0, ...newest.keys())); run <= clock.run; run++) {
    const added = await collectRun(ctx, graph, run, newest.get(run) ?? null, clock, progress);
    count.stored += added.stored;
    count.known += added.known;
    count.conflicting += added.conflicting;
    refused.push(...added.refused);
  }
  return { ...count, refused, clock };
}

/** The newest stamp collected of each clock run. */
async function newestStamps(db: Database, graph: StationGraph): Promise<Map<number, Date>> {
  const found = await query<{ run: number; until: Date }>(
    db,
    `select clock_run as run, max(until_stamp) as until from collection
      where station_id = :stationId and logger_id = :loggerId and until_stamp is not null group by 1`,
    { stationId: graph.station.id, loggerId: loggerOf(graph).id },
  );
  return new Map(found.map((f) => [f.run, f.until]));
}

/** Fetches and stores what is new of one clock run. */
async function collectRun(
  ctx: Context,
  graph: StationGraph,
  run: number,
  last: Date | null,
  clock: ClockReading,
  progress: Progress,
) {
  const { db } = ctx;
  const { station } = graph;
  const logger = loggerOf(graph);
  const link = await loggerLink(ctx, graph);
  // From the last stored stamp itself, so that the overlap proves the record is the same one.
  const from = last ? loggerText(last, logger.utcOffsetMinutes) : null;
  await progress.report(0.05, 'Reading the record');
  const body = await recordOf(() => link.record(run, from));
  const refused: CollectResult['refused'] = [];
  const targets = new Map<ChannelNode, StoreTarget>();
  const targetOf = (channel: ChannelNode): StoreTarget => {
    const known = targets.get(channel);
    if (known) return known;
    const made = storeTarget(
      db,
      station.key,
      channel.row,
      channel.written?.settings.storageInterval ?? null,
      false,
    );
    targets.set(channel, made);
    return made;
  };
  return db.transact(async (tx) => {
    await longWork(db, tx);
    await lockStation(db, tx, station.key);
    const record = new RecordStore(ctx, tx, { stationId: station.id, stationKey: station.key, source: 0 });
    let batch: { channel: ChannelNode; at: number; value: number; line: number }[] = [];
    await recordOf(() =>
      readLoggerRecord(body, graph, {
        reading: (channel, stamp, value, line) => batch.push({ channel, at: stamp, value, line }),
        refused: (line, why) => refused.length < mostRefused && refused.push({ line, why }),
        piece: async (rows) => {
          const some = batch;
          batch = [];
          for (const { channel, at: stamp, value, line } of some) {
            const waits = record.put(targetOf(channel), stamp, run, value, line);
            if (waits) await waits;
          }
          await record.flush();
          await progress.report(Math.min(0.7, 0.05 + rows / 100_000), `Read ${rows} rows`);
        },
      }),
    ).catch(async (error: unknown) => {
      await record.abort();
      throw error;
    });
    const count = await record.settle();
    await progress.report(0.75, 'Rolling up');
    await record.rollUp();
    await progress.report(0.85, 'Testing what came');
    await record.test();
    const came = spanOf([...targets.values()]);
    if (clock.off && run === clock.run)
      for (const [channel, target] of targets) {
        const span = spanOf([target]);
        if (span) await markClock(ctx, tx, graph, channel, span, clock);
      }
    await db.collection.create(
      {
        stationId: station.id,
        id: newId(),
        loggerId: logger.id,
        clockRun: run,
        collectedAt: ctx.now(),
        fromStamp: came && new Date(came.from),
        untilStamp: came ? new Date(came.until) : last,
        ...count,
      },
      { transaction: tx },
    );
    return { ...count, refused };
  });
}

/** Says over what was collected that its stamps are off. */
const markClock = (
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  channel: ChannelNode,
  span: { from: number; until: number },
  clock: ClockReading,
) =>
  createLayer(ctx, tx, {
    stationId: graph.station.id,
    channelId: channel.row.id,
    kind: 'clock',
    fromAt: new Date(span.from),
    untilAt: new Date(span.until),
    parameters: { difference: clock.difference, uncertainty: clock.uncertainty },
    reason: `logger clock ${formatDifference(clock.difference, 0)} s at collection`,
  });

const recordOf = <T>(work: () => Promise<T>): Promise<T> =>
  askLogger(
    work,
    "The logger's record could not be read",
    'Nothing was stored. Check power and network, then collect again.',
  );
