import { formatDifference } from '@/core/quantity/format';
import { longWork, query, type Database } from '@/db/database';
import { addReadings, ensurePartitions } from '@/db/record';
import { refreshRollups } from '@/db/rollup';
import type { ClockReading } from '@/db/stored/action';
import { readRecord } from '@/devices/loggerClient';
import { audit } from './audit';
import { compareClock } from './clock/compare';
import { loggerText } from './clock/stamp';
import { parseRecord } from './collectParse';
import type { Context } from './context';
import { addLine } from './fieldBook';
import { heard } from './heard';
import { newId } from './id';
import { dial } from './line';
import { startOperation, type Progress } from './operation';
import { lockStation } from './atStation';
import { testRecord } from './quality/testRecord';
import { loadStation, type StationGraph } from './stationGraph';

/** Fetches what the logger stored since the last collection; measures its clock on the way. */
export async function collect(ctx: Context, stationId: string, operationId: string) {
  const graph = await loadStation(ctx.db, stationId);
  return startOperation(ctx, { id: operationId, stationId, kind: 'collect' }, (progress) =>
    collectRecord(ctx, graph, progress),
  );
}

export interface CollectResult {
  stored: number;
  known: number;
  conflicting: number;
  refused: { line: number; why: string }[];
  clock: { difference: number; uncertainty: number };
}

async function collectRecord(ctx: Context, graph: StationGraph, progress: Progress) {
  const { db } = ctx;
  const { station } = graph;
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
  await db.transact(async (tx) => {
    await addLine(ctx, tx, {
      stationId: station.id,
      occurredAt: ctx.now(),
      kind: 'collect',
      text:
        `Collected the record: ${count.stored} values new, ${count.known} known, ${count.conflicting} in conflict, ${refused.length} refused` +
        (clock.off ? `; logger clock ${formatDifference(clock.difference, 0)} s, stamps marked` : ''),
      sum: clock.sum,
    });
    await audit(ctx, tx, 'record.collect', station.id, count);
  });
  const result: CollectResult = {
    ...count,
    refused: refused.slice(0, 50),
    clock: { difference: clock.difference, uncertainty: clock.uncertainty },
  };
  return { message: `${count.stored} values new`, result };
}

/** The newest stamp collected of each clock run. */
async function newestStamps(db: Database, graph: StationGraph): Promise<Map<number, Date>> {
  const found = await query<{ run: number; until: Date }>(
    db,
    `select clock_run as run, max(until_stamp) as until from collection
      where station_id = :stationId and logger_id = :loggerId and until_stamp is not null group by 1`,
    { stationId: graph.station.id, loggerId: graph.logger.id },
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
  const { logger, station } = graph;
  const at = await dial(ctx, logger.address);
  // From the last stored stamp itself, so that the overlap proves the record is the same one.
  const from = last ? loggerText(last, logger.utcOffsetMinutes) : null;
  await progress.report(0.05, 'Reading the record');
  const parsed = await recordOf(() =>
    readRecord(at, run, from).then((body) => parseRecord(body, graph, progress)),
  );
  const stamps = [...parsed.byChannel.values()].flatMap((r) =>
    r.length ? [r[0]!.at, r[r.length - 1]!.at] : [],
  );
  const [first, until] = stamps.length ? [Math.min(...stamps), Math.max(...stamps)] : [null, null];
  if (first !== null) await ensurePartitions(db, first, until!);
  const count = { stored: 0, known: 0, conflicting: 0 };
  await db.transact(async (tx) => {
    await longWork(db, tx);
    await lockStation(db, tx, station.key);
    let done = 0;
    for (const [channel, readings] of parsed.byChannel) {
      const added = await addReadings(db, station.key, channel.row.key, run, readings, tx);
      count.stored += added.stored;
      count.known += added.known;
      count.conflicting += added.conflicting;
      const [begin, end] = [readings[0]!.at, readings.at(-1)!.at];
      if (added.stored > 0) {
        await refreshRollups(db, station.key, channel.row.key, begin, end, tx);
        const { id, key, quantity } = channel.row;
        const interval = channel.written?.settings.storageInterval ?? null;
        const tested = { stationId: station.id, stationKey: station.key, id, key, quantity, interval };
        await testRecord(ctx, tx, tested, begin, end);
      }
      if (clock.off && run === clock.run)
        await db.layer.create(
          {
            stationId: station.id,
            id: newId(),
            channelId: channel.row.id,
            kind: 'clock',
            fromAt: new Date(begin),
            untilAt: new Date(end),
            parameters: { difference: clock.difference, uncertainty: clock.uncertainty },
            reason: `logger clock ${formatDifference(clock.difference, 0)} s at collection`,
            personId: ctx.person.id,
            recordedAt: ctx.now(),
          },
          { transaction: tx },
        );
      done += 1;
      await progress.report(
        0.5 + (0.5 * done) / parsed.byChannel.size,
        `Storing channel ${channel.row.number}`,
      );
    }
    await db.collection.create(
      {
        stationId: station.id,
        id: newId(),
        loggerId: logger.id,
        clockRun: run,
        collectedAt: ctx.now(),
        fromStamp: first === null ? null : new Date(first),
        untilStamp: until === null ? last : new Date(until),
        ...count,
      },
      { transaction: tx },
    );
  });
  return { ...count, refused: parsed.refused };
}

const recordOf = <T>(work: () => Promise<T>): Promise<T> =>
  heard(
    work,
    "The logger's record could not be read",
    'Nothing was stored. Check power and network, then collect again.',
  );
