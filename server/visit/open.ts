import type { Transaction } from 'sequelize';
import { matterKey, type OpenKind, type OpenMatter } from '@/core/visit/openMatter';
import type { OpenFacts } from '@/core/trust/stationFacts';
import { query, type Database } from '@/db/database';
import { unknownActions } from '../device/deviceAction';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';

type Found = {
  kind: Exclude<OpenKind, 'write-unknown'>;
  subject: string;
  /** Null where it is named by its channel. */
  who: string | null;
  since: Date;
} & (NamedChannel | Record<keyof NamedChannel, null>);

const noChannel = 'null as description, null as "zoneName", null as quantity';

/** SQL: of the last tick of a checklist's line; null while there is none. */
export const lastTickOf = (line: string, field: 'done' | 'ticked_at'): string =>
  `(select t.${field} from checklist_tick t where t.station_id = ${line}.station_id and t.item = ${line}.id::text
     order by t.ticked_at desc, t.id desc limit 1)`;

/** What somebody began at a station and nobody ended, oldest first. */
export async function openMatters(db: Database, stationId: string, tx?: Transaction): Promise<OpenMatter[]> {
  const found = await query<Found>(
    db,
    `select 'leads-off' as kind, m.installation_id as subject, n.serial || ' (' || i.zone_name || ')' as who,
            min(l.from_at) as since, ${noChannel}
       from active_layer l
       join mapping m on m.station_id = l.station_id and m.channel_id = l.channel_id and m.until_at is null
       join installation i on i.station_id = m.station_id and i.id = m.installation_id
       join sensor n on n.id = i.sensor_id
      where l.station_id = :stationId and l.kind = 'off-line' and l.until_at is null
        -- While a line is held its channels are off-line by that.
        and not exists (select 1 from line_session h where h.station_id = l.station_id and h.ended_at is null
                           and position(l.id::text in h.layers::text) > 0)
      group by 2, 3
     union all
     select 'line-held', h.id, p.name, h.begun_at, ${noChannel}
       from line_session h join port p on p.station_id = h.station_id and p.id = h.port_id
      where h.station_id = :stationId and h.ended_at is null
     union all
     select 'settings-staged', r.channel_id, null, min(r.staged_at), ${namedColumns('c')}
       from setting_revision r join named_channel c on c.station_id = r.station_id and c.id = r.channel_id
      where r.station_id = :stationId and r.written_at is null and r.discarded_at is null
        and not exists (select 1 from setting_revision w where w.station_id = r.station_id and w.channel_id = r.channel_id
                           and w.written_at is not null and w.revision > r.revision)
      group by r.channel_id, c.description, c.zone_name, c.quantity
     union all
     select 'settings-staged', r.logger_id, 'logger ' || g.serial, min(r.staged_at), ${noChannel}
       from own_setting r join logger g on g.station_id = r.station_id and g.id = r.logger_id
      where r.station_id = :stationId and r.written_at is null and r.discarded_at is null
        and not exists (select 1 from own_setting w where w.station_id = r.station_id and w.logger_id = r.logger_id
                           and w.written_at is not null and w.revision > r.revision)
      group by r.logger_id, g.serial
     union all
     select 'check-open', k.id, null, k.opened_at, ${namedColumns('c')}
       from reference_check k join named_channel c on c.station_id = k.station_id and c.id = k.channel_id
      where k.station_id = :stationId and k.closed_at is null
     union all
     select 'bench-open', b.id, n.serial || ' (' || i.zone_name || ')', b.opened_at, ${noChannel}
       from bench_session b
       join installation i on i.station_id = b.station_id and i.id = b.installation_id
       join sensor n on n.id = i.sensor_id
      where b.station_id = :stationId and b.ended_at is null
     union all
     select 'put-back', c.id, c.says, c.added_at, ${noChannel}
       from checklist_line c
      where c.station_id = :stationId and c.kind = 'put-back'
        and not coalesce(${lastTickOf('c', 'done')}, false)`,
    { stationId },
    tx,
  );
  const unknown = await unknownActions(db, [stationId]);
  return [
    ...found.map(({ kind, subject, who, since, ...channel }) => ({
      kind,
      subject,
      who: who ?? channelName(channel as NamedChannel),
      since: since.getTime(),
    })),
    ...unknown.map((a) => ({
      kind: 'write-unknown' as const,
      subject: a.id,
      who: a.says,
      since: Date.parse(a.intendedAt),
    })),
  ].sort((a, b) => a.since - b.since || a.who.localeCompare(b.who));
}

/** The same, with who left it open when they last went, and why. */
export async function openFacts(db: Database, stationId: string): Promise<OpenFacts[]> {
  const [open, left] = await Promise.all([
    openMatters(db, stationId),
    query<{ kind: OpenKind; subject: string; at: Date; by: string; reason: string }>(
      db,
      `select distinct on (o.kind, o.subject) o.kind, o.subject, d.left_at as at, p.initials as by, o.reason
         from left_open o join departure d on d.station_id = o.station_id and d.id = o.departure_id
         join person p on p.id = d.person_id
        where o.station_id = :stationId order by o.kind, o.subject, d.left_at desc`,
      { stationId },
    ),
  ]);
  const leftBy = new Map(left.map((l) => [matterKey(l), l]));
  return open.map((matter) => {
    const found = leftBy.get(matterKey(matter));
    // What was left open, ended, and begun anew is another matter.
    const isThis = found && found.at.getTime() >= matter.since;
    return {
      ...matter,
      left: isThis ? { at: found.at.getTime(), by: found.by, reason: found.reason } : null,
    };
  });
}
