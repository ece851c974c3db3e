import Papa from 'papaparse';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { clockDifference, clockTolerance } from '@/core/series/clock';
import { valueToBase, type Unit } from '@/core/quantity/unit';
import { row } from '@/db/database';
import { addReadings, ensurePartitions, type NewReading } from '@/db/record';
import { refreshRollups } from '@/db/rollup';
import { LoggerFault, readRecord, readStatus } from '@/devices/loggerClient';
import { audit } from './audit';
import type { Context } from './context';
import { addLine } from './fieldBook';
import { newId } from './id';
import { dial } from './line';
import { startOperation, type Progress } from './operation';
import { stationLock } from './import/locks';
import { inTheWay } from './problem';
import { testRecord } from './quality/testRecord';
import { markStandings } from './standing';
import { loadStation, type ChannelNode, type StationGraph } from './stationGraph';

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
  const { logger, station } = graph;
  const at = await dial(ctx, logger.address);
  const clock = await compareClock(ctx, graph);
  const last = await row(db.collection, {
    where: { stationId: station.id, loggerId: logger.id },
    order: [['untilStamp', 'DESC NULLS LAST']],
  });
  // From the last stored stamp itself, so that the overlap proves the record is the same one.
  const from = last?.untilStamp ? loggerText(last.untilStamp, logger.utcOffsetMinutes) : null;
  await progress.report(0.05, 'Reading the record');
  const parsed = await guarded(() => readRecord(at, from).then((body) => parseRecord(body, graph, progress)));
  const stamps = [...parsed.byChannel.values()].flatMap((r) =>
    r.length ? [r[0]!.at, r[r.length - 1]!.at] : [],
  );
  const [first, until] = stamps.length ? [Math.min(...stamps), Math.max(...stamps)] : [null, null];
  if (first !== null) await ensurePartitions(db, first, until!);

  const count = { stored: 0, known: 0, conflicting: 0 };
  await db.transact(async (tx) => {
    await db.sequelize.query('select pg_advisory_xact_lock($1::int, $2)', {
      bind: [stationLock, station.key],
      transaction: tx,
    });
    let done = 0;
    for (const [channel, readings] of parsed.byChannel) {
      const added = await addReadings(db, station.key, channel.row.key, 0, readings, tx);
      count.stored += added.stored;
      count.known += added.known;
      count.conflicting += added.conflicting;
      if (added.stored > 0) {
        const [first, newest] = [readings[0]!.at, readings.at(-1)!.at];
        await refreshRollups(db, station.key, channel.row.key, first, newest, tx);
        const { id, key, quantity } = channel.row;
        const interval = channel.written?.settings.storageInterval ?? null;
        const tested = { stationId: station.id, stationKey: station.key, id, key, quantity, interval };
        await testRecord(ctx, tx, tested, first, newest);
      }
      if (clock.off && readings.length)
        await db.layer.create(
          {
            stationId: station.id,
            id: newId(),
            channelId: channel.row.id,
            kind: 'clock',
            fromAt: new Date(readings[0]!.at),
            untilAt: new Date(readings.at(-1)!.at),
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
        clockRun: 0,
        collectedAt: ctx.now(),
        fromStamp: first === null ? null : new Date(first),
        untilStamp: until === null ? (last?.untilStamp ?? null) : new Date(until),
        ...count,
      },
      { transaction: tx },
    );
    await addLine(ctx, tx, {
      stationId: station.id,
      occurredAt: ctx.now(),
      kind: 'collect',
      text:
        `Collected the record: ${count.stored} values new, ${count.known} known, ${count.conflicting} in conflict, ${parsed.refused.length} refused` +
        (clock.off ? `; logger clock ${formatDifference(clock.difference, 0)} s, stamps marked` : ''),
      sum: clock.sum,
    });
    await markStandings(db, tx, station.id);
    await audit(ctx, tx, 'record.collect', station.id, count);
  });
  const result: CollectResult = {
    ...count,
    refused: parsed.refused.slice(0, 50),
    clock: { difference: clock.difference, uncertainty: clock.uncertainty },
  };
  return { message: `${count.stored} values new`, result };
}

async function guarded<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    throw inTheWay(
      'logger-silent',
      `The logger's record could not be read: ${error.message}.`,
      'Nothing was stored. Check power and network, then collect again.',
    );
  }
}

const loggerText = (stamp: Date, offsetMinutes: number): string =>
  new Date(stamp.getTime() + offsetMinutes * 60_000).toISOString().slice(0, 19).replace('T', ' ');

/** A logger's stamp text as an instant, ms; NaN when it is not one. */
const loggerInstant = (text: string, offsetMinutes: number): number =>
  /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/.test(text)
    ? Date.parse(`${text.replace(' ', 'T')}Z`) - offsetMinutes * 60_000
    : Number.NaN;

