import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import type { RecordFacts } from '@/core/trust/stationFacts';
import { query, type Database } from '@/db/database';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';

/** Over how many days before its newest value a twin is compared. */
export const twinDays = 7;

/** Quantities whose values go round a circle, and SQL for the mean direction of a rollup of them. */
const directions = quantityCodes.filter((code) => quantityOf(code).aggregate === 'circular');
const direction = (of: string) => `atan2(${of}.sin_sum, ${of}.cos_sum)`;

/** Mean difference to its twin over the hours both hold, in the days before the newest common one. */
export async function twinDifferences(
  db: Database,
  stationId: string,
): Promise<Map<string, NonNullable<RecordFacts['twin']>>> {
  const found = await query<
    NamedChannel & { channelId: string; stationCode: string; difference: number | null; limit: number }
  >(
    db,
    `select t.channel_id as "channelId", t.tolerance as limit, oc.station_code as "stationCode", ${namedColumns('oc')},
            (select avg(case when c.quantity in (:circular) then degrees(atan2(sin(${direction('a')} - ${direction('b')}), cos(${direction('a')} - ${direction('b')})))
                             else a.sum / a.n - b.sum / b.n end) from reading_rollup a
               join reading_rollup b on b.station_key = os.key and b.channel_key = oc.key and b.width = 3600 and b.bucket = a.bucket
              where a.station_key = s.key and a.channel_key = c.key and a.width = 3600
                and a.bucket > (select max(bucket) from reading_rollup m
                                 where m.station_key = s.key and m.channel_key = c.key and m.width = 3600)
                               - make_interval(days => :days)) as difference
       from twin t
       join station s on s.id = t.station_id join channel c on c.station_id = t.station_id and c.id = t.channel_id
       join station os on os.id = t.other_station_id
       join named_channel oc on oc.station_id = t.other_station_id and oc.id = t.other_channel_id
      where t.station_id = :stationId and t.ended_at is null`,
    { stationId, days: twinDays, circular: directions },
  );
  return new Map(
    found.flatMap((f) =>
      f.difference === null
        ? []
        : [
            [
              f.channelId,
              { difference: f.difference, limit: f.limit, name: `${f.stationCode} ${channelName(f)}` },
            ] as const,
          ],
    ),
  );
}
