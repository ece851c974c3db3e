import type { Transaction } from 'sequelize';
import type { Milliseconds } from '@/core/time';
import { query, type Database } from '@/db/database';

/**
 * When values arrived: those of a logger with the first collection of their clock run that reached their
 * stamp, those of a file, and typed ones, with their import.
 */
export interface ArrivalBook {
  /** When a value was there; null where nobody noted it. */
  of(stamp: Milliseconds, run: number, source: number): Milliseconds | null;
}

interface Collection {
  run: number;
  until: number;
  at: number;
}

/** Of some stations at once, each by its id. */
export async function arrivalBooks(
  db: Database,
  stationIds: readonly string[],
  since: Milliseconds,
  tx?: Transaction,
): Promise<Map<string, ArrivalBook>> {
  const replacements = { stationIds: [...stationIds], since: Math.max(0, since / 1000) };
  const collections = await query<Collection & { stationId: string }>(
    db,
    `select station_id as "stationId", clock_run as run, extract(epoch from until_stamp)::float8 * 1000 as until,
            extract(epoch from collected_at)::float8 * 1000 as at
       from collection
      where station_id in (:stationIds) and until_stamp is not null and until_stamp >= to_timestamp(:since)
      order by collected_at`,
    replacements,
    tx,
  );
  const imports = await query<{ stationId: string; key: number; at: number }>(
    db,
    `select station_id as "stationId", key, extract(epoch from ended_at)::float8 * 1000 as at
       from record_import
      where station_id in (:stationIds) and state = 'complete' and until_at >= to_timestamp(:since)`,
    replacements,
    tx,
  );
  return new Map(
    stationIds.map((id) => [
      id,
      bookOf(
        collections.filter((c) => c.stationId === id),
        new Map(imports.filter((i) => i.stationId === id).map((i) => [i.key, i.at])),
      ),
    ]),
  );
}

/** Collections in the order in which they were made. */
export function bookOf(
  collections: readonly Collection[],
  imports: ReadonlyMap<number, Milliseconds>,
): ArrivalBook {
  const byRun = new Map<number, Collection[]>();
  for (const c of collections) {
    const mine = byRun.get(c.run) ?? [];
    // One that reached no further than those before brought nothing.
    if (c.until > (mine.at(-1)?.until ?? -Infinity)) mine.push(c);
    byRun.set(c.run, mine);
  }
  // Asked in rising order of stamps mostly.
  const reached = new Map<number, number>();
  return {
    of(stamp, run, source) {
      if (source !== 0) return imports.get(source) ?? null;
      const mine = byRun.get(run);
      if (!mine) return null;
      let i = reached.get(run) ?? 0;
      while (i > 0 && mine[i - 1]!.until >= stamp) i--;
      while (i < mine.length && mine[i]!.until < stamp) i++;
      reached.set(run, i);
      return mine[i]?.at ?? null;
    },
  };
}
