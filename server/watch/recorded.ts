import type { RehearsalRecordView } from '@/contract/watch';
import type { Transaction } from 'sequelize';
import type { Milliseconds } from '@/core/time';
import type { Span } from '@/core/watch/hours';
import { canSkipHours, loudHours, type HourOfRecord } from '@/core/watch/loudHours';
import { besideOldest, holeOf, rehearseRecorded, type Recorded, type Series } from '@/core/watch/recorded';
import type { Rehearsal } from '@/core/watch/rehearse';
import { channelsBeside, type WatchRule } from '@/core/watch/rule';
import { readSeries, readSpans, type ReadRows } from '@/db/bulk';
import { longWork, query, type Database } from '@/db/database';
import { mendDerived } from '../record/mendDerived';
import type { Context } from '../context';
import { badField } from '../problem';
import { traceWindow } from '../record/trace';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { activeLayers } from '../verify/layers';
import { arrivalBooks } from './arrivals';
import { knownOffLine } from './watched';
import { requireRule } from './ground';

/** So many values are sent to a browser for a rehearsal there; of more the server is asked. */
const mostSent = 120_000;
/** So many are rehearsed at all. */
const mostRehearsed = 6_000_000;

/** From so many values on, the hours that decide nothing are passed over. */
const fewestToSkip = 20_000;

interface Asked {
  readonly from: Milliseconds;
  readonly until: Milliseconds;
  readonly beside: readonly string[];
  /** How far before the span a rate looks, s. */
  readonly before: number;
  /** A rule of which only the hours that decide something are read; null for every value. */
  readonly loudFor?: WatchRule | null;
}

/** Reads a stretch of a record for a rehearsal. */
export async function loadRecorded(
  db: Database,
  graph: StationGraph,
  channel: ChannelNode,
  { from, until, beside, before, loudFor }: Asked,
): Promise<Recorded> {
  const { station } = graph;
  return db.transact(async (tx) => {
    await longWork(db, tx);
    const read = (key: number, a: number, b: number) => readSeries(tx, station.key, key, a, b);
    const offLine = (await knownOffLine(db, [station.id], from, tx)).get(channel.row.id) ?? [];
    const own = loudFor
      ? await readLoud(db, tx, [station.key, channel.row.key], loudFor, { from, until }, offLine)
      : await read(channel.row.key, from, until - 0.001);
    const early = before > 0 ? await read(channel.row.key, from - before * 1000, from - 0.001) : null;
    const others = new Map<string, Series>();
    for (const id of beside) {
      const other = channelOf(graph, id);
      const series = await read(other.row.key, from - besideOldest(intervalOf(channel)), until);
      others.set(id, seriesOf(series));
    }
    const book = (await arrivalBooks(db, [station.id], from, tx)).get(station.id)!;
    const layers = await activeLayers(db, station.id, channel.row.id, from, until, tx);
    const at = own.times.map((s) => Math.round(s * 1000));
    const run = Int32Array.from(own.runs);
    return inRuns({
      from,
      until,
      at,
      run,
      value: own.values,
      arrived: at.map((stamp, i) => book.of(stamp, run[i]!, own.sources[i]!) ?? NaN),
      before: early ? seriesOf(early) : { at: new Float64Array(), value: new Float64Array() },
      beside: others,
      offLine,
      doubted: layers.flatMap((l) =>
        (l.kind === 'flag' && l.parameters.test !== 'gap') || l.kind === 'off-line'
          ? [
              {
                kind: l.kind === 'flag' ? ('flagged' as const) : ('off-line' as const),
                from: l.fromAt.getTime(),
                until: l.untilAt?.getTime() ?? Infinity,
              },
            ]
          : [],
      ),
    });
  });
}

/** The hours of a record that decide what a rule does, and of each other hour one value within. */
async function readLoud(
  db: Database,
  tx: Transaction,
  [station, channel]: readonly [number, number],
  rule: WatchRule,
  span: Span,
  offLine: readonly Span[],
): Promise<ReadRows> {
  const [found] = (await db.sequelize.query(
    `select array_agg(extract(epoch from bucket)::float8 * 1000 order by bucket) as at, array_agg(n order by bucket) as n,
            array_agg(min order by bucket) as min, array_agg(max order by bucket) as max
       from reading_rollup where station_key = $1 and channel_key = $2 and width = 3600
        and bucket >= to_timestamp($3) and bucket < to_timestamp($4)`,
    { bind: [station, channel, span.from / 1000 - 3600, span.until / 1000], transaction: tx },
  )) as [{ at: number[] | null; n: number[]; min: number[]; max: number[] }[], unknown];
  const { at, n, min, max } = found[0]!;
  const hours = (at ?? []).map((t, i) => ({ at: t, n: n[i]!, min: min[i]!, max: max[i]! }));
  const { loud, quiet } = loudHours(rule, hours, span, offLine);
  const inside = loud.map((s) => ({
    from: Math.max(s.from, span.from),
    until: Math.min(s.until, span.until),
  }));
  const read = await readSpans(
    tx,
    station,
    channel,
    inside.filter((s) => s.from < s.until),
  );
  return withQuiet(read, quiet);
}

/** Values with one in the middle of each quiet hour, in order of stamps. */
function withQuiet(read: ReadRows, quiet: readonly HourOfRecord[]): ReadRows {
  const n = read.times.length + quiet.length;
  const all = {
    times: new Float64Array(n),
    values: new Float64Array(n),
    runs: new Int16Array(n),
    sources: new Int32Array(n),
  };
  let [i, k] = [0, 0];
  for (let at = 0; at < n; at++) {
    const q = quiet[k];
    const middle = q === undefined ? Infinity : q.at / 1000 + 1800;
    if (i < read.times.length && read.times[i]! < middle) {
      all.times[at] = read.times[i]!;
      all.values[at] = read.values[i]!;
      all.runs[at] = read.runs[i]!;
      all.sources[at] = read.sources[i]!;
      i++;
    } else {
      all.times[at] = middle;
      all.values[at] = (q!.min + q!.max) / 2;
      k++;
    }
  }
  return all;
}

