import type { Transaction } from 'sequelize';
import { rollupBuilder, widerRollups, type Rollup } from '@/core/series/rollup';
import { readSeries } from './bulk';
import type { Database } from './database';

/** Widths the record is rolled up at, s. */
export const hour = 3600;
export const day = 86_400;

const columns = 'n, sum, min, max, first, last, sin_sum, cos_sum';
const replace = `on conflict (station_key, channel_key, width, bucket) do update
  set n = excluded.n, sum = excluded.sum, min = excluded.min, max = excluded.max, first = excluded.first,
      last = excluded.last, sin_sum = excluded.sin_sum, cos_sum = excluded.cos_sum`;

/** So many days are read at once when rollups are made anew, so that memory does not grow with the span. */
const daysAtOnce = 150;

/** Makes the rollups a span touches anew, whole days of them, from the readings themselves. */
export async function refreshRollups(
  db: Database,
  stationKey: number,
  channelKey: number,
  fromMs: number,
  untilMs: number,
  tx: Transaction,
): Promise<void> {
  const dayMs = day * 1000;
  const end = (Math.floor(untilMs / dayMs) + 1) * dayMs;
  for (let at = Math.floor(fromMs / dayMs) * dayMs; at < end; at += daysAtOnce * dayMs) {
    const until = Math.min(end, at + daysAtOnce * dayMs);
    // The end of a span belongs to it: up to the last microsecond before the next day.
    const { times, values } = await readSeries(tx, stationKey, channelKey, at, until - 0.001);
    const hours = rollupBuilder(hour);
    for (let i = 0; i < times.length; i++) hours.add(times[i]! * 1000, values[i]!);
    await storeRollups(db, stationKey, channelKey, hour, hours.buckets, tx);
    await storeRollups(db, stationKey, channelKey, day, widerRollups(hours.buckets, day), tx);
  }
}

/** Stores rollups that were reckoned from readings; those already there are replaced. */
export async function storeRollups(
  db: Database,
  stationKey: number,
  channelKey: number,
  width: number,
  rollups: readonly Rollup[],
  tx: Transaction,
): Promise<void> {
  const part = 20_000;
  for (let i = 0; i < rollups.length; i += part) {
    const some = rollups.slice(i, i + part);
    await db.sequelize.query(
      `insert into reading_rollup (station_key, channel_key, width, bucket, ${columns})
       select $1::int, $2::int, $3::int, to_timestamp(b), c.n, c.sum, c.min, c.max, c.first, c.last, c.sin_sum, c.cos_sum
         from unnest($4::float8[], $5::int[], $6::float8[], $7::float8[], $8::float8[], $9::float8[], $10::float8[],
                     $11::float8[], $12::float8[]) as c(b, n, sum, min, max, first, last, sin_sum, cos_sum)
       ${replace}`,
      {
        bind: [
          stationKey,
          channelKey,
          width,
          some.map((r) => r.start),
          some.map((r) => r.n),
          some.map((r) => r.sum),
          some.map((r) => r.min),
          some.map((r) => r.max),
          some.map((r) => r.first),
          some.map((r) => r.last),
          some.map((r) => r.sinSum),
          some.map((r) => r.cosSum),
        ],
        transaction: tx,
      },
    );
  }
}
