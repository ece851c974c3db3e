import type { Transaction } from 'sequelize';
import { query, type Database } from '@/db/database';
import type { Context } from '../context';
import { inTheWay } from '../problem';

/**
 * Look, then write: what people do at a station is one act at a time. Whatever an act decides by is read
 * inside it, so that of six who do the same at once the first acts and the others see what it did.
 * Short: nothing is asked of a device in it, and no file is read.
 */
export const atStation = <T>(
  ctx: Context,
  stationId: string,
  act: (tx: Transaction) => Promise<T>,
): Promise<T> =>
  ctx.db.transact(async (tx) => {
    await lockActs(ctx.db, tx, stationId);
    if (ctx.actKey && (await isDone(ctx.db, stationId, ctx.actKey, tx))) throw new DoneAlready();
    return act(tx);
  });

/** A field write was done already, though whoever sent it never had the answer. */
export class DoneAlready extends Error {}

/** A field write leaves its key with its lines in the field book, in the transaction of what it did. */
export async function isDone(
  db: Database,
  stationId: string,
  actKey: string,
  tx?: Transaction,
): Promise<boolean> {
  const found = await query(
    db,
    'select 1 as x from field_book_line where station_id = :stationId and act_key = :actKey limit 1',
    { stationId, actKey },
    tx,
  );
  return found.length > 0;
}

/** Class of the advisory lock under which acts at a station follow each other. */
const actLock = 4714;

export async function lockActs(db: Database, tx: Transaction, stationId: string): Promise<void> {
  await db.sequelize.query('select pg_advisory_xact_lock($1::int, hashtext($2::text))', {
    bind: [actLock, stationId],
    transaction: tx,
  });
}

/** Class of the advisory lock under which a station's record is stored and tested. */
const recordLock = 4712;

/** What is stored at a station, and what tests make of it, is one transaction's work at a time, however long. */
export async function lockStation(db: Database, tx: Transaction, stationKey: number): Promise<void> {
  await db.sequelize.query('select pg_advisory_xact_lock($1::int, $2::int)', {
    bind: [recordLock, stationKey],
    transaction: tx,
  });
}

/** The same without waiting: whether the record of the station is at rest, and now held. */
export async function tryLockStation(db: Database, tx: Transaction, stationKey: number): Promise<boolean> {
  const [found] = (await db.sequelize.query('select pg_try_advisory_xact_lock($1::int, $2::int) as got', {
    bind: [recordLock, stationKey],
    transaction: tx,
  })) as [{ got: boolean }[], unknown];
  return found[0]!.got;
}

/** The same where somebody waits for an answer: refused while values are being stored. */
export async function requireRecordAtRest(db: Database, tx: Transaction, stationKey: number): Promise<void> {
  if (!(await tryLockStation(db, tx, stationKey)))
    throw inTheWay(
      'record-moving',
      'Values are being stored at this station just now.',
      'Wait for it to end, then look again.',
    );
}
