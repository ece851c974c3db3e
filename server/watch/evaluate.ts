import type { Transaction } from 'sequelize';
import { groupBy } from '@/core/groupBy';
import type { Milliseconds } from '@/core/time';
import { lastRead } from '@/core/watch/beside';
import { besideOldest, inOrderOfArrival } from '@/core/watch/recorded';
import { channelsBeside } from '@/core/watch/rule';
import { watcher, type Arrivals, type WatchEvent, type WatchState } from '@/core/watch/watcher';
import { query, type Database } from '@/db/database';
import { storedWatchState } from '@/db/stored/watch';
import { mendDerived } from '../record/mendDerived';
import { arrivalBooks, type ArrivalBook } from './arrivals';
import { keepEvents, type WatchedEvent } from './keepEvents';
import { groundOf, knownOffLine, stateColumns, watchedChannels, type WatchedChannel } from './watched';

/** Class of the advisory lock under which what is watched at a station follows each other. */
const watchLock = 4721;

/** So many stations are looked at in one transaction. */
export const mostAtOnce = 200;
/** So many values of one channel are taken at a time; more than that waits for the next look. */
const mostValues = 200_000;

export async function lockWatch(db: Database, tx: Transaction, stationIds: readonly string[]): Promise<void> {
  // In one order, so that two who want several never wait for each other.
  await query(
    db,
    `select pg_advisory_xact_lock(${watchLock}, hashtext(x::text)) from
       (select unnest(array[:ids]::text[]) as x order by 1) o`,
    { ids: [...stationIds].sort() },
    tx,
  );
}

/**
 * Looks at what has arrived at some stations since the last look, and at what has not: raises alarms, ends
 * them, and keeps how watching stands, all of it in one transaction. The same look twice finds nothing
 * the second time.
 *
 * @returns how many values were looked at
 */
export async function evaluateStations(
  db: Database,
  stationIds: readonly string[],
  now: Milliseconds,
  also: (tx: Transaction) => Promise<void> = async () => {},
): Promise<number> {
  const derived = await query<{ id: string }>(
    db,
    `select distinct r.station_id as id from watch_rule_in_force r
       join channel c on c.station_id = r.station_id and c.id = r.channel_id
      where r.station_id in (:ids) and r.armed and c.source = 'derived'`,
    { ids: [...stationIds] },
  );
  for (const { id } of derived) await mendDerived(db, id);
  return db.transact(async (tx) => {
    await lockWatch(db, tx, stationIds);
    await also(tx);
    const watched = await watchedChannels(db, stationIds, tx);
    if (watched.length === 0) return 0;
    const withdrawn = await withdrawnSources(db, tx, stationIds);
    const values = await newValues(db, tx, watched, withdrawn);
    const since = Math.min(now, ...watched.map((w) => (w.state.last === 0 ? now : w.state.last)));
    const offLine = await knownOffLine(db, stationIds, since, tx);
    const books = await arrivalBooks(db, stationIds, since, tx);
    const beside = await besideValues(db, tx, watched, values, withdrawn);
    const events: WatchedEvent[] = [];
    const states: { channel: WatchedChannel; state: WatchState; silentAt: number | null }[] = [];
    let looked = 0;
    for (const channel of watched) {
      const { rule, state } = channel;
      const mine = values.get(channel.channelKey) ?? noValues;
      if (mine.length === 0 && (rule.silentAfter === null || state.last === 0)) continue;
      looked += mine.length;
      const arrivals = arrivalsOf(mine, books.get(channel.stationId)!, now);
      const span = { from: Math.min(state.last || now, arrivals.at[0] ?? now) - day, until: now + day };
      const keep = (event: WatchEvent) => events.push({ channel, event, ring: { ...event.ring } });
      const ground = groundOf(
        rule,
        channel.zone,
        channel.interval,
        span,
        offLine.get(channel.channelId) ?? [],
      );
      const watch = watcher(rule, ground, state, keep);
      const series = (id: string | undefined) => {
        const found = id === undefined ? undefined : beside.get(id);
        return found ? lastRead(arrivals.at, found.at, found.value, besideOldest(channel.interval)) : null;
      };
      const before = rule.rate && beside.get(channel.channelId);
      if (before) watch.prime(before.at, before.value);
      watch.take({ ...arrivals, gate: series(rule.gate?.channelId), twin: series(rule.twin?.channelId) });
      watch.settle(now);
      states.push({ channel, state, silentAt: watch.silentAt() });
    }
    await keepEvents(db, tx, events, now);
    await keepStates(db, tx, states);
    return looked;
  });
}

