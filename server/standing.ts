import type { Transaction } from 'sequelize';
import { driftOutlook } from '@/core/check/drift';
import type { Flag } from '@/core/quality/flag';
import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import { findGaps } from '@/core/series/gaps';
import { standingOf, type StandingFacts } from '@/core/trust/standing';
import { query, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';
import { checkFacts, groupBy, referenceFacts, stuckSince } from './facts';
import { loadStation, type ChannelNode, type StationGraph } from './stationGraph';
import { approvals, type ApprovalState } from './verify/approval';

/** How far back from its newest value a channel's gaps and flags are counted, d. */
export const standingDays = 30;
/** Over how many days before its newest value a twin is compared. */
export const twinDays = 7;
const dayMs = 86_400_000;
const hour = 3600;

/** Says, in the transaction that changes what it rests on, that a station's standings are to be reckoned anew. */
export async function markStandings(db: Database, tx: Transaction, stationId: string): Promise<void> {
  await db.sequelize.query(
    `insert into channel_standing (station_id, channel_id) select station_id, id from channel where station_id = $1
     on conflict (station_id, channel_id) do update
        set version = channel_standing.version + 1, computed_at = '-infinity'`,
    { bind: [stationId], transaction: tx },
  );
  // A twin elsewhere is judged by this record too.
  await db.sequelize.query(
    `update channel_standing s set version = s.version + 1, computed_at = '-infinity'
       from twin t where t.ended_at is null and t.other_station_id = $1 and t.station_id <> $1
        and s.station_id = t.station_id and s.channel_id = t.channel_id`,
    { bind: [stationId], transaction: tx },
  );
}

/** Reckons anew what was marked, station by station; returns how many stations are still left. */
export async function mendStandings(db: Database, now: Date, most = 40): Promise<number> {
  const stale = await query<{ stationId: string }>(
    db,
    `select distinct station_id as "stationId" from channel_standing where computed_at = '-infinity' limit :n`,
    { n: most + 1 },
  );
  for (const { stationId } of stale.slice(0, most)) await refreshStandings(db, stationId, now);
  return Math.max(0, stale.length - most);
}

/** Reckons the standing of every channel of a station from what is stored. */
export async function refreshStandings(db: Database, stationId: string, now: Date): Promise<void> {
  const versions = new Map(
    (
      await query<{ channelId: string; version: number }>(
        db,
        `select channel_id as "channelId", version from channel_standing where station_id = :stationId`,
        { stationId },
      )
    ).map((v) => [v.channelId, v.version]),
  );
  const graph = await loadStation(db, stationId);
  if (graph.channels.length === 0) return;
  const keys = graph.channels.map((c) => c.row.key);
  const newest = await newestReadings(db, keys);
  const [buckets, checks, flags, twins, clock, collected, approved] = await Promise.all([
    recentHours(db, graph, newest),
    checkFacts(db, [stationId]),
    recentFlags(db, stationId),
    twinDifferences(db, stationId),
    query<{ difference: number; uncertainty: number }>(
      db,
      `select difference, uncertainty from clock_comparison where station_id = :stationId order by compared_at desc, clock_run desc limit 1`,
      { stationId },
    ),
    query<{ at: Date | null }>(
      db,
      `select max(collected_at) as at from collection where station_id = :stationId`,
      {
        stationId,
      },
    ),
    approvals(db, stationId),
  ]);
  const checksOf = groupBy(checks, (c) => c.channelId);
  for (const c of graph.channels) {
    const version = versions.get(c.row.id);
    if (version === undefined) continue;
    const last = newest.get(c.row.key) ?? null;
    const reference = referenceFacts(c, checksOf.get(c.row.id) ?? []);
    const facts = standingFacts(c, {
      last,
      buckets: buckets.get(c.row.key) ?? [],
      reference,
      flags: (flags.get(c.row.id) ?? []).filter(
        (f) => last && f.until.getTime() > last.at - standingDays * dayMs,
      ),
      twin: twins.get(c.row.id) ?? null,
      clock: clock[0] ?? null,
      collectedAt: collected[0]?.at?.getTime() ?? null,
    });
    await storeStanding(db, c, version, now, {
      facts,
      last,
      reference,
      approval: approved.get(c.row.id) ?? null,
    });
  }
}

interface HourBucket {
  start: number;
  n: number;
  min: number;
  max: number;
}
interface RecentFlag {
  channelId: string;
  from: Date;
  until: Date;
  flag: Flag;
  n: number;
  reason: string;
}

function standingFacts(
  c: ChannelNode,
  known: {
    last: { at: number; value: number } | null;
    buckets: readonly HourBucket[];
    reference: ReturnType<typeof referenceFacts>;
    flags: readonly RecentFlag[];
    twin: StandingFacts['twin'];
    clock: StandingFacts['clock'];
    collectedAt: number | null;
  },
): StandingFacts {
  const { last, buckets, reference, flags } = known;
  const settings = (c.written ?? c.staged)?.settings;
  const storageInterval = settings?.storageInterval ?? usualSpacing(buckets) ?? hour;
  const from = buckets[0] ? buckets[0].start + hour : 0;
  const until = last === null ? 0 : Math.floor(last.at / 1000 / hour) * hour;
  const gaps =
    buckets.length && storageInterval <= hour
      ? findGaps(buckets, from, until, hour, hour / storageInterval)
      : [];
  const longest = gaps.reduce<(typeof gaps)[number] | null>(
    (a, g) => (!a || g.missing > a.missing ? g : a),
    null,
  );
  const count = (flag: Flag) => flags.filter((f) => f.flag === flag).reduce((n, f) => n + f.n, 0);
  const worst = [...flags].filter((f) => f.flag !== 9).sort((a, b) => b.flag - a.flag || b.n - a.n)[0];
  const stuck = stuckSince(c, buckets);
  return {
    quantity: c.row.quantity,
    enabled: settings?.enabled ?? true,
    fedBy: c.row.fedBy,
    lastAt: last?.at ?? null,
    collectedAt: known.collectedAt,
    storageInterval,
    check: reference.last && {
      difference: reference.last.difference,
      limit: reference.last.limit,
      outcome: reference.last.outcome,
    },
    drift: reference.last?.outcome === 'agree' ? driftOutlook(reference.found, reference.last.limit) : null,
    stuckSince: stuck === null ? null : stuck * 1000,
    missing: { n: gaps.reduce((n, g) => n + g.missing, 0), longestAt: longest ? longest.from * 1000 : null },
    flagged: {
      suspect: count(3),
      failed: count(4),
      at: worst?.from.getTime() ?? null,
      reason: worst?.reason ?? '',
    },
    twin: known.twin,
    clock: known.clock,
  };
}

/** Of a channel without settings: the spacing its fullest hour shows, s. */
function usualSpacing(buckets: readonly HourBucket[]): number | null {
  const counts = buckets.map((b) => b.n).sort((a, b) => a - b);
  const usual = counts[Math.floor(counts.length / 2)];
  return usual ? Math.round(hour / usual) : null;
}

async function recentHours(
  db: Database,
  graph: StationGraph,
  newest: ReadonlyMap<number, { at: number }>,
): Promise<Map<number, HourBucket[]>> {
  if (newest.size === 0) return new Map();
  const found = await query<HourBucket & { key: number }>(
    db,
    `select r.channel_key as key, extract(epoch from r.bucket)::float8 as start, r.n, r.min, r.max
       from unnest(array[:keys]::int[], array[:lasts]::float8[]) as w(key, last)
       join reading_rollup r on r.station_key = :station and r.channel_key = w.key and r.width = 3600
        and r.bucket > to_timestamp(w.last) - make_interval(days => :days) and r.bucket <= to_timestamp(w.last)
      order by 1, 2`,
    {
      keys: [...newest.keys()],
      lasts: [...newest.values()].map((n) => n.at / 1000),
      station: graph.station.key,
      days: standingDays,
    },
  );
  return groupBy(found, (f) => f.key);
}

async function recentFlags(db: Database, stationId: string): Promise<Map<string, RecentFlag[]>> {
  const found = await query<RecentFlag>(
    db,
    `select l.channel_id as "channelId", l.from_at as from, coalesce(l.until_at, now()) as until,
            coalesce((l.parameters->>'flag')::int, 3) as flag, coalesce((l.parameters->>'n')::int, 0) as n, l.reason
       from layer l where l.station_id = :stationId and l.kind = 'flag' and l.parameters->>'empty' is null
        and not exists (select 1 from layer r where r.station_id = l.station_id and r.revokes = l.id)`,
    { stationId },
  );
  return groupBy(found, (f) => f.channelId);
}

/** Quantities whose values go round a circle, and SQL for the mean direction of a rollup of them. */
const directions = quantityCodes.filter((code) => quantityOf(code).aggregate === 'circular');
const direction = (of: string) => `atan2(${of}.sin_sum, ${of}.cos_sum)`;

/** Mean difference to its twin over the hours both hold, in the days before the newest common one. */
async function twinDifferences(
  db: Database,
  stationId: string,
): Promise<Map<string, NonNullable<StandingFacts['twin']>>> {
  const found = await query<{ channelId: string; difference: number | null; limit: number; name: string }>(
    db,
    `select t.channel_id as "channelId", t.tolerance as limit, os.code || ' ' || oc.zone_name as name,
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
       join channel oc on oc.station_id = t.other_station_id and oc.id = t.other_channel_id
      where t.station_id = :stationId and t.ended_at is null`,
    { stationId, days: twinDays, circular: directions },
  );
  return new Map(
    found.flatMap((f) =>
      f.difference === null ? [] : [[f.channelId, { ...f, difference: f.difference }] as const],
    ),
  );
}

async function storeStanding(
  db: Database,
  c: ChannelNode,
  version: number,
  now: Date,
  known: {
    facts: StandingFacts;
    last: { at: number; value: number } | null;
    reference: ReturnType<typeof referenceFacts>;
    approval: ApprovalState | null;
  },
): Promise<void> {
  const { facts, last, reference, approval } = known;
  const standing = standingOf(facts);
  const instant = (ms: number | null | undefined) => (ms == null ? null : new Date(ms));
  const checkedAt = facts.fedBy === 'logger' ? (reference.last?.at ?? null) : null;
  await db.sequelize.query(
    `update channel_standing set computed_at = :now, name = :name, word = :word, weight = :weight, reason = :reason,
            place_at = :placeAt, last_at = :lastAt, last_value = :lastValue, collected_at = :collectedAt,
            checked_at = :checkedAt, check_due_at = :checkDueAt, difference = :difference,
            difference_limit = :differenceLimit, missing = :missing, suspect = :suspect, failed = :failed,
            twin_difference = :twinDifference, twin_limit = :twinLimit, clock_difference = :clockDifference,
            approved_from = :approvedFrom, approved_until = :approvedUntil, approved_by = :approvedBy,
            approved_at = :approvedAt, reopened = :reopened
      where station_id = :stationId and channel_id = :channelId and version = :version`,
    {
      replacements: {
        now,
        name: c.name,
        ...standing,
        placeAt: instant(standing.placeAt),
        lastAt: instant(last?.at),
        lastValue: last?.value ?? null,
        collectedAt: facts.fedBy === 'logger' ? instant(facts.collectedAt) : null,
        checkedAt: instant(checkedAt),
        checkDueAt: checkedAt === null ? null : new Date(checkedAt + c.row.checkEveryDays * dayMs),
        difference: facts.check?.difference ?? null,
        differenceLimit: facts.check?.limit ?? null,
        missing: facts.missing.n,
        suspect: facts.flagged.suspect,
        failed: facts.flagged.failed,
        twinDifference: facts.twin?.difference ?? null,
        twinLimit: facts.twin?.limit ?? null,
        clockDifference: facts.fedBy === 'logger' ? (facts.clock?.difference ?? null) : null,
        approvedFrom: approval?.from ?? null,
        approvedUntil: approval?.until ?? null,
        approvedBy: approval?.initials ?? null,
        approvedAt: approval?.at ?? null,
        reopened: approval?.reopened ?? null,
        stationId: c.row.stationId,
        channelId: c.row.id,
        version,
      },
    },
  );
}
