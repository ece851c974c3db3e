import type { Transaction } from 'sequelize';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Milliseconds, Seconds } from '@/core/time';
import { spansOf, type Span } from '@/core/watch/hours';
import { holeOf } from '@/core/watch/recorded';
import type { WatchRule } from '@/core/watch/rule';
import {
  isAtRest,
  watchingNothing,
  type KnownSpan,
  type WatchGround,
  type WatchState,
} from '@/core/watch/watcher';
import { query, type Database } from '@/db/database';
import type { WatchStateRow } from '@/db/rows';
import { storedWatchRule, storedWatchState } from '@/db/stored/watch';
import { channelName, namedColumns } from '../station/channelName';

/** A channel with the rule it is watched by, and how watching stands. */
export interface WatchedChannel {
  readonly stationId: string;
  readonly stationKey: number;
  readonly stationCode: string;
  readonly channelId: string;
  readonly channelKey: number;
  readonly name: string;
  readonly quantity: QuantityCode;
  readonly source: 'logger' | 'file' | 'manual' | 'derived';
  readonly zone: string;
  /** s between stored values; null where that is not known. */
  readonly interval: Seconds | null;
  readonly ruleId: string;
  readonly rule: WatchRule;
  readonly state: WatchState;
}

/**
 * SQL: s between stored values of a channel, by its settings; null for one without.
 *
 * @param of alias of a table of channels by station_id and channel_id
 */
export const intervalSql = (of: string): string =>
  `(select (v.settings->>'storageInterval')::float8 from written_setting v
     where v.station_id = ${of}.station_id and v.channel_id = ${of}.channel_id)`;

interface Found {
  stationId: string;
  stationKey: number;
  stationCode: string;
  channelId: string;
  channelKey: number;
  description: string | null;
  zoneName: string;
  quantity: QuantityCode;
  source: WatchedChannel['source'];
  zone: string;
  interval: number | null;
  ruleId: string;
  rule: unknown;
  run: number;
  lastMs: number;
  arrivedMs: number;
  state: unknown;
}

/** Rules never change once they are set: each is read once by a process, so many at the most. */
const mostRules = 50_000;
const rulesRead = new Map<string, WatchRule>();
function ruleOf(id: string, raw: unknown): WatchRule {
  const known = rulesRead.get(id);
  if (known) return known;
  if (rulesRead.size >= mostRules) rulesRead.clear();
  const rule = storedWatchRule.read(raw);
  rulesRead.set(id, rule);
  return rule;
}

/** How watching stands, in the columns it is kept in, and out of them. */
type StateColumns = Pick<WatchStateRow, 'run' | 'lastMs' | 'arrivedMs' | 'state'>;
export const stateOf = ({ run, lastMs, arrivedMs, state }: StateColumns): WatchState => ({
  ...(state ?? watchingNothing()),
  run,
  last: lastMs,
  arrived: arrivedMs,
});
export const stateColumns = (s: WatchState): StateColumns => ({
  run: s.run,
  lastMs: s.last,
  arrivedMs: s.arrived,
  state: isAtRest(s) ? null : s,
});

/** Every channel of some stations that is watched now, with what its rule was armed with. */
export async function watchedChannels(
  db: Database,
  stationIds: readonly string[],
  tx?: Transaction,
): Promise<WatchedChannel[]> {
  if (stationIds.length === 0) return [];
  const found = await query<Found>(
    db,
    `select r.station_id as "stationId", s.key as "stationKey", s.code as "stationCode", r.channel_id as "channelId",
            c.key as "channelKey", ${namedColumns('n')}, c.source, i.zone, r.id as "ruleId", r.rule, w.run, w.last_ms as "lastMs",
            w.arrived_ms as "arrivedMs", w.state,
            ${intervalSql('r')} as interval
       from watch_rule_in_force r
       join watch_state w on w.station_id = r.station_id and w.channel_id = r.channel_id
       join channel c on c.station_id = r.station_id and c.id = r.channel_id
       join named_channel n on n.station_id = c.station_id and n.id = c.id
       join station s on s.id = r.station_id
       join site i on i.id = s.site_id
      where r.station_id in (:stationIds) and r.armed
      order by s.code, c.key`,
    { stationIds: [...stationIds] },
    tx,
  );
  return found.map(({ description, zoneName, rule, state, run, lastMs, arrivedMs, ...f }) => ({
    ...f,
    name: channelName({ description, zoneName, quantity: f.quantity }),
    rule: ruleOf(f.ruleId, rule),
    state: stateOf({ run, lastMs, arrivedMs, state: state === null ? null : storedWatchState.read(state) }),
  }));
}

/** Spans in which channels of some stations were off-line, with when that was known; by channel. */
export async function knownOffLine(
  db: Database,
  stationIds: readonly string[],
  since: Milliseconds,
  tx?: Transaction,
): Promise<Map<string, KnownSpan[]>> {
  const found = await query<{
    channelId: string;
    from: number;
    until: number | null;
    known: number;
    revoked: number | null;
  }>(
    db,
    `select l.channel_id as "channelId", extract(epoch from l.from_at)::float8 * 1000 as from,
            extract(epoch from l.until_at)::float8 * 1000 as until,
            extract(epoch from l.recorded_at)::float8 * 1000 as known,
            (select extract(epoch from min(r.recorded_at))::float8 * 1000 from layer r
              where r.station_id = l.station_id and r.revokes = l.id) as revoked
       from layer l
      where l.station_id in (:stationIds) and l.kind = 'off-line' and l.parameters->>'empty' is null
        and coalesce(l.until_at, 'infinity') >= to_timestamp(:since)`,
    { stationIds: [...stationIds], since: Math.max(0, since / 1000) },
    tx,
  );
  const by = new Map<string, KnownSpan[]>();
  for (const f of found)
    by.set(f.channelId, [
      ...(by.get(f.channelId) ?? []),
      { from: f.from, until: f.until ?? Infinity, knownFrom: f.known, knownUntil: f.revoked ?? Infinity },
    ]);
  return by;
}

/** What a channel is watched with beside its rule, over a span. */
export const groundOf = (
  rule: WatchRule,
  zone: string,
  interval: Seconds | null,
  span: Span,
  offLine: readonly KnownSpan[],
): WatchGround => ({
  holds: spansOf(rule.hours, zone, span.from, span.until),
  offLine,
  gap: holeOf(interval),
});
