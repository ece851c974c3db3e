import type { WaterView } from '@/contract/water';
import { roundTo } from '@/core/quantity/format';
import { query, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';

/** An older pressure of the air is no help: it goes by 1 hPa an hour and more, a centimetre of water. Our own choice. */
const longest = 3 * 3_600_000;

/** What the barometers say of late, those of the station's own site first: for a sensor of pressure without a vent. */
export async function airPressures(db: Database, stationId: string, now: number): Promise<WaterView['air']> {
  const channels = await query<{ key: number; code: string; zone: string }>(
    db,
    `select c.key, s.code, c.zone_name as zone from channel c join station s on s.id = c.station_id
      where c.quantity = 'airPressure'
      order by (s.site_id = (select site_id from station where id = :stationId)) desc, s.code, c.key`,
    { stationId },
  );
  const newest = await newestReadings(
    db,
    channels.map((c) => c.key),
  );
  return channels.flatMap(({ key, code, zone }) => {
    const last = newest.get(key);
    if (!last || now - last.at > longest) return [];
    return { code, zone, at: new Date(last.at).toISOString(), value: roundTo(last.value, 2) };
  });
}
