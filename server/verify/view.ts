import type { ChannelVerifyView } from '@/contract/recordViews';
import { quantityOf } from '@/core/quantity/quantity';
import { query, row, type Database } from '@/db/database';
import { mendDerived } from '../record/mendDerived';
import { thresholdsOf } from '../quality/testRecord';
import { channelOf, loadStation } from '../station/stationGraph';
import { approvals } from './approval';
import { correctionProposals } from './correct';
import { provedNow } from './proved';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';

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
  const [proposals, proved, thresholds, set, twins, neighbours, approved] = await Promise.all([
    correctionProposals(db, stationId, channel),
    provedNow(db, stationId, channel),
    thresholdsOf(db, key, channel.written?.settings.storageInterval ?? null),
    row(db.qualitySetting, { where: { stationId, channelId } }),
    query<NamedChannel & { stationId: string; channelId: string; stationCode: string; tolerance: number }>(
      db,
      `select t.other_station_id as "stationId", t.other_channel_id as "channelId", t.tolerance,
              c.station_code as "stationCode", ${namedColumns('c')}
         from twin t join named_channel c on c.station_id = t.other_station_id and c.id = t.other_channel_id
        where t.station_id = :stationId and t.channel_id = :channelId and t.ended_at is null`,
      { stationId, channelId },
    ),
    // Those of the same quantity and site first.
    query<NamedChannel & Omit<ChannelVerifyView['neighbours'][number], 'name'>>(
      db,
      `select c.station_id as "stationId", c.id as "channelId", c.station_code as "stationCode", ${namedColumns('c')}
         from named_channel c
        where (c.quantity = :quantity or c.station_id = :stationId) and c.id <> :channelId
        order by c.quantity <> :quantity, c.site_id <> (select site_id from station where id = :stationId), c.station_code, c.number limit 60`,
      { quantity: q.code, channelId, stationId },
    ),
    approvals(db, stationId),
  ]);
  const approval = approved.get(channelId) ?? null;
  const [twin] = twins;
  return {
    stationId,
    channelId,
    name: channel.name,
    unit: q.unit,
    decimals: q.decimals,
    proposals,
    proved,
    thresholds,
    thresholdsAreDefault: set === null,
    twin: twin
      ? { ...placeOf(twin), name: `${twin.stationCode} ${channelName(twin)}`, tolerance: twin.tolerance }
      : null,
    neighbours: neighbours.map((n) => ({
      ...placeOf(n),
      stationCode: n.stationCode,
      quantity: n.quantity,
      name: channelName(n),
    })),
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

const placeOf = ({ stationId, channelId }: { stationId: string; channelId: string }) => ({
  stationId,
  channelId,
});
