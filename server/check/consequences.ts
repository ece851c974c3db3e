import type { CheckView } from '@/contract/checkViews';
import { limitsCrossed } from '@/core/check/consequences';
import { quantityOf } from '@/core/quantity/quantity';
import { valueToBase } from '@/core/quantity/unit';
import { limitsOf } from '@/core/settings/channelSettings';
import { limitFields, type Limits } from '@/core/settings/limits';
import { query, type Database } from '@/db/database';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';
import type { LoadedCheck } from './load';

/**
 * What else changes when what is proposed is adjusted: what is derived from this channel, and the limits its value passes
 * by that alone. Null where nothing is proposed.
 */
export async function consequencesOf(
  db: Database,
  { row, plan, channel, readings }: LoadedCheck,
  by: number | null,
): Promise<CheckView['consequences']> {
  if (by === null) return null;
  const derived = await query<NamedChannel>(
    db,
    `with recursive rests as (
       select o.channel_id from channel_rests_on o
        where o.station_id = :stationId and o.on_channel_id = :channelId and o.channel_id <> :channelId
       union
       select o.channel_id from channel_rests_on o join rests r on o.on_channel_id = r.channel_id
        where o.station_id = :stationId and o.channel_id <> r.channel_id)
     select ${namedColumns('c')} from rests r join named_channel c on c.station_id = :stationId and c.id = r.channel_id
      order by c.number`,
    { stationId: row.stationId, channelId: row.channelId },
  );
  const now = readings.findLast((r) => !r.isExcluded)?.observations.find((o) => o.role === 'sensor')?.value;
  const settings = channel.written?.settings;
  return {
    derived: derived.map(channelName),
    crossed:
      settings && now !== undefined && plan.adjustIn === 'device'
        ? limitsCrossed(inBase(limitsOf(settings), settings.unit, plan), now, by)
        : [],
  };
}

/** Limits as they stand in the logger's unit, in the base unit. */
const inBase = (
  limits: Limits,
  unit: LoadedCheck['plan']['unit'],
  { quantity }: LoadedCheck['plan'],
): Limits =>
  Object.fromEntries(
    limitFields.map((f) => [
      f,
      limits[f] === null ? null : valueToBase(limits[f], unit, quantityOf(quantity).unit),
    ]),
  ) as unknown as Limits;
