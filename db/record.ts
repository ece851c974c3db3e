import { query, type Database } from './database';

/** The logged record: bulk in, drawn out. Nothing here changes a reading once stored. */

/**
 * SQL: readings that came with an import which was withdrawn are read by nobody. Asked once for a query,
 * not for each reading.
 *
 * @param station SQL for the station's key
 * @param of alias of the table of readings, with its dot
 */
export const shown = (station: string | number, of = ''): string =>
  `${of}source <> all ((select withdrawn_sources(${station}))::int[])`;

/** Makes the yearly partitions a span needs, each in its own short transaction. */
export async function ensurePartitions(db: Database, fromMs: number, untilMs: number): Promise<void> {
  const last = new Date(untilMs).getUTCFullYear();
  for (let year = new Date(fromMs).getUTCFullYear(); year <= last; year++)
    await query(db, 'select ensure_reading_partition(:year)', { year });
}

export interface Bucket {
  channelKey: number;
  /** s since epoch */
  start: number;
  n: number;
  sum: number;
  min: number;
  max: number;
  sinSum: number;
  cosSum: number;
  /** Stamps of its first and last reading, s since epoch, and their clock run, where the readings themselves were asked. */
  firstAt?: number;
  lastAt?: number;
  clockRun?: number;
}

/** Rollups of one channel gathered into wider buckets: `width` s, a multiple of an hour or of a day. */
export async function rollupBuckets(
  db: Database,
  stationKey: number,
  channelKey: number,
  width: number,
  fromMs: number,
  untilMs: number,
): Promise<Bucket[]> {
  const level = width % 86_400 === 0 ? 86_400 : 3600;
  return query<Bucket>(
    db,
    `select floor(extract(epoch from bucket) / :width)::float8 * :width as start, min(channel_key) as "channelKey",
            sum(n)::int as n, sum(sum) as sum, min(min) as min, max(max) as max, sum(sin_sum) as "sinSum", sum(cos_sum) as "cosSum"
       from reading_rollup
      where station_key = :stationKey and channel_key = :channelKey and width = :level and bucket >= :from and bucket < :until
      group by 1 order by 1`,
    {
      width,
      level,
      stationKey,
      channelKey,
      // Whole buckets: the one the window begins in is drawn too.
      from: new Date(Math.floor(fromMs / 1000 / width) * width * 1000),
      until: new Date(untilMs),
    },
  );
}

/** Readings of one channel grouped into buckets of `width` s and by clock run, straight from the record. */
export async function fineBuckets(
  db: Database,
  stationKey: number,
  channelKey: number,
  width: number,
  fromMs: number,
  untilMs: number,
): Promise<Bucket[]> {
  return query<Bucket>(
    db,
    `select floor(extract(epoch from at) / :width)::float8 * :width as start, min(channel_key) as "channelKey",
            count(*)::int as n, sum(value) as sum, min(value) as min, max(value) as max,
            sum(sin(radians(value))) as "sinSum", sum(cos(radians(value))) as "cosSum",
            extract(epoch from min(at))::float8 as "firstAt", extract(epoch from max(at))::float8 as "lastAt",
            clock_run as "clockRun"
       from reading
      where station_key = :stationKey and channel_key = :channelKey and at >= :from and at < :until
        and ${shown(':stationKey')}
      group by 1, clock_run order by 1, clock_run`,
    { width, stationKey, channelKey, from: new Date(fromMs), until: new Date(untilMs) },
  );
}

/** Logged readings of one channel in stamp order, a page at a time: `limit` of them, and those that share the last stamp. */
export async function readingsPage(
  db: Database,
  stationKey: number,
  channelKey: number,
  fromMs: number,
  untilMs: number,
  limit: number,
): Promise<{ at: Date; clockRun: number; value: number }[]> {
  return query(
    db,
    `select * from (
       select at, clock_run as "clockRun", value from reading
        where station_key = :stationKey and channel_key = :channelKey and at >= :from and at < :until
          and ${shown(':stationKey')}
        order by at fetch first :limit rows with ties) r
      order by at, "clockRun"`,
    { stationKey, channelKey, from: new Date(fromMs), until: new Date(untilMs), limit },
  );
}

/** Newest reading of each channel: its stamp (ms) and value. */
export async function newestReadings(
  db: Database,
  channelKeys: readonly number[],
): Promise<Map<number, { at: number; value: number }>> {
  if (channelKeys.length === 0) return new Map();
  const found = await query<{ channelKey: number; at: Date; value: number }>(
    db,
    `select c.key as "channelKey", r.at, r.value
       from channel c join station s on s.id = c.station_id
       cross join lateral (
         select at, value from reading
          where station_key = s.key and channel_key = c.key and ${shown('s.key')} order by at desc limit 1) r
      where c.key in (:keys)`,
    { keys: channelKeys },
  );
  return new Map(found.map((f) => [f.channelKey, { at: f.at.getTime(), value: f.value }]));
}

/** The sum of what a channel logged within a span; 0 for nothing. */
export async function sumOfReadings(
  db: Database,
  stationKey: number,
  channelKey: number,
  fromMs: number,
  untilMs: number,
): Promise<number> {
  const [found] = await query<{ sum: number | null }>(
    db,
    `select sum(value) as sum from reading
      where station_key = :stationKey and channel_key = :channelKey and at > :from and at <= :until
        and ${shown(':stationKey')}`,
    { stationKey, channelKey, from: new Date(fromMs), until: new Date(untilMs) },
  );
  return found?.sum ?? 0;
}
