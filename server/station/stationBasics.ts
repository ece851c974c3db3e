import type { StationBasics } from '@/contract/views';
import { query, type Database } from '@/db/database';
import { isId } from '../id';
import { notFound } from '../problem';

/** What every page of a station goes by. */
export async function stationBasics(db: Database, stationId: string): Promise<StationBasics> {
  const [found] = isId(stationId)
    ? await query<StationBasics>(
        db,
        `select exists (select 1 from logger l where l.station_id = s.id) as logger, i.zone, s.code
           from station s join site i on i.id = s.site_id where s.id = :stationId`,
        { stationId },
      )
    : [];
  if (!found) throw notFound('station', stationId);
  return found;
}
