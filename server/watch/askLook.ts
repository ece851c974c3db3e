import type { Transaction } from 'sequelize';
import { askJobs } from '@/db/jobs';
import { query, type Database } from '@/db/database';

export const lookTask = 'look';

/**
 * Asks for a look at what arrived at a station, in the transaction by which it arrived. Where nothing is
 * watched, nothing is asked.
 */
export async function askLook(db: Database, tx: Transaction | undefined, stationId: string): Promise<void> {
  const watched = await query(
    db,
    'select 1 as x from watch_rule_in_force where station_id = :stationId and armed limit 1',
    { stationId },
    tx,
  );
  if (watched.length > 0)
    await askJobs(db, tx, lookTask, [{ payload: { stationId }, key: `${lookTask}:${stationId}` }]);
}
