import type { Transaction } from 'sequelize';
import { rows, type Database } from '@/db/database';

/** When a launched logger hung and was taken down, as it was said last; null for what nobody said. */
export async function whereaboutsOf(
  db: Database,
  stationId: string,
  deploymentId: string,
  transaction?: Transaction,
): Promise<{ readonly hung: Date | null; readonly 'taken-down': Date | null }> {
  const stamps = await rows(db.deploymentStamp, {
    where: { stationId, deploymentId },
    order: [
      ['recordedAt', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  });
  const last = (what: 'hung' | 'taken-down') => stamps.findLast((s) => s.what === what)?.at ?? null;
  return { hung: last('hung'), 'taken-down': last('taken-down') };
}