const seriesOf = ({ times, values }: { times: Float64Array; values: Float64Array }): Series => ({
  at: times.map((s) => s * 1000),
  value: values,
});

/** A record whose clock was set back is in order of stamps; watching takes run after run. */
function inRuns(r: Recorded): Recorded {
  if (!r.run.some((run, i) => i > 0 && run < r.run[i - 1]!)) return r;
  const order = Array.from(r.at.keys()).sort((a, b) => r.run[a]! - r.run[b]! || r.at[a]! - r.at[b]!);
  const by = (of: Float64Array) => Float64Array.from(order, (i) => of[i]!);
  return {
    ...r,
    at: by(r.at),
    value: by(r.value),
    arrived: by(r.arrived),
    run: Int32Array.from(order, (i) => r.run[i]!),
  };
}

export const intervalOf = (channel: ChannelNode): number | null =>
  channel.written?.settings.storageInterval ?? null;

const countOf = async (db: Database, stationKey: number, channelKey: number, from: number, until: number) =>
  (
    await query<{ n: number }>(
      db,
      `select coalesce(sum(n), 0)::int as n from reading_rollup
        where station_key = :stationKey and channel_key = :channelKey and width = 86400
          and bucket >= date_trunc('day', to_timestamp(:from) at time zone 'utc') at time zone 'utc' and bucket < to_timestamp(:until)`,
      { stationKey, channelKey, from: from / 1000, until: until / 1000 },
    )
  )[0]!.n;

const hasRuns = async (db: Database, stationId: string): Promise<boolean> =>
  (await query(db, 'select 1 as x from clock_run where station_id = :stationId limit 1', { stationId }))
    .length > 0;

/** A stretch of a record, packed for the browser: where it is too long for that, it says so and is empty. */
export async function rehearsalRecord(
  ctx: Context,
  stationId: string,
  channelId: string,
  asked: { from: string; until: string; beside: readonly string[]; before: number },
): Promise<RehearsalRecordView> {
  const { from, until } = traceWindow(asked.from, asked.until, null, ctx.now());
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  if (channel.row.source === 'derived') await mendDerived(ctx.db, stationId);
  const readings = await countOf(ctx.db, graph.station.key, channel.row.key, from, until);
  const tooLong = readings > mostSent;
  const before = Math.min(86_400, Math.max(0, asked.before));
  const r = await loadRecorded(ctx.db, graph, channel, {
    from,
    until: tooLong ? from : until,
    beside: asked.beside,
    before: tooLong ? 0 : before,
  });
  const after = (list: Float64Array) => Array.from(list, (t) => t - from);
  return {
    from,
    until,
    at: after(r.at),
    value: Array.from(r.value),
    runs: changesOf(r.run),
    arrived: changesOf(r.arrived).map(([i, at]) => [i, Number.isNaN(at) ? null : at] as const),
    before: { at: after(r.before.at), value: Array.from(r.before.value) },
    beside: Object.fromEntries(
      [...r.beside].map(([id, s]) => [id, { at: after(s.at), value: Array.from(s.value) }]),
    ),
    offLine: r.offLine.map((s) => ({
      ...s,
      until: s.until === Infinity ? null : s.until,
      knownUntil: s.knownUntil === Infinity ? null : s.knownUntil,
    })),
    doubted: r.doubted.map((d) => ({ ...d, until: Math.min(d.until, until) })),
    tooLong,
    readings,
  };
}

/** From which place on a list has another value. */
function changesOf(list: ArrayLike<number>): (readonly [from: number, value: number])[] {
  const found: (readonly [number, number])[] = [];
  for (let i = 0; i < list.length; i++)
    if (i === 0 || !Object.is(list[i], list[i - 1])) found.push([i, list[i]!]);
  return found;
}

/** Plays a rule on a stretch of the record here, however long. */
export async function rehearseHere(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: { rule: WatchRule; from: string; until: string; asArrived: boolean },
): Promise<Rehearsal> {
  const { rule, asArrived } = request;
  const { from, until } = traceWindow(request.from, request.until, null, ctx.now());
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  await requireRule(ctx.db, graph, channel, rule);
  if (channel.row.source === 'derived') await mendDerived(ctx.db, stationId);
  const readings = await countOf(ctx.db, graph.station.key, channel.row.key, from, until);
  if (readings > mostRehearsed)
    throw badField(
      'window-too-long',
      'from',
      request.from,
      `There are ${readings} values in this window; ${mostRehearsed} can be rehearsed at once.`,
      'Choose a shorter one.',
    );
  const recorded = await loadRecorded(ctx.db, graph, channel, {
    from,
    until,
    beside: channelsBeside(rule),
    before: rule.rate?.within ?? 0,
    // What arrived late is told by its own stamp, and a clock that was set back by its own run.
    loudFor:
      readings >= fewestToSkip && !asArrived && canSkipHours(rule) && !(await hasRuns(ctx.db, stationId))
        ? rule
        : null,
  });
  const interval = intervalOf(channel);
  const played = rehearseRecorded(rule, recorded, {
    asArrived,
    zone: graph.site.zone,
    gap: holeOf(interval),
    besideOldest: besideOldest(interval),
  });
  return { ...played, readings };
}
