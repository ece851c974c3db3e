import { quantityOf } from '@/core/quantity/quantity';
import { findGaps } from '@/core/series/gaps';
import { flatSince, type BucketRange } from '@/core/series/flatLine';
import type { FoundDifference } from '@/core/check/drift';
import type { ChannelFacts, ReferenceFacts, StationFacts } from '@/core/trust/stationFacts';
import { query, type Database } from '@/db/database';
import { newestReadings, rollups, type Bucket } from '@/db/record';
import { unknownActions } from './deviceAction';
import { specOf, type ChannelNode, type StationGraph } from './stationGraph';

const day = 86_400_000;
/** How far back the Round looks for gaps, d. */
const lookBack = 30;
/** A record that has not moved for so long is said to be stuck, s. Our own choice. */
const stuckAfter = 18 * 3600;

/** Since when a channel's record has not moved, s since epoch; rain rests for days, and wind may. */
export const stuckSince = (c: ChannelNode, buckets: readonly BucketRange[]): number | null =>
  ['rain', 'windSpeed'].includes(c.row.quantity)
    ? null
    : flatSince(buckets, 3600, (specOf(c)?.resolution ?? 0) * 0.999, stuckAfter);

export interface CheckFact {
  stationId: string;
  channelId: string;
  openedAt: Date;
  closedAt: Date | null;
  outcome: string | null;
  closingDifference: number | null;
  result: { budget?: { meanDifference: number }; limit?: number } | null;
  adjusted: boolean;
}

/** Gathers what is known about stations now; `findingsOf` turns it into reasons. Nothing here is stored. */
export async function gatherFacts(
  db: Database,
  graphs: readonly StationGraph[],
  now: Date,
): Promise<Map<string, StationFacts>> {
  const ids = graphs.map((g) => g.station.id);
  if (ids.length === 0) return new Map();
  const keys = graphs.flatMap((g) => g.channels.map((c) => c.row.key));
  const [unknown, contacts, clocks, collected, talks, checks, newest, buckets] = await Promise.all([
    unknownActions(db, ids),
    lastContacts(db, ids),
    query<{ stationId: string; at: Date; difference: number; uncertainty: number }>(
      db,
      `select distinct on (station_id) station_id as "stationId", compared_at as at, difference, uncertainty
         from clock_comparison where station_id in (:ids) order by station_id, compared_at desc, clock_run desc`,
      { ids },
    ),
    query<{ stationId: string; at: Date }>(
      db,
      `select station_id as "stationId", max(collected_at) as at from collection where station_id in (:ids) group by 1`,
      { ids },
    ),
    query<{ installationId: string; at: Date; outcome: { fault?: string | null } | null }>(
      db,
      `select distinct on (installation_id) installation_id as "installationId", intended_at as at, outcome
         from device_action where kind = 'talk' and settled_at is not null and station_id in (:ids)
        order by installation_id, intended_at desc`,
      { ids },
    ),
    checkFacts(db, ids),
    newestReadings(db, keys),
    rollups(db, keys, 3600, now.getTime() - lookBack * day, now.getTime() + day),
  ]);
  const bucketsOf = groupBy(buckets, (b) => b.channelKey);
  const checksOf = groupBy(checks, (c) => c.channelId);

  return new Map(
    graphs.map((g): [string, StationFacts] => {
      const id = g.station.id;
      const contact = contacts.get(id) ?? { lastContact: null, fault: null };
      const clock = clocks.find((c) => c.stationId === id);
      const lastCollectedAt = collected.find((c) => c.stationId === id)?.at.getTime() ?? null;
      return [
        id,
        {
          now: now.getTime(),
          lastContact: contact.lastContact,
          lastContactFault: contact.fault,
          unknownActions: unknown.filter((a) => a.stationId === id).length,
          clock: clock
            ? { at: clock.at.getTime(), difference: clock.difference, uncertainty: clock.uncertainty }
            : null,
          installations: g.installations.map((i) => {
            const talk = talks.find((t) => t.installationId === i.row.id);
            return {
              name: `${i.sensor.serial} (${i.row.zoneName})`,
              leadsRecorded: i.leads.length,
              leadsNeeded: i.model.leads.length,
              supply: { atSensor: i.supply.atSensor, low: i.model.supply.low, high: i.model.supply.high },
              lastTalk: talk ? { at: talk.at.getTime(), fault: talk.outcome?.fault ?? null } : null,
            };
          }),
          channels: g.channels.map((c) =>
            channelFacts(
              c,
              now,
              lastCollectedAt,
              newest.get(c.row.key)?.at ?? null,
              bucketsOf.get(c.row.key) ?? [],
              checksOf.get(c.row.id) ?? [],
            ),
          ),
        },
      ];
    }),
  );
}

