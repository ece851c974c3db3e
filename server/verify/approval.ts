import type { Transaction } from 'sequelize';
import { query, type Database } from '@/db/database';

/** The newest approval of a channel's record, and whether it still stands. */
export interface ApprovalState {
  readonly layerId: string;
  readonly channelId: string;
  readonly from: Date;
  readonly until: Date;
  readonly initials: string;
  readonly at: Date;
  /** Why it no longer stands; null while it does. */
  readonly reopened: string | null;
}

/** SQL: the channel of an approval, and those it is reckoned from. */
const on = `(select o.on_channel_id from channel_rests_on o where o.station_id = a.station_id and o.channel_id = a.channel_id)`;

/**
 * The newest approval of each channel of a station. What is laid over its window later, or stored
 * into it later, reopens it visibly; nothing takes the signature away.
 */
export async function approvals(
  db: Database,
  stationId: string,
  tx?: Transaction,
): Promise<Map<string, ApprovalState>> {
  const found = await query<ApprovalState>(
    db,
    `select distinct on (a.channel_id) a.id as "layerId", a.channel_id as "channelId", a.from_at as from, a.until_at as until,
            u.initials, a.recorded_at as at,
            coalesce(
              (select 'marked since: ' || l.reason from layer l
                where l.station_id = a.station_id and l.channel_id in ${on} and l.kind <> 'approval'
                  and l.seq > a.seq and l.from_at <= a.until_at and coalesce(l.until_at, 'infinity') >= a.from_at
                order by l.seq limit 1),
              (select 'values stored since: ' || i.file_name from record_import i
                where i.station_id = a.station_id and i.state = 'complete' and i.stored > 0 and i.ended_at > a.recorded_at
                  and exists (select 1 from jsonb_array_elements(i.plan->'columns') c where (c->'channel'->>'id')::uuid in ${on})
                  and i.from_at <= a.until_at and i.until_at >= a.from_at
                order by i.ended_at limit 1),
              (select 'values collected since' from collection k
                where k.station_id = a.station_id and k.stored > 0 and k.collected_at > a.recorded_at and k.from_stamp <= a.until_at
                  and exists (select 1 from reading r join station s on s.id = a.station_id join channel c on c.station_id = a.station_id and c.id in ${on}
                               where r.station_key = s.key and r.channel_key = c.key and r.source = 0
                                 and r.at > k.from_stamp and r.at <= a.until_at)
                order by k.collected_at limit 1)) as reopened
       from active_layer a join person u on u.id = a.person_id
      where a.station_id = :stationId and a.kind = 'approval'
      order by a.channel_id, a.seq desc`,
    { stationId },
    tx,
  );
  return new Map(found.map((f) => [f.channelId, f]));
}