const day = 86_400_000;

interface Value {
  readonly channelKey: number;
  readonly at: number;
  readonly run: number;
  readonly value: number;
  readonly source: number;
}
const noValues: readonly Value[] = [];

/** What is stored beyond where watching stands, of every channel at once, in order of clock run and stamp. */
async function newValues(
  db: Database,
  tx: Transaction,
  watched: readonly WatchedChannel[],
  withdrawn: Withdrawn,
): Promise<Map<number, Value[]>> {
  const stationIds = [...new Set(watched.map((w) => w.stationId))];
  const runs = await newestRuns(db, tx, stationIds);
  const ask = async (of: readonly WatchedChannel[], which: string) => {
    if (of.length === 0) return [];
    const [found] = (await db.sequelize.query(
      `select w.channel as "channelKey", extract(epoch from r.at)::float8 * 1000 as at, r.clock_run::int as run, r.value, r.source
         from unnest($1::int[], $2::int[], $3::int[], $4::float8[]) as w(station, channel, run, last)
        cross join lateral (
          select at, clock_run, value, source from reading
           where station_key = w.station and channel_key = w.channel and ${which}
           order by clock_run, at limit ${mostValues}) r`,
      {
        bind: [
          of.map((w) => w.stationKey),
          of.map((w) => w.channelKey),
          of.map((w) => w.state.run),
          of.map((w) => w.state.last),
        ],
        transaction: tx,
      },
    )) as [Value[], unknown];
    return found;
  };
  const isSetBack = (w: WatchedChannel) => (runs.get(w.stationId) ?? 0) > w.state.run;
  const rows = [
    ...(await ask(watched, 'clock_run = w.run and at > to_timestamp(w.last / 1000)')),
    ...(await ask(watched.filter(isSetBack), 'clock_run > w.run')),
  ];
  const gone = new Map(watched.map((w) => [w.channelKey, withdrawn.get(w.stationId)]));
  return groupBy(
    rows.filter((r) => !gone.get(r.channelKey)?.has(r.source)),
    (r) => r.channelKey,
  );
}

type Withdrawn = ReadonlyMap<string, ReadonlySet<number>>;

/** Imports that were withdrawn, of each station that has any: what came with them is read by nobody. */
async function withdrawnSources(
  db: Database,
  tx: Transaction,
  stationIds: readonly string[],
): Promise<Withdrawn> {
  const found = await query<{ id: string; key: number }>(
    db,
    `select l.station_id as id, i.key from active_layer l
       join record_import i on i.station_id = l.station_id and i.id = (l.parameters->>'importId')::uuid
      where l.kind = 'withdrawal' and l.station_id in (:stationIds)`,
    { stationIds: [...stationIds] },
    tx,
  );
  return new Map([...groupBy(found, (f) => f.id)].map(([id, of]) => [id, new Set(of.map((f) => f.key))]));
}

/** The newest clock run of each station whose clock was ever set back. */
async function newestRuns(
  db: Database,
  tx: Transaction,
  stationIds: readonly string[],
): Promise<Map<string, number>> {
  const found = await query<{ id: string; run: number }>(
    db,
    'select station_id as id, max(run)::int as run from clock_run where station_id in (:stationIds) group by 1',
    { stationIds: [...stationIds] },
    tx,
  );
  return new Map(found.map((f) => [f.id, f.run]));
}

/**
 * Values with when they arrived: a value nobody noted the arrival of is taken to arrive now. They are taken as
 * they came: one that came with an earlier collection goes before one of a later.
 */
function arrivalsOf(values: readonly Value[], book: ArrivalBook, now: Milliseconds): Arrivals {
  return inOrderOfArrival({
    at: Float64Array.from(values, (v) => v.at),
    run: Int32Array.from(values, (v) => v.run),
    value: Float64Array.from(values, (v) => v.value),
    arrived: Float64Array.from(values, (v) => Math.min(now, book.of(v.at, v.run, v.source) ?? now)),
    gate: null,
    twin: null,
  });
}

