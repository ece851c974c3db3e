import type { StationBasics, StationHead } from '@/contract/views';
import { measuredKinds } from '@/core/circuit/pathKinds';
import { query, type Database } from '@/db/database';
import { isId } from '../id';
import { notFound } from '../problem';

const measured = Object.keys(measuredKinds).filter((k) => k !== 'pulse');

/** What every page of a station goes by. */
export const stationBasics = (db: Database, stationId: string): Promise<StationBasics> =>
  ofStation(
    db,
    stationId,
    `exists (select 1 from logger l where l.station_id = s.id) as logger, i.zone, s.code,
     exists (select 1 from installation h join sensor n on n.id = h.sensor_id
               join device_profile p on p.code = n.profile_code and p.revision = n.profile_revision
              where h.station_id = s.id and h.until_at is null
                and (p.body->'connection'->>'kind' in (:measured)
                     or p.body->'connection'->>'gives' = 'contact')) as bench,
     exists (select 1 from channel c where c.station_id = s.id and c.quantity = 'waterLevel')
       or exists (select 1 from measuring_point m where m.station_id = s.id) as water`,
  );

/** What stands on top of a page that is handed on. */
export const stationHead = (db: Database, stationId: string): Promise<StationHead> =>
  ofStation(db, stationId, 's.id as "stationId", s.code, s.name, i.name as site, i.zone, s.cautions');

/** @param columns SQL, of station `s` and site `i` */
async function ofStation<T extends object>(db: Database, stationId: string, columns: string): Promise<T> {
  const [found] = isId(stationId)
    ? await query<T>(
        db,
        `select ${columns} from station s join site i on i.id = s.site_id where s.id = :stationId`,
        { stationId, measured },
      )
    : [];
  if (!found) throw notFound('station', stationId);
  return found;
}
