import type { SetUpView } from '@/contract/planViews';
import { query, rows, type Database } from '@/db/database';
import { serialLine } from '../device/line';
import { newestDevices } from '../device/profiles';
import { gatewayOf } from './changeLines';

/** Sites with their stations, retired ones too, and the loggers a new one can have. */
export async function setUpView(db: Database): Promise<SetUpView> {
  const [sites, stations, devices, ports] = await Promise.all([
    rows(db.site, { order: [['name', 'ASC']] }),
    query<Omit<SetUpView['sites'][number]['stations'][number], 'lines'> & { siteId: string }>(
      db,
      `select s.id, s.site_id as "siteId", s.code, s.name, s.cautions, s.retired_at is not null as retired,
              case when l.id is null then null else json_build_object('model', l.model, 'profile', l.profile_code,
                'utcOffsetMinutes', l.utc_offset_minutes, 'supplyVoltage', l.supply_voltage, 'serial', l.serial,
                'address', l.address) end as logger
         from station s left join logger l on l.station_id = s.id order by s.code`,
    ),
    newestDevices(db),
    rows(db.port, { order: [['name', 'ASC']] }),
  ]);
  /** What is spoken on a port by its logger's profile, where anything on the network may carry it. */
  const carried = (profile: string | null | undefined, name: string): 'modbus-rtu' | 'sdi-12' | null => {
    const found = devices.find((p) => p.kind === 'logger' && p.code === profile);
    const bus = found?.kind === 'logger' ? found.ports.find((x) => x.name === name)?.bus : null;
    return bus?.kind === 'modbus-rtu' || bus?.kind === 'sdi-12' ? bus.kind : null;
  };
  return {
    sites: sites.map(({ id, name, zone, note, latitude, longitude, cautions }) => ({
      id,
      name,
      zone,
      note,
      latitude,
      longitude,
      cautions,
      stations: stations
        .filter((s) => s.siteId === id)
        .map(({ siteId: _, ...s }) => ({
          ...s,
          lines: ports
            .filter((p) => p.stationId === s.id)
            .flatMap((p) => {
              const bus = carried(s.logger?.profile, p.name) ?? (serialLine(p) ? 'modbus-rtu' : null);
              return bus ? [{ portId: p.id, name: p.name, bus, gateway: gatewayOf(p) }] : [];
            }),
        })),
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
    gateways: devices.flatMap((p) =>
      p.kind === 'gateway' ? [{ code: p.code, name: p.name, framing: p.framing }] : [],
    ),
  };
}
