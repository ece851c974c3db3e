import type { Database } from '../db/database';
import { query } from '../db/database';
import { storeRollups } from '../db/rollup';
import { rollupBuilder, widerRollups } from '../core/series/rollup';
import { openReadingCopy } from '../db/bulk';
import { ensurePartitions } from '../db/record';
import { longWork } from '../db/database';
import { besideOldest, holeOf, rehearseRecorded, type Recorded } from '../core/watch/recorded';
import { noRule, type WatchRule } from '../core/watch/rule';
import type { Context } from '../server/context';
import { newId } from '../server/id';
import { evaluateStations, mostAtOnce } from '../server/watch/evaluate';
import { rehearseHere } from '../server/watch/recorded';
import { middle, ms, printTable } from './table';
import { minuteValue, type BenchWorld } from './world';

const minute = 60_000;
const begin = Date.UTC(2016, 0, 1);
const years = 5_300_000;

/** Minute by minute over ten years: rules rehearsed on all of it, and on a month. */
export async function benchRehearsal({ db, ctx, stationId }: BenchWorld): Promise<void> {
  const channelId = newId();
  await newChannel(db, stationId, channelId, 'airTemperature');
  await fill(db, stationId, channelId, years);
  const play = (rule: WatchRule, from: number, until: number, asArrived = false) =>
    middle(3, async () => {
      await rehearseHere(ctx, stationId, channelId, {
        rule,
        from: new Date(from).toISOString(),
        until: new Date(until).toISOString(),
        asArrived,
      });
    });
  const end = begin + years * minute;
  // Rings some ten times a year; in the middle of every day; and one that looks at each value.
  const rare: WatchRule = {
    ...noRule,
    limits: { farLow: null, low: null, high: 18.2, farHigh: 18.6 },
    hysteresis: 0.5,
    delay: 900,
  };
  const daily: WatchRule = { ...rare, limits: { ...rare.limits, high: 9, farHigh: 16 } };
  const each: WatchRule = { ...rare, silentAfter: 300 };
  const plain = await middle(3, async () => {
    await query(
      db,
      `select max(value), count(*) from reading where channel_key = (select key from channel where id = :channelId)`,
      { channelId },
    );
  });
  const [aRare, aDaily, anEach, aMonth] = [
    await play(rare, begin, end),
    await play(daily, begin, end),
    await play(each, begin, end),
    await play(daily, end - 30 * 86_400_000, end),
  ];
  const row = (what: string, value: number, aim: string) => ({
    what,
    value: ms(value),
    against: `${ms(plain)} to count as many values and find their highest in the database`,
    ratio: (value / plain).toFixed(2),
    aim,
  });
  printTable('Watch: a rule rehearsed', [
    row('5.3 million values (ten years, each minute), a rule that rings now and then', aRare, '< 2 s'),
    row('the same, a limit in the middle of every day', aDaily, ''),
    row('the same, a rule that looks at each value (a silence of 5 min)', anEach, ''),
    { what: 'a month of minutes, asked of the server', value: ms(aMonth), aim: '< 100 ms' },
    {
      what: 'the same played by the browser, once the month is there',
      value: ms(await monthHere()),
      aim: '< 100 ms',
    },
  ]);
}

/** A month of minutes, played as the browser does while a limit is dragged. */
async function monthHere(): Promise<number> {
  const n = 30 * 1440;
  const at = Float64Array.from({ length: n }, (_, i) => begin + i * minute);
  const rule: WatchRule = {
    ...noRule,
    limits: { farLow: null, low: null, high: 9, farHigh: 16 },
    hysteresis: 0.5,
    delay: 900,
  };
  const recorded: Recorded = {
    from: begin,
    until: begin + n * minute,
    at,
    run: new Int32Array(n),
    value: Float64Array.from(at, (_, i) => minuteValue(i)),
    arrived: at,
    before: { at: new Float64Array(), value: new Float64Array() },
    beside: new Map(),
    offLine: [],
    doubted: [],
  };
  const as = { asArrived: false, zone: 'Etc/UTC', gap: holeOf(60), besideOldest: besideOldest(60) };
  return middle(9, () => rehearseRecorded(rule, recorded, as));
}

const [stations, channels] = [2000, 10];