/** What other channels read meanwhile, and what a rate begins with: by channel, in order of stamps. */
async function besideValues(
  db: Database,
  tx: Transaction,
  watched: readonly WatchedChannel[],
  values: ReadonlyMap<number, readonly Value[]>,
  withdrawn: Withdrawn,
): Promise<Map<string, { at: Float64Array; value: Float64Array }>> {
  const asked = watched.flatMap((w) => {
    const mine = values.get(w.channelKey);
    if (!mine) return [];
    // Of a clock that was set back, the last value need not be the latest.
    const [first, last] = mine.reduce(
      ([a, b], v) => [Math.min(a, v.at), Math.max(b, v.at)],
      [Infinity, -Infinity],
    );
    const others = channelsBeside(w.rule).map((id) => ({
      id,
      from: first - besideOldest(w.interval),
      until: last,
    }));
    // The rate's own beginning: what is taken comes after it.
    const own = w.rule.rate
      ? [{ id: w.channelId, from: first - w.rule.rate.within * 1000, until: first - 1 }]
      : [];
    return [...others, ...own].map((o) => ({ ...o, stationId: w.stationId }));
  });
  if (asked.length === 0) return new Map();
  const keys = await query<{ id: string; channel: number; station: number }>(
    db,
    `select c.id, c.key as channel, s.key as station from channel c join station s on s.id = c.station_id
      where c.station_id in (:stationIds) and c.id in (:ids)`,
    { stationIds: asked.map((a) => a.stationId), ids: asked.map((a) => a.id) },
    tx,
  );
  const keysOf = new Map(keys.map((k) => [k.id, k]));
  const there = asked.filter((a) => keysOf.has(a.id));
  // By plain keys: a join in between hides from the database which part of the record is meant.
  const [read] = (await db.sequelize.query(
    `select w.n, extract(epoch from r.at)::float8 * 1000 as at, r.value, r.source
       from unnest($1::int[], $2::int[], $3::float8[], $4::float8[]) with ordinality as w(station, channel, from_s, until_s, n)
      cross join lateral (
        select at, value, source from reading where station_key = w.station and channel_key = w.channel
           and at >= to_timestamp(w.from_s) and at <= to_timestamp(w.until_s)) r
      order by r.at`,
    {
      bind: [
        there.map((a) => keysOf.get(a.id)!.station),
        there.map((a) => keysOf.get(a.id)!.channel),
        there.map((a) => a.from / 1000),
        there.map((a) => a.until / 1000),
      ],
      transaction: tx,
    },
  )) as [{ n: number; at: number; value: number; source: number }[], unknown];
  const found = read.flatMap((r) => {
    const { id, stationId } = there[Number(r.n) - 1]!;
    return withdrawn.get(stationId)?.has(r.source) ? [] : [{ id, at: r.at, value: r.value }];
  });
  return new Map(
    [...groupBy(found, (f) => f.id)].map(([id, mine]) => [
      id,
      { at: Float64Array.from(mine, (m) => m.at), value: Float64Array.from(mine, (m) => m.value) },
    ]),
  );
}

/** How watching stands now, of every channel at once. */
async function keepStates(
  db: Database,
  tx: Transaction,
  states: readonly { channel: WatchedChannel; state: WatchState; silentAt: number | null }[],
): Promise<void> {
  if (states.length === 0) return;
  const columns = states.map((s) => stateColumns(s.state));
  await db.sequelize.query(
    `update watch_state w set run = n.run, last_ms = n.last, arrived_ms = n.arrived, state = n.state,
            silent_at = to_timestamp(n.silent / 1000)
       from unnest($1::uuid[], $2::uuid[], $3::int[], $4::float8[], $5::float8[], $6::jsonb[], $7::float8[])
         as n(station_id, channel_id, run, last, arrived, state, silent)
      where w.station_id = n.station_id and w.channel_id = n.channel_id`,
    {
      bind: [
        states.map((s) => s.channel.stationId),
        states.map((s) => s.channel.channelId),
        columns.map((c) => c.run),
        columns.map((c) => c.lastMs),
        columns.map((c) => c.arrivedMs),
        columns.map((c) => c.state && JSON.stringify(storedWatchState.write(c.state))),
        states.map((s) => s.silentAt),
      ],
      transaction: tx,
    },
  );
}