/** Measures the logger's clock against ours and keeps the comparison. */
async function compareClock(ctx: Context, graph: StationGraph) {
  const { logger, station } = graph;
  const at = await dial(ctx, logger.address);
  const [asked, status, answered] = await guarded(async () => {
    const before = Date.now();
    const s = await readStatus(at);
    return [before, s, Date.now()] as const;
  });
  const took = answered - asked;
  // Our own time is the context's: the exchange lies around it.
  const now = ctx.now().getTime();
  const exchange = {
    asked: now - took,
    logger: loggerInstant(status.clock, logger.utcOffsetMinutes),
    answered: now,
  };
  if (!Number.isFinite(exchange.logger))
    throw inTheWay(
      'clock-unreadable',
      `The logger's clock says "${status.clock}".`,
      'Set its clock, then collect again. Nothing was stored.',
    );
  const { difference, uncertainty } = clockDifference(exchange, 1);
  await ctx.db.clockComparison.create({
    stationId: station.id,
    id: newId(),
    loggerId: logger.id,
    clockRun: 0,
    comparedAt: new Date(now),
    loggerTime: new Date(exchange.logger),
    difference,
    uncertainty,
  });
  const time = (ms: number) => new Date(ms).toISOString().slice(11, 19);
  return {
    difference,
    uncertainty,
    off: Math.abs(difference) - uncertainty > clockTolerance,
    sum: `logger ${time(exchange.logger)} − UTC ${time((exchange.asked + exchange.answered) / 2)} = ${formatDifference(difference, 1)} s (±${uncertainty.toFixed(1)} s)`,
  };
}

interface Parsed {
  byChannel: Map<ChannelNode, NewReading[]>;
  refused: { line: number; why: string }[];
}

async function parseRecord(
  body: ReadableStream<Uint8Array>,
  graph: StationGraph,
  progress: Progress,
): Promise<Parsed> {
  const { logger } = graph;
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const parsed: Parsed = { byChannel: new Map(), refused: [] };
  let columns: (ChannelNode | null)[] | null = null;
  let line = 0;
  let rest = '';
  const take = (text: string) => {
    for (const cells of Papa.parse<string[]>(text, { delimiter: ',', skipEmptyLines: true }).data) {
      line += 1;
      if (!columns) {
        if (cells[0] !== 'stamp')
          throw new LoggerFault(`the record begins with "${cells[0]}" where "stamp" was due`, false);
        columns = cells.slice(1).map((n) => graph.channels.find((c) => c.row.number === Number(n)) ?? null);
        continue;
      }
      const at = loggerInstant(cells[0] ?? '', logger.utcOffsetMinutes);
      if (!Number.isFinite(at) || cells.length !== columns.length + 1) {
        parsed.refused.push({
          line,
          why: Number.isFinite(at)
            ? `${cells.length} cells where ${columns.length + 1} were due`
            : `"${cells[0]}" is no stamp`,
        });
        continue;
      }
      columns.forEach((channel, i) => {
        const cell = cells[i + 1]!;
        if (!channel || cell === '') return;
        const value = Number(cell);
        if (!Number.isFinite(value)) {
          parsed.refused.push({
            line,
            why: `"${cell.slice(0, 20)}" is no number (channel ${channel.row.number})`,
          });
          return;
        }
        const list = parsed.byChannel.get(channel) ?? [];
        if (list.length === 0) parsed.byChannel.set(channel, list);
        list.push({ at, value: valueToBase(value, unitAt(channel, at)) });
      });
    }
  };
  const reader = body.getReader();
  for (let pieces = 0; ; pieces++) {
    let piece: ReadableStreamReadResult<Uint8Array>;
    try {
      piece = await reader.read();
      rest += piece.done ? decoder.decode() : decoder.decode(piece.value, { stream: true });
    } catch (error) {
      throw new LoggerFault(`the record broke off or is not text: ${(error as Error).message}`, false);
    }
    if (piece.done) break;
    const cut = rest.lastIndexOf('\n');
    if (cut < 0) continue;
    take(rest.slice(0, cut + 1));
    rest = rest.slice(cut + 1);
    if (pieces % 20 === 0) await progress.report(Math.min(0.45, 0.05 + line / 100_000), `Read ${line} rows`);
  }
  // A last row without its line end was cut short: it is refused, not guessed at.
  if (rest.trim()) parsed.refused.push({ line: line + 1, why: 'the last row is cut short' });
  return parsed;
}

/** The unit a channel's logger stored in at an instant: that of the settings written last before it. */
function unitAt(channel: ChannelNode, at: number): Unit {
  const { history } = channel;
  const inForce = history.filter((r) => r.writtenAt!.getTime() <= at).at(-1) ?? history[0];
  return inForce?.settings.unit ?? quantityOf(channel.row.quantity).unit;
}