/** Every channel of many stations has a new value: all of them looked at, by one process and by two. */
export async function benchArrivals({ db, ctx }: BenchWorld): Promise<void> {
  const ids = await manyWatched(db, ctx);
  const come = async (m: number) => {
    const at = Date.UTC(2026, 5, 1) + m * minute;
    await ensurePartitions(db, at, at);
    await db.sequelize.query(
      `insert into reading (station_key, channel_key, at, clock_run, value, source)
       select s.key, c.key, to_timestamp($1), 0, 50 + 15.2 * sin(c.key + $2), 0
         from channel c join station s on s.id = c.station_id where s.code like 'MANY-%'`,
      { bind: [at / 1000, m] },
    );
    return at;
  };
  const look = async (at: number, mine: readonly string[]) => {
    let n = 0;
    for (let i = 0; i < mine.length; i += mostAtOnce)
      n += await evaluateStations(db, mine.slice(i, i + mostAtOnce), at);
    return n;
  };
  await look(await come(0), ids);
  const times: number[] = [];
  let looked = 0;
  for (let m = 1; m <= 3; m++) {
    const at = await come(m);
    const began = performance.now();
    looked = await look(at, ids);
    times.push(performance.now() - began);
  }
  const at = await come(4);
  const began = performance.now();
  // Two at once over the same stations, one from each end: each value is looked at once.
  const both = await Promise.all([look(at, ids), look(at, [...ids].reverse())]);
  const together = performance.now() - began;
  const one = times.sort((a, b) => a - b)[1]!;
  printTable('Watch: what arrives each minute', [
    {
      what: `${stations} stations × ${channels} channels looked at by one process (${looked} values)`,
      value: ms(one),
      aim: '< 5 s',
    },
    {
      what: `the same by two at once (${both[0] + both[1]} values, each once)`,
      value: ms(together),
      against: `${ms(one)} by one`,
      ratio: (together / one).toFixed(2),
      aim: 'once each',
    },
  ]);
}

async function newChannel(db: Database, stationId: string, id: string, quantity: string): Promise<void> {
  await query(
    db,
    `insert into channel (station_id, id, quantity, zone_name, source) values (:stationId, :id, :quantity, 'Mast', 'file') returning 1 as x`,
    { stationId, id, quantity },
  );
}

async function fill(db: Database, stationId: string, channelId: string, n: number): Promise<void> {
  const [keys] = await query<{ station: number; channel: number }>(
    db,
    'select s.key as station, c.key as channel from channel c join station s on s.id = c.station_id where c.station_id = :stationId and c.id = :channelId',
    { stationId, channelId },
  );
  await ensurePartitions(db, begin, begin + n * minute);
  await db.transact(async (tx) => {
    await longWork(db, tx);
    const copy = openReadingCopy(tx, keys!.station, 0);
    const hours = rollupBuilder(3600);
    for (let i = 0; i < n; i++) {
      const at = begin + i * minute;
      copy.push(keys!.channel, at, 0, minuteValue(i), 0);
      hours.add(at, minuteValue(i));
      if (i % 50_000 === 0) await copy.flush();
    }
    await copy.end();
    await storeRollups(db, keys!.station, keys!.channel, 3600, hours.buckets, tx);
    await storeRollups(db, keys!.station, keys!.channel, 86_400, widerRollups(hours.buckets, 86_400), tx);
  });
  await db.sequelize.query('analyze reading');
}

/** Stations with watched channels, made at once in the database. */
async function manyWatched(db: Database, ctx: Context): Promise<string[]> {
  const rule: WatchRule = {
    ...noRule,
    limits: { farLow: 20, low: 35, high: 65, farHigh: 80 },
    hysteresis: 3,
    silentAfter: 3600,
  };
  const insert = (sql: string, bind: unknown[] = []) => db.sequelize.query(sql, { bind });
  await insert(
    `insert into station (id, site_id, code, name)
     select gen_random_uuid(), (select id from site limit 1), 'MANY-' || n, 'Many' from generate_series(1, $1::int) n`,
    [stations],
  );
  await insert(
    `insert into channel (station_id, id, quantity, zone_name, source)
     select s.id, gen_random_uuid(), 'humidity', 'Room ' || n, 'file' from station s cross join generate_series(1, $1::int) n where s.code like 'MANY-%'`,
    [channels],
  );
  await insert(
    `insert into watch_rule (station_id, id, channel_id, number, rule, armed, note, person_id)
     select c.station_id, gen_random_uuid(), c.id, 1, $1::jsonb, true, '', $2 from channel c join station s on s.id = c.station_id where s.code like 'MANY-%'`,
    [JSON.stringify(rule), ctx.person.id],
  );
  await insert(
    `insert into watch_state (station_id, channel_id, rule_id, run, last_ms, arrived_ms)
     select r.station_id, r.channel_id, r.id, 0, 0, 0 from watch_rule r join station s on s.id = r.station_id where s.code like 'MANY-%'`,
  );
  return (await query<{ id: string }>(db, `select id from station where code like 'MANY-%' order by id`)).map(
    (s) => s.id,
  );
}
