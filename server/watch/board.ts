import type { BoardChannel, BoardView, ProvedState } from '@/contract/watch';
import { groupBy } from '@/core/groupBy';
import type { QuantityCode } from '@/core/quantity/quantity';
import { query, type Database } from '@/db/database';
import { newestReadings, shown } from '@/db/record';
import type { AlarmRow } from '@/db/rows';
import { storedWatchRule } from '@/db/stored/watch';
import { channelName, namedColumns } from '../station/channelName';
import { shelvedChannels } from './messages';
import { provedSql } from './proof';
import { intervalSql } from './watched';

/** What is drawn beside a ladder: so many hours, in so many stretches. */
const recentHours = 12;
const stretches = 48;
/** So many channels fit one board. */
const mostChannels = 240;

interface Found {
  stationId: string;
  stationCode: string;
  stationKey: number;
  site: string;
  zone: string;
  channelId: string;
  key: number;
  description: string | null;
  zoneName: string;
  quantity: QuantityCode;
  rule: unknown;
  armed: boolean;
  interval: number | null;
  lastMs: number;
  arrivedMs: number;
  setAt: Date;
  offLine: boolean;
  proved: ProvedState;
}

/** Everything that is watched, as it is now. */
export async function boardView(db: Database, now: Date): Promise<BoardView> {
  const found = await query<Found>(
    db,
    `select r.station_id as "stationId", s.code as "stationCode", s.key as "stationKey", i.name as site, i.zone,
            r.channel_id as "channelId", n.key, ${namedColumns('n')}, r.rule, r.armed,
            w.last_ms as "lastMs", w.arrived_ms as "arrivedMs", r.set_at as "setAt",
            ${intervalSql('r')} as interval,
            exists (select 1 from active_layer l where l.station_id = r.station_id and l.channel_id = r.channel_id
                      and l.kind = 'off-line' and l.until_at is null) as "offLine",
            ${provedSql('r')} as proved
       from watch_rule_in_force r
       join watch_state w on w.station_id = r.station_id and w.channel_id = r.channel_id
       join open_station s on s.id = r.station_id
       join site i on i.id = s.site_id
       join named_channel n on n.station_id = r.station_id and n.id = r.channel_id
      order by s.code, n.zone_name, n.quantity limit ${mostChannels}`,
  );
  if (found.length === 0) return { at: now.getTime(), channels: [] };
  const stationIds = [...new Set(found.map((f) => f.stationId))];
  const since = now.getTime() - recentHours * 3_600_000;
  const [newest, recent, rings, shelved] = await Promise.all([
    newestReadings(
      db,
      found.map((f) => f.key),
    ),
    recentMeans(db, found, since),
    query<Pick<AlarmRow, 'id' | 'channelId' | 'cause' | 'level' | 'beganAt' | 'acknowledgedAt'>>(
      db,
      `select id, channel_id as "channelId", cause, level, began_at as "beganAt", acknowledged_at as "acknowledgedAt"
         from alarm where station_id in (:stationIds) and returned_at is null order by abs(level) desc, raised_at`,
      { stationIds },
    ),
    shelvedChannels(db, stationIds, now.getTime()),
  ]);
  const ringing = groupBy(rings, (r) => r.channelId);
  return {
    at: now.getTime(),
    channels: found.map((f): BoardChannel => {
      const rule = storedWatchRule.read(f.rule);
      const last = newest.get(f.key);
      return {
        stationId: f.stationId,
        stationCode: f.stationCode,
        site: f.site,
        zone: f.zone,
        channelId: f.channelId,
        name: channelName(f),
        quantity: f.quantity,
        limits: rule.limits,
        armed: f.armed,
        value: last?.value ?? null,
        at: last?.at ?? null,
        // Of a value that was there before its rule nobody noted when it came.
        arrived: last?.at === f.lastMs && f.arrivedMs > f.setAt.getTime() ? f.arrivedMs : null,
        interval: f.interval,
        silentAfter: rule.silentAfter,
        recent: recent.get(f.key) ?? [],
        ringing: (ringing.get(f.channelId) ?? []).map((r) => ({
          alarmId: r.id,
          cause: r.cause,
          level: r.level,
          since: r.beganAt.toISOString(),
          acknowledged: r.acknowledgedAt !== null,
        })),
        shelvedUntil: shelved.get(`${f.stationId} ${f.channelId}`)?.toISOString() ?? null,
        offLine: f.offLine,
        proved: f.proved,
      };
    }),
  };
}

/** Means of the last hours of each channel, with a break wherever nothing was stored. */
async function recentMeans(
  db: Database,
  found: readonly Found[],
  since: number,
): Promise<Map<number, (readonly [number, number | null])[]>> {
  const width = (recentHours * 3600) / stretches;
  const [means] = (await db.sequelize.query(
    `select w.channel as key, floor(extract(epoch from r.at) / $4)::float8 * $4 as start, avg(r.value) as mean
       from unnest($1::int[], $2::int[]) as w(station, channel)
       join reading r on r.station_key = w.station and r.channel_key = w.channel and r.at >= to_timestamp($3)
        and ${shown('w.station', 'r.')}
      group by 1, 2 order by 1, 2`,
    { bind: [found.map((f) => f.stationKey), found.map((f) => f.key), since / 1000, width] },
  )) as [{ key: number; start: number; mean: number }[], unknown];
  const intervals = new Map(found.map((f) => [f.key, f.interval ?? width]));
  return new Map(
    [...groupBy(means, (m) => m.key)].map(([key, mine]) => {
      const apart = 1.5 * Math.max(width, intervals.get(key)!);
      return [
        key,
        mine.flatMap((m, i): (readonly [number, number | null])[] => {
          const hole = i > 0 && m.start - mine[i - 1]!.start > apart;
          const at = 1000 * (m.start + width / 2);
          return hole
            ? [
                [at - 1000 * width, null],
                [at, m.mean],
              ]
            : [[at, m.mean]];
        }),
      ];
    }),
  );
}
