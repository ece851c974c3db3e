import { query, type Database } from '@/db/database';
import { log } from './log';
import { failLostOperations } from './operation';
import { closeOverdueSessions } from '../bus/session';
import { mendStandings } from '../trust/standings';

/** What is over and of no use is taken away, long work whose process is gone is said to have failed, and stations that were marked are derived. */
export async function sweep(db: Database): Promise<void> {
  await failLostOperations(db);
  await closeOverdueSessions(db);
  await query(db, 'select sweep()');
  await mendStandings(db);
}

/** Sweeps now and then for as long as the process lives; what goes wrong is for the next time. */
export function keepSweeping(db: () => Database, every = 60_000): void {
  const once = () =>
    sweep(db()).catch((error: unknown) =>
      log.warn({ err: error }, 'sweeping failed; it will be tried again'),
    );
  setInterval(() => void once(), every).unref();
}
