import type { Transaction } from 'sequelize';
import type { Database } from '@/db/database';
import { actorId, type Context } from '../context';

/** Leaves a line in the audit trail, in the same transaction as what it tells of. The database stamps it. */
export const audit = (
  ctx: Context,
  tx: Transaction,
  action: string,
  stationId: string | null,
  subject: unknown = {},
): Promise<void> => auditLine(ctx.db, { personId: actorId(ctx), action, stationId, subject }, tx);

/** The same of somebody who may not be known, as at a sign-in that was refused. */
export async function auditLine(
  db: Database,
  line: { personId: string | null; action: string; stationId?: string | null; subject?: unknown },
  tx?: Transaction,
): Promise<void> {
  const { personId, action, stationId = null, subject = {} } = line;
  await db.sequelize.query(
    'insert into audit (person_id, action, station_id, subject) values ($1, $2, $3, $4::jsonb)',
    { bind: [personId, action, stationId, JSON.stringify(subject)], transaction: tx },
  );
}
