import type { Transaction } from 'sequelize';
import type { Rollup } from '@/core/series/rollup';
import type { Database } from './database';

/** Widths the record is rolled up at, s. */
export const hour = 3600;
export const day = 86_400;

const columns = 'n, sum, min, max, first, last, sin_sum, cos_sum';
const replace = `on conflict (station_key, channel_key, width, bucket) do update
  set n = excluded.n, sum = excluded.sum, min = excluded.min, max = excluded.max, first = excluded.first,
      last = excluded.last, sin_sum = excluded.sin_sum, cos_sum = excluded.cos_sum`;

/** Recomputes the rollups a span touches: hours from the readings themselves, days from the hours. */
export async function refreshRollups(
  db: Database,
  stationKey: number,
  channelKey: number,
  fromMs: number,
  untilMs: number,
  tx: Transaction,
): Promise<void> {
  const bind = [stationKey, channelKey, new Date(fromMs).toISOString(), new Date(untilMs).toISOString()];
  const run = (sql: string) => db.sequelize.query(sql, { bind, transaction: tx });
  await run(
    `insert into reading_rollup (station_key, channel_key, width, bucket, ${columns})
     select station_key, channel_key, ${hour}, date_trunc('hour', at, 'UTC') as bucket, count(*), sum(value), min(value),
            max(value), (array_agg(value order by at, clock_run))[1], (array_agg(value order by at desc, clock_run desc))[1],
            sum(sin(radians(value))), sum(cos(radians(value)))
       from reading
      where station_key = $1 and channel_key = $2
        and at >= date_trunc('hour', $3::timestamptz, 'UTC')
        and at < date_trunc('hour', $4::timestamptz, 'UTC') + interval '1 hour'
      group by 1, 2, 4 ${replace}`,
  );
  await run(
    `insert into reading_rollup (station_key, channel_key, width, bucket, ${columns})
     select station_key, channel_key, ${day}, date_trunc('day', bucket, 'UTC') as b, sum(n), sum(sum), min(min), max(max),
            (array_agg(first order by bucket))[1], (array_agg(last order by bucket desc))[1], sum(sin_sum), sum(cos_sum)
       from reading_rollup
      where station_key = $1 and channel_key = $2 and width = ${hour}
        and bucket >= date_trunc('day', $3::timestamptz, 'UTC')
        and bucket < date_trunc('day', $4::timestamptz, 'UTC') + interval '1 day'
      group by 1, 2, 4 ${replace}`,
  );
}

/** Stores rollups that were reckoned while the readings went by; those already there stay as they are. */
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
       on conflict do nothing`,
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
