import type { SetUpView } from '@/contract/planViews';
import { query, rows, type Database } from '@/db/database';
import { newestDevices } from '../device/profiles';

/** Sites with their stations, retired ones too, and the loggers a new one can have. */
export async function setUpView(db: Database): Promise<SetUpView> {
  const [sites, stations, devices] = await Promise.all([
    rows(db.site, { order: [['name', 'ASC']] }),
    query<SetUpView['sites'][number]['stations'][number] & { siteId: string }>(
      db,
      `select s.id, s.site_id as "siteId", s.code, s.name, s.cautions, s.retired_at is not null as retired,
              case when l.id is null then null else json_build_object('model', l.model, 'profile', l.profile_code,
                'utcOffsetMinutes', l.utc_offset_minutes, 'supplyVoltage', l.supply_voltage) end as logger
         from station s left join logger l on l.station_id = s.id order by s.code`,
    ),
    newestDevices(db),
  ]);
  return {
    sites: sites.map(({ id, name, zone, note, latitude, longitude, cautions }) => ({
      id,
      name,
      zone,
      note,
      latitude,
      longitude,
      cautions,
      stations: stations.filter((s) => s.siteId === id).map(({ siteId: _, ...s }) => s),
    })),
    loggers: devices.flatMap((p) =>
      p.kind === 'logger'
        ? [
            {
              code: p.code,
              name: p.name,
              preferred: p.supply.preferred,
              lines: p.ports.filter((x) => x.bus?.kind === 'modbus-rtu').map((x) => x.name),
            },
          ]
        : [],
    ),
  };
}
