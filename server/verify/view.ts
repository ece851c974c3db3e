import type { ChannelVerifyView } from '@/contract/recordViews';
import { quantityOf } from '@/core/quantity/quantity';
import { query, row, type Database } from '@/db/database';
import { mendDerived } from '../record/mendDerived';
import { thresholdsOf } from '../quality/testRecord';
import { channelOf, loadStation } from '../station/stationGraph';
import { approvals } from './approval';
import { correctionProposals } from './correct';

/** What can be done to one channel's record: proposals, thresholds, twin, approval. */
export async function channelVerify(
  db: Database,
  stationId: string,
  channelId: string,
): Promise<ChannelVerifyView> {
  const channel = channelOf(await loadStation(db, stationId), channelId);
  await mendDerived(db, stationId);
  const q = quantityOf(channel.row.quantity);
  const key = { stationId, id: channelId, quantity: q.code };
  const [proposals, thresholds, set, twins, neighbours, approved] = await Promise.all([
    correctionProposals(db, stationId, channel),
    thresholdsOf(db, key, channel.written?.settings.storageInterval ?? null),
    row(db.qualitySetting, { where: { stationId, channelId } }),
    query<{ stationId: string; channelId: string; name: string; tolerance: number }>(
      db,
      `select t.other_station_id as "stationId", t.other_channel_id as "channelId", s.code || ' ' || c.zone_name as name, t.tolerance
         from twin t join station s on s.id = t.other_station_id
         join channel c on c.station_id = t.other_station_id and c.id = t.other_channel_id
        where t.station_id = :stationId and t.channel_id = :channelId and t.ended_at is null`,
      { stationId, channelId },
    ),
    // Those of the same quantity and site first.
    query<ChannelVerifyView['neighbours'][number]>(
      db,
      `select c.station_id as "stationId", c.id as "channelId", s.code as "stationCode", c.quantity,
              coalesce((select r.settings->>'description' from setting_revision r
                 where r.station_id = c.station_id and r.channel_id = c.id and r.written_at is not null
                 order by r.revision desc limit 1), c.zone_name) as name
         from channel c join station s on s.id = c.station_id
        where (c.quantity = :quantity or c.station_id = :stationId) and c.id <> :channelId
        order by c.quantity <> :quantity, s.site_id <> (select site_id from station where id = :stationId), s.code, c.number limit 60`,
      { quantity: q.code, channelId, stationId },
    ),
    approvals(db, stationId),
  ]);
  const approval = approved.get(channelId) ?? null;
  return {
    stationId,
    channelId,
    name: channel.name,
    unit: q.unit,
    decimals: q.decimals,
    proposals,
    thresholds,
    thresholdsAreDefault: set === null,
    twin: twins[0] ?? null,
    neighbours,
    approval: approval && {
      layerId: approval.layerId,
      from: approval.from.toISOString(),
      until: approval.until.toISOString(),
      initials: approval.initials,
      at: approval.at.toISOString(),
      reopened: approval.reopened,
    },
  };
}
