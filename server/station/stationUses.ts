import type { StationUses } from '@/contract/views';
import { query, type Database } from '@/db/database';
import { isId } from '../id';

/** What a station has use for, so that it is offered no view that would be empty. */
export async function stationUses(db: Database, stationId: string): Promise<StationUses> {
  const [found] = isId(stationId)
    ? await query<StationUses>(
        db,
        'select exists (select 1 from logger where station_id = :stationId) as logger',
        { stationId },
      )
    : [];
  return found ?? { logger: true };
}
