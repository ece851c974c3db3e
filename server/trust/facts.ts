import { neededLeads } from '@/core/device/profile';
import type { FoundDifference } from '@/core/check/drift';
import { groupBy } from '@/core/groupBy';
import type { Flag } from '@/core/quality/flag';
import { stuckSince } from '@/core/quality/stuck';
import { findGaps, type Due } from '@/core/series/gaps';
import type { ChannelFacts, RecordFacts, ReferenceFacts, StationFacts } from '@/core/trust/stationFacts';
import { storedCheckResult, type CheckResult } from '@/db/stored/check';
import { query, type Database } from '@/db/database';
import { newestReadings, shown } from '@/db/record';
import { giveUpAfter } from '../device/deviceAction';
import { loggerStanding } from '../device/loggerStanding';
import { pinText } from '../device/profiles';
import { toleranceOf, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { openFacts } from '../visit/open';
import { foundOffs } from './foundOffs';
import { newestGauges } from '../water/newestGauges';
import { twinDifferences } from './twinDifferences';

/** How far back from its newest value a channel's gaps and flags are counted, d. */
export const lookBack = 30;
const day = 86_400_000;
const hour = 3600;

export interface GatheredFacts {
  readonly facts: StationFacts;
  /** Newest reading of each channel, by its key. */
  readonly newest: ReadonlyMap<number, { at: number; value: number }>;
}

/** Gathers what is known about one station, once; `findingsOf` turns it into reasons. */
export async function gatherFacts(db: Database, graph: StationGraph): Promise<GatheredFacts> {
  const { id } = graph.station;
  const keys = graph.channels.map((c) => c.row.key);
  const newest = await newestReadings(db, keys);
  const [standing, parts, left] = await Promise.all([
    loggerStanding(db, graph),
    partChanges(db, id),
    openFacts(db, id),
  ]);
  const [open, contact, clock, collected, talks, checks, buckets, flags, twins, gauges, spacings] =
    await Promise.all([
      query<{ channelId: string | null; state: string; intendedAt: Date }>(
        db,
        `select channel_id as "channelId", state, intended_at as "intendedAt" from device_action
        where station_id = :id and settled_at is null and kind <> 'talk'`,
        { id },
      ),
      lastContact(db, id),
      query<{ at: Date; difference: number; uncertainty: number }>(
        db,
        `select compared_at as at, difference, uncertainty from clock_compared where station_id = :id
        order by compared_at desc, clock_run desc limit 1`,
        { id },
      ),
      query<{ at: Date | null }>(
        db,
        'select max(collected_at) as at from collection where station_id = :id',
        { id },
      ),
      query<{ installationId: string; at: Date; outcome: { fault?: string | null } | null }>(
        db,
        `select distinct on (installation_id) installation_id as "installationId", intended_at as at, outcome
         from device_action where kind = 'talk' and settled_at is not null and station_id = :id
        order by installation_id, intended_at desc`,
        { id },
      ),
      checkFacts(db, id),
      recentHours(db, graph, newest),
      activeFlags(db, id),
      twinDifferences(db, id),
      newestGauges(db, graph),
      usualSpacings(
        db,
        graph,
        graph.channels.filter((c) => !c.written),
      ),
    ]);
  const bucketsOf = groupBy(buckets, (b) => b.key);
  const flagsOf = groupBy(flags, (f) => f.channelId);
  const checksOf = groupBy(checks, (k) => k.channelId);
  const offs = await foundOffs(
    db,
    id,
    [...checksOf.values()].flatMap((of) => decidedOf(of).at(-1)?.id ?? []),
  );
  const facts: StationFacts = {
    stationId: id,
    open: left,
    logger: graph.logger && {
      id: graph.logger.id,
      name: graph.logger.serial,
      ...contact,
      lastCollectedAt: collected[0]?.at?.getTime() ?? null,
      openWrites: open.map((o) => ({
        channelId: o.channelId,
        unknownFrom: o.state === 'unknown' ? -Infinity : o.intendedAt.getTime() + giveUpAfter * 1000,
      })),
      clock: clock[0] ? { ...clock[0], at: clock[0].at.getTime() } : null,
      ...standing,
    },
    installations: graph.installations.map((i) => {
      const talk = talks.find((t) => t.installationId === i.row.id);
      return {
        id: i.row.id,
        name: `${i.sensor.serial} (${i.row.zoneName})`,
        profile: i.profileKnown ? null : pinText(i.sensor),
        leadsRecorded: i.leads.length,
        leadsNeeded: neededLeads(i.profile).length,
        supply: { atSensor: i.supply.atSensor, low: i.profile.supply.low, high: i.profile.supply.high },
        lastTalk: talk ? { at: talk.at.getTime(), fault: talk.outcome?.fault ?? null } : null,
        channelIds: graph.channels.filter((c) => c.installation?.row.id === i.row.id).map((c) => c.row.id),
      };
    }),
    channels: graph.channels.map((c) =>
      channelFacts(c, {
        last: newest.get(c.row.key) ?? null,
        buckets: bucketsOf.get(c.row.key) ?? [],
        flags: flagsOf.get(c.row.id) ?? [],
        checks: checksOf.get(c.row.id) ?? [],
        part: partOf(c, parts),
        offs,
        twin: twins.get(c.row.id) ?? null,
        gauge: gauges.get(c.row.id) ?? null,
        spacing: spacings.get(c.row.key) ?? hour,
      }),
    ),
  };
  return { facts, newest };
}

interface HourBucket {
  key: number;
  start: number;
  n: number;
}
interface ActiveFlag {
  channelId: string;
  from: Date;
  until: Date;
  flag: Flag;
  n: number;
  test: string | null;
  suspectHours: number | null;
  reason: string;
}

function channelFacts(
  c: ChannelNode,
  known: {
    last: { at: number; value: number } | null;
    buckets: readonly HourBucket[];
    flags: readonly ActiveFlag[];
    checks: readonly CheckFact[];
    part: ReferenceFacts['part'];
    offs: Awaited<ReturnType<typeof foundOffs>>;
    twin: RecordFacts['twin'];
    gauge: RecordFacts['gauge'];
    spacing: number;
  },
): ChannelFacts {
  const settings = (c.written ?? c.staged)?.settings;
  const { last } = known;
  const interval = c.written?.settings.storageInterval ?? known.spacing;
  const stuck = last && stuckFact(known.flags, last.at, interval);
  const recent = known.flags.filter(
    (f) =>
      last &&
      f.until.getTime() > last.at - lookBack * day &&
      // What makes a channel stuck is not said a second time.
      !(f.test === 'flat' && stuck !== null && f.from.getTime() / 1000 >= stuck),
  );
  const count = (flag: Flag) => recent.filter((f) => f.flag === flag).reduce((n, f) => n + f.n, 0);
  const worst = recent.filter((f) => f.flag !== 9).sort((a, b) => b.flag - a.flag || b.n - a.n)[0];
  return {
    id: c.row.id,
    name: c.name,
    quantity: c.row.quantity,
    enabled: settings?.enabled ?? true,
    source: c.row.source,
    settings: {
      everWritten: c.written !== null,
      stagedAt: c.staged && !c.staged.readBack ? c.staged.stagedAt.getTime() : null,
      readBackDiffers: c.differing !== null,
    },
    reference: referenceFacts(c, known.checks, known.part, known.offs),
    record: {
      lastAt: last?.at ?? null,
      storageInterval: interval,
      // A person reads when they are there: nothing is missing between.
      gaps: last && c.row.source !== 'manual' ? gapFacts(c, known.buckets, last.at / 1000, interval) : [],
      flagged: {
        suspect: count(3),
        failed: count(4),
        at: worst?.from.getTime() ?? null,
        reason: worst?.reason ?? '',
      },
      stuckSince: stuck === null ? null : stuck * 1000,
      twin: known.twin,
      gauge: known.gauge,
    },
  };
}

const stuckFact = (flags: readonly ActiveFlag[], lastMs: number, interval: number): number | null =>
  stuckSince(
    flags.flatMap((f) =>
      f.test === 'flat' && f.suspectHours
        ? [{ from: f.from.getTime() / 1000, until: f.until.getTime() / 1000, suspectHours: f.suspectHours }]
        : [],
    ),
    lastMs / 1000,
    interval,
  );

/** Gaps in the whole hours between the first reading in view and the newest one, by the interval in force in each. */
function gapFacts(c: ChannelNode, buckets: readonly HourBucket[], last: number, interval: number) {
  const [first] = buckets;
  if (!first) return [];
  const intervalAt = (at: number) =>
    c.history.filter((r) => r.writtenAt!.getTime() / 1000 <= at).at(-1)?.settings.storageInterval ?? interval;
  const dueAt = (start: number): Due => {
    // In the hour it was changed, the longer of the two expects less.
    const inForce = Math.max(intervalAt(start), intervalAt(start + hour));
    return { interval: inForce, phase: last % inForce };
  };
  return findGaps(buckets, first.start + hour, Math.floor(last / hour) * hour, hour, dueAt);
}

export interface CheckFact {
  id: string;
  channelId: string;
  openedAt: Date;
  closedAt: Date | null;
  outcome: string | null;
  closingDifference: number | null;
  result: CheckResult | null;
  reference: string;
  referenceTolerance: number;
  adjusted: boolean;
}

/** Checks of the sensors now in place, oldest first; abandoned ones say nothing. */
async function checkFacts(db: Database, stationId: string): Promise<CheckFact[]> {
  const found = await query<CheckFact>(
    db,
    `select c.id, c.channel_id as "channelId", c.opened_at as "openedAt", c.closed_at as "closedAt",
            c.outcome, c.closing_difference as "closingDifference", c.result, coalesce(c.instrument_id::text, c.plan->>'procedure', '') as reference,
            (c.plan->>'referenceTolerance')::float8 as "referenceTolerance",
            exists (select 1 from adjustment a where a.station_id = c.station_id and a.check_id = c.id) as adjusted
       from reference_check c
       join mapping m on m.station_id = c.station_id and m.channel_id = c.channel_id
                     and m.installation_id = c.installation_id and m.until_at is null
      where c.station_id = :stationId and (c.outcome is distinct from 'abandoned') order by c.opened_at`,
    { stationId },
  );
  return found.map((f) => ({ ...f, result: f.result && storedCheckResult.read(f.result) }));
}

/** When the part of each sensor was replaced last, by installation. */
async function partChanges(db: Database, stationId: string): Promise<ReadonlyMap<string, number>> {
  const found = await query<{ installationId: string; at: Date }>(
    db,
    `select installation_id as "installationId", max(changed_at) as at from part_change
      where station_id = :stationId group by 1`,
    { stationId },
  );
  return new Map(found.map((f) => [f.installationId, f.at.getTime()]));
}

function partOf(c: ChannelNode, changes: ReadonlyMap<string, number>): ReferenceFacts['part'] {
  const part = c.installation?.profile.part;
  const at = c.installation && changes.get(c.installation.row.id);
  return part && at !== undefined && at !== null && part.bears.includes(c.output?.key ?? '')
    ? { name: part.name, at }
    : null;
}

/** Those that decided something. */
const decidedOf = (checks: readonly CheckFact[]): readonly CheckFact[] =>
  checks.filter((k) => k.closedAt && k.outcome && k.outcome !== 'not-settled');

/** A check that decided nothing changes nothing: neither what is known of the sensor nor when it is due. */
function referenceFacts(
  c: ChannelNode,
  checks: readonly CheckFact[],
  part: ReferenceFacts['part'],
  offs: Awaited<ReturnType<typeof foundOffs>>,
): ReferenceFacts {
  const decided = decidedOf(checks);
  const last = decided.at(-1);
  const open = checks.find((k) => !k.closedAt);
  const found: FoundDifference[] = [];
  for (const k of decided) {
    const difference = k.result?.budget?.meanDifference;
    if (difference !== undefined)
      found.push({
        at: k.openedAt.getTime(),
        difference,
        reference: k.reference,
        referenceTolerance: k.referenceTolerance,
      });
    if (k.adjusted) found.length = 0;
  }
  return {
    // With another part it is another sensor: what was found before is no part of its line.
    found: found.filter((f) => !part || f.at > part.at),
    part,
    openSince: open ? open.openedAt.getTime() : null,
    foundOff: (last && offs.get(last.id)) ?? null,
    every: c.row.checkEveryDays,
    last:
      (last && {
        at: last.openedAt.getTime(),
        difference: last.closingDifference ?? last.result?.budget?.meanDifference ?? Number.NaN,
        limit: last.result?.limit ?? toleranceOf(c),
        outcome: last.outcome as NonNullable<ReferenceFacts['last']>['outcome'],
      }) ||
      null,
  };
}

/** SQL: when a station's logger was last heard of, `at`, by its clock and by its answers. */
export const contactsOf = (stationId: string): string =>
  `(select compared_at as at from clock_comparison where station_id = ${stationId} order by compared_at desc limit 1)
   union all
   (select intended_at from device_action where station_id = ${stationId} and state = 'done'
       and coalesce(outcome->>'fault', '') <> 'no-connection' order by intended_at desc limit 1)`;

/** Last successful contact of a station's logger, and what went wrong if a later attempt failed. */
async function lastContact(
  db: Database,
  id: string,
): Promise<{ lastContact: number | null; lastContactFault: string | null }> {
  const attempts = await query<{ at: Date; ok: boolean; says: string | null }>(
    db,
    `select * from (
       (select at, true as ok, null as says from (${contactsOf(':id')}) contact)
       union all
       (select intended_at, false, coalesce(outcome->>'detail', outcome->>'says') from device_action
         where station_id = :id and settled_at is not null
           and (state <> 'done' or outcome->>'fault' = 'no-connection') order by intended_at desc limit 1)
       union all
       (select ended_at, false, message from operation
         where station_id = :id and kind = 'collect' and state = 'failed' order by ended_at desc limit 1)
     ) attempt order by at`,
    { id },
  );
  const last = attempts.filter((a) => a.ok).at(-1);
  const newest = attempts.at(-1);
  return {
    lastContact: last ? last.at.getTime() : null,
    lastContactFault: newest && !newest.ok ? (newest.says ?? 'no answer') : null,
  };
}

async function recentHours(
  db: Database,
  graph: StationGraph,
  newest: ReadonlyMap<number, { at: number }>,
): Promise<HourBucket[]> {
  if (newest.size === 0) return [];
  return query<HourBucket>(
    db,
    `select r.channel_key as key, extract(epoch from r.bucket)::float8 as start, r.n
       from unnest(array[:keys]::int[], array[:lasts]::float8[]) as w(key, last)
       join reading_rollup r on r.station_key = :station and r.channel_key = w.key and r.width = 3600
        and r.bucket > to_timestamp(w.last) - make_interval(days => :days) and r.bucket <= to_timestamp(w.last)
      order by 1, 2`,
    {
      keys: [...newest.keys()],
      lasts: [...newest.values()].map((n) => n.at / 1000),
      station: graph.station.key,
      days: lookBack,
    },
  );
}

const activeFlags = (db: Database, stationId: string): Promise<ActiveFlag[]> =>
  query<ActiveFlag>(
    db,
    `select channel_id as "channelId", from_at as from, coalesce(until_at, 'infinity') as until,
            coalesce((parameters->>'flag')::int, 3) as flag, coalesce((parameters->>'n')::int, 0) as n,
            parameters->>'test' as test, (parameters->'thresholds'->>'suspectHours')::float8 as "suspectHours", reason
       from active_layer where station_id = :stationId and kind = 'flag'`,
    { stationId },
  );

/** The commonest distance of the newest readings of channels that have no settings, s. */
async function usualSpacings(
  db: Database,
  graph: StationGraph,
  channels: readonly ChannelNode[],
): Promise<Map<number, number>> {
  if (channels.length === 0) return new Map();
  const found = await query<{ key: number; spacing: number | null }>(
    db,
    `select c.key, x.spacing from unnest(array[:keys]::int[]) as c(key) cross join lateral (
       select mode() within group (order by apart)::float8 as spacing from (
         select round(extract(epoch from at - lag(at) over (order by at))) as apart from (
           select at from reading where station_key = :station and channel_key = c.key and ${shown(':station')}
            order by at desc limit 300) newest) d where apart > 0) x`,
    { keys: channels.map((c) => c.row.key), station: graph.station.key },
  );
  return new Map(found.flatMap((f) => (f.spacing ? [[f.key, f.spacing] as const] : [])));
}
