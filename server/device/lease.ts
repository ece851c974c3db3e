import { QueryTypes } from 'sequelize';
import type { Database } from '@/db/database';
import { inTheWay } from '../problem';

/**
 * One talker per line. The lease is a row with an end; its holder checks before every exchange that
 * enough of it is left for the exchange to finish, so a process that was stopped for a while and
 * wakes up again does not speak into somebody else's turn.
 */
export interface Lease {
  /** Renews the lease; throws when it was lost. Call before each exchange. */
  renew(): Promise<void>;
  /** Throws when the lease could run out within one exchange. Synchronous: call just before sending. */
  assertHeld(): void;
}

/** How long a lease lasts without renewal, s; longer than any one exchange. */
export const leaseSeconds = 12;
const longestExchange = 6_000;
const patience = 8_000;

export class LeaseLost extends Error {}

/** Does `work` as the only talker on `line`; waits a few seconds for a busy line, then refuses. */
export async function withLease<T>(
  db: Database,
  line: string,
  holder: string,
  work: (lease: Lease) => Promise<T>,
): Promise<T> {
  const take = async () => {
    const asked = Date.now();
    const got = await db.sequelize.query(
      `insert into port_lease as held (line, holder, until) values ($1, $2, clock_timestamp() + make_interval(secs => $3))
       on conflict (line) do update set holder = excluded.holder, until = excluded.until
         where held.until < clock_timestamp() or held.holder = excluded.holder
       returning line`,
      { bind: [line, holder, leaseSeconds], type: QueryTypes.SELECT },
    );
    // Counted from before the question, so that ours never outlives the database's.
    return got.length > 0 ? asked + leaseSeconds * 1000 : null;
  };
  const deadline = Date.now() + patience;
  let until = await take();
  while (until === null && Date.now() < deadline) {
    await new Promise((r) => setTimeout(r, 120));
    until = await take();
  }
  if (until === null)
    throw inTheWay('line-busy', 'Someone else is talking on this line.', 'Wait a few seconds and try again.');
  const lease: Lease = {
    async renew() {
      until = await take();
      if (until === null) throw new LeaseLost(`the lease on ${line} was lost`);
    },
    assertHeld() {
      if (until === null || Date.now() + longestExchange > until)
        throw new LeaseLost(`the lease on ${line} is running out`);
    },
  };
  try {
    return await work(lease);
  } finally {
    await db.sequelize.query('delete from port_lease where line = $1 and holder = $2', {
      bind: [line, holder],
    });
  }
}