/** Checks of the sensors now in place, oldest first; abandoned ones say nothing. */
export const checkFacts = (db: Database, ids: readonly string[]): Promise<CheckFact[]> =>
  query<CheckFact>(
    db,
    `select c.station_id as "stationId", c.channel_id as "channelId", c.opened_at as "openedAt", c.closed_at as "closedAt",
            c.outcome, c.closing_difference as "closingDifference", c.result,
            exists (select 1 from adjustment a where a.station_id = c.station_id and a.check_id = c.id) as adjusted
       from reference_check c
       join mapping m on m.station_id = c.station_id and m.channel_id = c.channel_id
                     and m.installation_id = c.installation_id and m.until_at is null
      where c.station_id in (:ids) and (c.outcome is distinct from 'abandoned') order by c.opened_at`,
    { ids },
  );

function channelFacts(
  c: ChannelNode,
  now: Date,
  lastCollectedAt: number | null,
  lastAt: number | null,
  buckets: readonly Bucket[],
  checks: readonly CheckFact[],
): ChannelFacts {
  const settings = (c.written ?? c.staged)?.settings;
  const storageInterval = c.written?.settings.storageInterval ?? 600;
  // Whole hours between the first reading (or the look-back) and the newest one.
  const hour = 3600;
  const from = buckets[0] ? buckets[0].start + hour : 0;
  const until = lastAt === null ? 0 : Math.floor(lastAt / 1000 / hour) * hour;
  const gaps =
    buckets.length && storageInterval <= hour
      ? findGaps(buckets, from, until, hour, hour / storageInterval)
      : [];
  return {
    id: c.row.id,
    name: c.name,
    quantity: c.row.quantity,
    enabled: c.written?.settings.enabled ?? settings?.enabled ?? true,
    fedBy: c.row.fedBy,
    settings: {
      everWritten: c.written !== null,
      stagedAt: c.staged && !c.staged.readBack ? c.staged.stagedAt.getTime() : null,
      readBackDiffers: c.differing !== null,
    },
    reference: referenceFacts(c, checks),
    record: {
      lastAt,
      lastCollectedAt,
      storageInterval,
      gaps,
      flatSince: msOrNull(stuckSince(c, buckets)),
    },
  };
}

const msOrNull = (s: number | null) => (s === null ? null : s * 1000);

export function referenceFacts(c: ChannelNode, checks: readonly CheckFact[]): ReferenceFacts {
  const closed = checks.filter((k) => k.closedAt && k.outcome);
  const last = closed.at(-1);
  const open = checks.find((k) => !k.closedAt);
  const found: FoundDifference[] = [];
  for (const k of closed) {
    const difference = k.result?.budget?.meanDifference;
    if (difference !== undefined && k.outcome !== 'not-settled')
      found.push({ at: k.openedAt.getTime(), difference });
    if (k.adjusted) found.length = 0;
  }
  return {
    found,
    openSince: open ? open.openedAt.getTime() : null,
    every: c.row.checkEveryDays,
    last:
      (last && {
        at: last.openedAt.getTime(),
        difference: last.closingDifference ?? last.result?.budget?.meanDifference ?? Number.NaN,
        limit: last.result?.limit ?? specOf(c)?.tolerance ?? quantityOf(c.row.quantity).tolerance,
        outcome: last.outcome as NonNullable<ReferenceFacts['last']>['outcome'],
      }) ||
      null,
  };
}

/** Last successful contact of each station, and what went wrong if a later attempt failed. */
async function lastContacts(db: Database, ids: readonly string[]) {
  const found = await query<{ stationId: string; at: Date; ok: boolean; says: string | null }>(
    db,
    `select station_id as "stationId", at, ok, says from (
       select station_id, compared_at as at, true as ok, null as says from clock_comparison where station_id in (:ids)
       union all
       select station_id, intended_at,
              state = 'done' and coalesce(outcome->>'fault', '') not in ('no-connection'),
              coalesce(outcome->>'detail', outcome->>'says')
         from device_action where station_id in (:ids) and settled_at is not null
       union all
       select station_id, ended_at, false, message from operation
        where station_id in (:ids) and kind = 'collect' and state = 'failed'
     ) contact where at > now() - interval '400 days' or ok order by at`,
    { ids },
  );
  const byStation = new Map<string, { lastContact: number | null; fault: string | null }>();
  for (const f of found) {
    const before = byStation.get(f.stationId) ?? { lastContact: null, fault: null };
    byStation.set(
      f.stationId,
      f.ok ? { lastContact: f.at.getTime(), fault: null } : { ...before, fault: f.says ?? 'no answer' },
    );
  }
  return byStation;
}

export function groupBy<T, K>(all: readonly T[], keyOf: (t: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const x of all) {
    const group = groups.get(keyOf(x));
    if (group) group.push(x);
    else groups.set(keyOf(x), [x]);
  }
  return groups;
}
