import type { Transaction } from 'sequelize';
import { derive, type DerivedReading, type InputSeries } from '@/core/derived/derive';
import { formulaOf, type FormulaCode } from '@/core/derived/formulas';
import { quantityOf } from '@/core/quantity/quantity';
import { correctedBy, correctionAt } from '@/core/series/correction';
import { readSeries } from '@/db/bulk';
import { longWork, query, row, type Database } from '@/db/database';
import { refreshRollups } from '@/db/rollup';
import type { DerivationRow } from '@/db/rows';
import type { Context } from '../context';
import { notFound } from '../problem';
import { dischargeBy } from '../discharge/load';
import { testRecord } from '../quality/testRecord';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { activeLayers, correctionsOf } from '../verify/layers';
import { log } from '../process/log';
import { tryLockStation } from '../station/atStation';
import { RecordStore, storeTarget } from './store';

/** So many stamps of the first input are reckoned at once, so that memory does not grow with the record. */
const usualPiece = 100_000;
/** So much of the work is done once the values are stored, share: what is left is rolled up and tested. */
const stored = 0.7;
/** Marks closer than this are one span, ms. */
const near = 86_400_000;
/** How far the reckoning has come, 0 to 1. */
type Reached = (share: number) => Promise<void>;
interface How {
  /** Called after each piece; what it throws takes all of it back. */
  readonly reached?: Reached;
  readonly pieceLength?: number;
}
/** The ends of what can be marked, ms. */
const [beginning, end] = [-1e13, 9e13];

interface Mark {
  channelId: string;
  from: number;
  until: number;
}

/**
 * Reckons derived channels anew where what they rest on has changed: stored, corrected, flagged, withdrawn.
 * Whoever is about to read comes here first. While values are being stored at a station it is left for
 * the next reader.
 */
export async function mendDerived(db: Database, stationId?: string): Promise<void> {
  const marked = await query<{ stationId: string }>(
    db,
    `select distinct station_id as "stationId" from derived_mark ${stationId ? 'where station_id = :stationId' : ''}`,
    { stationId },
  );
  for (const m of marked)
    await mendStation(db, m.stationId).catch((error: unknown) =>
      // One station that cannot be reckoned keeps nobody from reading the others; its marks stay.
      log.error({ err: error, stationId: m.stationId }, 'derived channels could not be reckoned anew'),
    );
}

/**
 * Reckons the derived channels of one station anew, where what they rest on has changed.
 *
 * @returns false where values are being stored there: it is left for whoever comes next
 */
export async function mendStation(db: Database, stationId: string, how: How = {}): Promise<boolean> {
  return db.transact(async (tx) => {
    await longWork(db, tx);
    const graph = await loadStation(db, stationId, tx);
    if (!(await tryLockStation(db, tx, graph.station.key))) return false;
    const ms = (column: string) =>
      `greatest(least(extract(epoch from ${column}) * 1000, ${end}), ${beginning})::float8`;
    const marks = await query<Mark>(
      db,
      `with gone as (delete from derived_mark where station_id = :stationId returning channel_id, from_at, until_at)
       select channel_id as "channelId", ${ms('from_at')} as from, ${ms('until_at')} as until from gone order by from_at`,
      { stationId },
      tx,
    );
    if (marks.length === 0) return true;
    const spans = [...new Set(marks.map((m) => m.channelId))].flatMap((channelId) =>
      merged(marks.filter((m) => m.channelId === channelId)).map((span) => ({
        derived: channelOf(graph, channelId),
        span,
      })),
    );
    for (const [i, { derived, span }] of spans.entries())
      await reckon(db, tx, graph, derived, span, {
        ...how,
        reached: how.reached && ((share) => how.reached!((i + share) / spans.length)),
      });
    await query(
      db,
      'insert into standing_mark (station_id) values (:stationId) returning id',
      { stationId },
      tx,
    );
    return true;
  });
}

/** Spans that touch or nearly do, as one; ascending. */
function merged(marks: readonly Mark[]): { from: number; until: number }[] {
  const spans: { from: number; until: number }[] = [];
  for (const { from, until } of marks) {
    const last = spans.at(-1);
    if (last && from <= last.until + near) last.until = Math.max(last.until, until);
    else spans.push({ from, until });
  }
  return spans;
}

