import { createHash } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '@/db/database';
import { Problem } from '../problem';

/**
 * How often wrong passwords may be tried within a quarter of an hour. Counted where it cannot be turned
 * against anybody: a device its owner signed in from before has an allowance of its own, which nobody
 * without that device can use up; from elsewhere the pair of account and address counts, so that guesses
 * at an account do not lock its owner out, and an address as a whole only where it goes far beyond what an
 * office mistypes. Within a session, the present password is asked before it is changed; that counts by
 * session. Source: OWASP, Device Cookies (from memory).
 */
const allowances = { device: 10, pair: 8, address: 100, account: 200, session: 8 } as const;
type Kind = keyof typeof allowances;
export type Attempt = readonly (readonly [Kind, string])[];

const limiters = new WeakMap<Database, Record<Kind, RateLimiterPostgres>>();

function limitersOf(db: Database): Record<Kind, RateLimiterPostgres> {
  const known = limiters.get(db);
  if (known) return known;
  const limiter = (kind: Kind) =>
    new RateLimiterPostgres({
      storeClient: db.sequelize,
      tableName: 'sign_in_rate',
      tableCreated: true,
      keyPrefix: kind,
      points: allowances[kind],
      duration: 15 * 60,
      // What ran out is swept with the rest; no timer is left behind.
      clearExpiredByTimeout: false,
    });
  const made = {
    device: limiter('device'),
    pair: limiter('pair'),
    address: limiter('address'),
    account: limiter('account'),
    session: limiter('session'),
  };
  limiters.set(db, made);
  return made;
}

const keyOf = (text: string) => createHash('sha256').update(text).digest('base64url');

/** Counts an attempt, or refuses it with the time to wait. */
export async function spendAttempt(db: Database, attempt: Attempt): Promise<void> {
  const all = limitersOf(db);
  try {
    for (const [kind, text] of attempt) await all[kind].consume(keyOf(text));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const wait = `Wait ${Math.max(1, Math.ceil(error.msBeforeNext / 60_000))} min, then try again`;
    const within = attempt.some(([kind]) => kind === 'session');
    throw new Problem({
      code: 'too-many-attempts',
      status: 429,
      title: 'Too many attempts',
      detail: within ? 'A wrong password was given too often.' : 'There were too many attempts to sign in.',
      remedy: within
        ? `${wait}.`
        : `${wait}; a device you signed in from before is not affected by attempts made elsewhere.`,
    });
  }
}

/** An attempt that succeeded was none: what it took is given back. */
export async function giveAttemptBack(db: Database, attempt: Attempt): Promise<void> {
  const all = limitersOf(db);
  for (const [kind, text] of attempt)
    if (kind === 'address' || kind === 'account') await all[kind].reward(keyOf(text));
    else await all[kind].delete(keyOf(text));
}
