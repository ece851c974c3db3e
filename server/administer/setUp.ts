import type { Transaction } from 'sequelize';
import type { Context } from '../context';

/** The advisory lock under which sites and stations are set up: their names are looked at, then written. */
const setUpLock = 4718;

/** Look, then write: setting up is one act at a time. */
export const oneSetUp = <T>(ctx: Context, act: (tx: Transaction) => Promise<T>): Promise<T> =>
  ctx.db.transact(async (tx) => {
    await ctx.db.sequelize.query('select pg_advisory_xact_lock($1::int, 0)', {
      bind: [setUpLock],
      transaction: tx,
    });
    return act(tx);
  });