async function reckon(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  derived: ChannelNode,
  span: { from: number; until: number },
  { reached, pieceLength = usualPiece }: How,
): Promise<void> {
  const { stationId, id, key, quantity } = derived.row;
  const stationKey = graph.station.key;
  const derivation = (await row(db.derivation, { where: { stationId, channelId: id }, transaction: tx }))!;
  const before = await extent(db, tx, stationKey, key, span);
  await query(
    db,
    'select clear_derived(:stationKey, :key, to_timestamp(:from), to_timestamp(:until))',
    { stationKey, key, from: span.from / 1000, until: span.until / 1000 },
    tx,
  );
  // What a formula makes of a record is laid over it by whoever chose the formula.
  const ctx = await asSetter(db, tx, derivation);
  const store = new RecordStore(ctx, tx, { stationId, stationKey, source: 0 });
  const interval = longestInterval(graph, derivation);
  const target = storeTarget(db, stationKey, { id, key, quantity }, interval, true);
  const whole =
    (await extent(db, tx, stationKey, channelOf(graph, firstInput(derivation)).row.key, span)) ?? before;
  let [first, last] = [Infinity, -Infinity];
  for await (const piece of derivedPieces(db, tx, graph, derivation, span, pieceLength)) {
    try {
      for (const { at, run, value } of piece) {
        const stamp = Math.round(at * 1000);
        first = Math.min(first, stamp);
        last = Math.max(last, stamp);
        const waits = store.put(target, stamp, run, value, 0);
        if (waits) await waits;
      }
      // The next piece is read over the same connection.
      await store.rest();
    } catch (error) {
      await store.abort();
      throw error;
    }
    if (whole && last >= whole.from)
      await reached?.((stored * (last - whole.from)) / Math.max(1, whole.until - whole.from));
  }
  await store.settle();
  const [from, until] = [
    Math.min(first, before?.from ?? Infinity),
    Math.max(last, before?.until ?? -Infinity),
  ];
  if (from > until) return;
  await refreshRollups(db, stationKey, key, from, until, tx);
  await testRecord(ctx, tx, { stationId, stationKey, id, key, quantity, interval }, from, until);
}

const firstInput = ({ inputs }: DerivationRow): string => Object.values(inputs)[0]!;

/** A formula over its inputs as they are corrected, a piece at a time. */
async function* derivedPieces(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  derivation: DerivationRow,
  span: { from: number; until: number },
  pieceLength: number,
): AsyncGenerator<readonly DerivedReading[]> {
  const formula = formulaOf(derivation.formula as FormulaCode);
  const inputs = Object.entries(derivation.inputs).map(([name, id]) => ({
    name,
    channel: channelOf(graph, id),
  }));
  const discharge = await dischargeBy(db, derivation, tx);
  const circular = inputs.some((i) => quantityOf(i.channel.row.quantity).aggregate === 'circular');
  let from = span.from;
  for (;;) {
    const series: Record<string, InputSeries> = {};
    let until = span.until;
    let whole = true;
    for (const [i, { name, channel }] of inputs.entries()) {
      const limit = i === 0 ? pieceLength : undefined;
      const read = await correctedSeries(db, tx, graph, channel, from, until, limit);
      if (i === 0 && read.times.length >= pieceLength) {
        until = read.times.at(-1)! * 1000;
        whole = false;
      }
      series[name] = read;
    }
    yield derive(formula, series, derivation.parameters, circular, discharge);
    if (whole) return;
    from = until + 0.001;
  }
}

/** A channel's readings with its corrections; NaN where a value failed or the sensor was off-line. */
async function correctedSeries(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  channel: ChannelNode,
  from: number,
  until: number,
  limit?: number,
): Promise<InputSeries> {
  const { times, values, runs } = await readSeries(
    tx,
    graph.station.key,
    channel.row.key,
    from,
    until,
    limit,
  );
  const layers = await activeLayers(db, graph.station.id, channel.row.id, from, until, tx);
  const corrections = correctionsOf(layers);
  const untrue = layers
    .filter((l) => l.kind === 'off-line' || (l.kind === 'flag' && l.parameters.flag === 4))
    .map((l) => ({ from: l.fromAt.getTime(), until: l.untilAt?.getTime() ?? Infinity }));
  for (let i = 0; i < times.length; i++) {
    const at = times[i]! * 1000;
    values[i] = untrue.some((u) => at >= u.from && at <= u.until)
      ? Number.NaN
      : corrections.length > 0
        ? correctedBy(correctionAt(corrections, at), values[i]!)
        : values[i]!;
  }
  return { times, values, runs };
}

/** First and last stamp a channel holds within a span, ms; null for none. */
async function extent(
  db: Database,
  tx: Transaction,
  stationKey: number,
  key: number,
  { from, until }: { from: number; until: number },
): Promise<{ from: number; until: number } | null> {
  const [found] = await query<{ from: Date | null; until: Date | null }>(
    db,
    `select min(at) as from, max(at) as until from reading
      where station_key = :stationKey and channel_key = :key and at between to_timestamp(:from) and to_timestamp(:until)`,
    { stationKey, key, from: from / 1000, until: until / 1000 },
    tx,
  );
  return found?.from && found.until ? { from: found.from.getTime(), until: found.until.getTime() } : null;
}

/** Values are as far apart as those of the input that is stored least often, s; null where nobody says. */
function longestInterval(graph: StationGraph, { inputs }: DerivationRow): number | null {
  const intervals = Object.values(inputs).map(
    (id) => channelOf(graph, id).written?.settings.storageInterval ?? null,
  );
  return intervals.includes(null) ? null : Math.max(...intervals.map(Number));
}

async function asSetter(db: Database, tx: Transaction, { personId }: DerivationRow): Promise<Context> {
  const person = await row(db.person, { where: { id: personId }, transaction: tx });
  if (!person) throw notFound('person', personId);
  return { db, person, now: () => new Date(), deviceAllow: '' };
}
