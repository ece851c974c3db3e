import type { Transaction } from 'sequelize';
import { rollupBuilder, widerRollups, type Rollup } from '@/core/series/rollup';
import { readSeries } from './bulk';
import type { Database } from './database';

/** Widths the record is rolled up at, s. */
export const hour = 3600;
export const day = 86_400;

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
    // What is not among them holds nothing any more, as when an import was withdrawn.
    const span = { from: at, until };
    await storeRollups(db, stationKey, channelKey, hour, hours.buckets, tx, span);
    await storeRollups(db, stationKey, channelKey, day, widerRollups(hours.buckets, day), tx, span);
  }
}

/**
 * Stores rollups that were reckoned from readings; those already there are replaced, and with a span (ms,
 * the end outside) those within it that are not among them are taken away.
 */
export async function storeRollups(
  db: Database,
  stationKey: number,
  channelKey: number,
  width: number,
  rollups: readonly Rollup[],
  tx: Transaction,
  span: { readonly from: number; readonly until: number } | null = null,
): Promise<void> {
  // A span is stored whole, whatever its length: its buckets are few (daysAtOnce).
  const part = span ? Math.max(1, rollups.length) : 20_000;
  const at = (ms: number | undefined) => new Date(ms ?? 0).toISOString();
  for (let i = 0; i < rollups.length || (i === 0 && span); i += part) {
    const some = rollups.slice(i, i + part);
    const column = (of: (r: Rollup) => number) => some.map(of);
    await db.sequelize.query(
      `select store_rollups($1, $2, $3, $4, $5, $6::float8[], $7::int[], $8::float8[], $9::float8[], $10::float8[],
                            $11::float8[], $12::float8[], $13::float8[], $14::float8[])`,
      {
        bind: [
          stationKey,
          channelKey,
          width,
          at(span?.from),
          at(span?.until),
          column((r) => r.start),
          column((r) => r.n),
          column((r) => r.sum),
          column((r) => r.min),
          column((r) => r.max),
          column((r) => r.first),
          column((r) => r.last),
          column((r) => r.sinSum),
          column((r) => r.cosSum),
        ],
        transaction: tx,
      },
    );
  }
}
