import { row, type Database } from '@/db/database';
import type { PartChangeRow } from '@/db/rows';
import type { InstallationNode } from '../station/stationGraph';

/** What was put into a sensor last since it hangs there; null where nothing was. */
export const lastPartChange = (
  db: Database,
  { row: { stationId, id } }: Pick<InstallationNode, 'row'>,
): Promise<PartChangeRow | null> =>
  row(db.partChange, {
    where: { stationId, installationId: id },
    order: [
      ['changedAt', 'DESC'],
      ['id', 'DESC'],
    ],
  });
