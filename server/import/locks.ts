import type { Transaction } from 'sequelize';
import type { Database } from '@/db/database';

/** Class of the advisory lock of an import that runs. */
export const importLock = 4713;

/** What is stored at a station, and what tests make of it, is one transaction's work at a time. */
export async function lockStation(db: Database, tx: Transaction, stationKey: number): Promise<void> {
  await db.sequelize.query('select pg_advisory_xact_lock(4712, $1)', { bind: [stationKey], transaction: tx });
}
