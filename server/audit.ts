import type { Transaction } from 'sequelize';
import type { Context } from './context';

/** Leaves a line in the audit trail, in the same transaction as what it tells of. */
export async function audit(
  ctx: Context,
  tx: Transaction,
  action: string,
  stationId: string | null,
  subject: unknown = {},
): Promise<void> {
  await ctx.db.audit.create({ at: ctx.now(), personId: ctx.person.id, action, stationId, subject } as never, {
    transaction: tx,
  });
}
