import type { AgainstRecordView, LevelChannelView } from '@/contract/water';
import { compareWithRecord, recordAt, type RecordAt } from '@/core/water/againstRecord';
import { knownDrift, stampDoubt, type ClockContact } from '@/core/clock/knownDrift';
import type { LevelReading } from '@/core/water/levelReading';
import type { LevelSum } from '@/core/water/levelSum';
import { lowestBed } from '@/core/water/measuringPoint';
import { quantityOf } from '@/core/quantity/quantity';
import { correctedBy, correctionAt, driftedStamp, loggedStamp } from '@/core/series/correction';
import { query, type Database } from '@/db/database';
import { newestReadings, shown } from '@/db/record';
import { toleranceOf, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { activeLayers, correctionsOf, driftsOf } from '../verify/layers';
import { zeroOf, type WaterFile } from './load';

/** A channel of water level with what its record is read by. */
export interface LevelChannel {
  readonly node: ChannelNode;
  readonly view: LevelChannelView;
  /**
   * The record at instants, above the station's zero: as it was logged, and with its corrections. What is known of the
   * clock is taken out of its stamps, whether the record was corrected by it or not; ± s is what is left of it. Null where
   * it says nothing.
   */
  at(instants: readonly number[]): Promise<readonly (Logged | null)[]>;
}
interface Logged {
  readonly logged: RecordAt;
  readonly corrected: RecordAt;
  readonly clockDoubt: number;
  /** Where the values before and after are drawn, ms: what a correction's span is chosen in. */
  readonly drawn: readonly [number, number];
}

/** A longer gap between two values is not bridged: so many storage intervals. Our own choice, as of a trace. */
const mostIntervals = 2.5;
/** What is taken for the interval of a channel that nobody set, s. */
const usualStorage = 3600;

/** Every channel of water level at a station. */
export async function levelChannels(
  db: Database,
  graph: StationGraph,
  file: Pick<WaterFile, 'points' | 'elevations'>,
  now: number,
): Promise<LevelChannel[]> {
  const stationId = graph.station.id;
  const nodes = graph.channels.filter((c) => c.row.quantity === 'waterLevel');
  const [newest, contacts] = await Promise.all([
    newestReadings(
      db,
      nodes.map((c) => c.row.key),
    ),
    query<ClockContact>(
      db,
      `select extract(epoch from logger_time)::float8 * 1000 as stamp, difference, uncertainty, clock_run as run
         from clock_compared where station_id = :stationId order by clock_run, logger_time`,
      { stationId },
    ),
  ]);
  const channels = await Promise.all(
    nodes.map(async (node): Promise<LevelChannel> => {
      const layers = await activeLayers(db, stationId, node.row.id);
      const corrections = correctionsOf(layers);
      const known = node.row.source === 'logger' ? contacts : [];
      const laid = driftsOf(layers);
      const drifts = known.length > 0 ? knownDrift(known) : laid;
      const zeroAt = zeroOf(file, node.row.id);
      const above = (instant: number, value: number) => value + (zeroAt(instant) ?? 0);
      const last = newest.get(node.row.key) ?? null;
      const longest = 1000 * mostIntervals * (node.written?.settings.storageInterval ?? usualStorage);
      return {
        node,
        view: {
          id: node.row.id,
          name: node.name,
          zero: zeroAt(now),
          newest: last && { at: new Date(last.at).toISOString(), value: above(last.at, last.value) },
          far: farOff(node),
        },
        async at(instants) {
          const stamps = instants.map((i) => loggedStamp(drifts, i));
          const found = await beside(db, graph, node, stamps);
          return instants.map((instant, i): Logged | null => {
            const { before, after } = found[i]!;
            if (!before || !after) return null;
            const at = ({ stamp, run }: Beside, value: number) =>
              [driftedStamp(drifts, stamp, run), above(instant, value)] as const;
            const by = (b: Beside) => at(b, correctedBy(correctionAt(corrections, b.stamp), b.value));
            const logged = recordAt(at(before, before.value), at(after, after.value), instant, longest);
            const corrected = recordAt(by(before), by(after), instant, longest);
            const drawn = (b: Beside) => driftedStamp(laid, b.stamp, b.run);
            return (
              logged &&
              corrected && {
                logged,
                corrected,
                clockDoubt: stampDoubt(known, before.stamp),
                drawn: [drawn(before), drawn(after)],
              }
            );
          });
        },
      };
    }),
  );
  return channels;
}

/** Largest difference that needs no second look, m: ten times what sensor and gauge may be off. Our own choice. */
const farOff = (node: ChannelNode): number => Math.max(0.15, 10 * toleranceOf(node));

interface Beside {
  readonly stamp: number;
  readonly run: number;
  readonly value: number;
}

/** The logged values before and after each of some stamps, in their order. */
async function beside(
  db: Database,
  { station }: StationGraph,
  { row: { key } }: ChannelNode,
  stamps: readonly number[],
): Promise<readonly { readonly before: Beside | null; readonly after: Beside | null }[]> {
  if (stamps.length === 0) return [];
  const one = (isBefore: boolean) =>
    `left join lateral (
       select at, clock_run, value from reading
        where station_key = :s and channel_key = :c and at ${isBefore ? '<=' : '>='} i.at and ${shown(':s')}
        order by at ${isBefore ? 'desc' : 'asc'}, clock_run limit 1) ${isBefore ? 'b' : 'a'} on true`;
  const found = await query<Record<'b' | 'a' | 'bRun' | 'aRun' | 'bValue' | 'aValue', number | null>>(
    db,
    `select extract(epoch from b.at)::float8 * 1000 as b, b.clock_run as "bRun", b.value as "bValue",
            extract(epoch from a.at)::float8 * 1000 as a, a.clock_run as "aRun", a.value as "aValue"
       from unnest(array[:stamps]::timestamptz[]) with ordinality i(at, n) ${one(true)} ${one(false)} order by i.n`,
    { s: station.key, c: key, stamps: stamps.map((ms) => new Date(ms)) },
  );
  return found.map((f) => ({
    before: f.b === null ? null : { stamp: f.b, run: f.bRun!, value: f.bValue! },
    after: f.a === null ? null : { stamp: f.a, run: f.aRun!, value: f.aValue! },
  }));
}

/** What a time is known to, s: written to the minute, or to the second. */
const timeAccuracy = (at: number): number => (at % 60_000 === 0 ? 30 : 1);

/**
 * Readings beside the record of their channels, by their ids; one of which the record says nothing is not among them.
 *
 * @param readings with their sums
 * @param file what else is on file of the station's levels
 */
export async function againstRecord(
  readings: readonly { readonly reading: LevelReading; readonly sum: LevelSum }[],
  file: WaterFile,
  channels: readonly LevelChannel[],
): Promise<Map<string, AgainstRecordView>> {
  const found = new Map<string, AgainstRecordView>();
  for (const channel of channels) {
    const its = readings.flatMap(({ reading, sum }) =>
      sum.stoodAt !== null && channelFor(file, channels, reading.pointId) === channel
        ? [{ reading, sum, at: sum.stoodAt }]
        : [],
    );
    const logged = await channel.at(its.map((r) => r.at));
    for (const [i, { reading, sum }] of its.entries()) {
      const record = logged[i];
      if (record)
        found.set(reading.id, against(reading, sum, channel.node, record, lowestBed(file, reading.at)));
    }
  }
  return found;
}

/** The channel that a reading stands beside: that of its point, else the first of water level. */
export const channelFor = (
  { points }: Pick<WaterFile, 'points'>,
  channels: readonly LevelChannel[],
  pointId: string | null,
): LevelChannel | null => {
  const own = points.find((p) => p.id === pointId)?.channelId;
  return channels.find((c) => c.view.id === own) ?? channels[0] ?? null;
};

function against(
  reading: LevelReading,
  { level, accuracy }: LevelSum,
  node: ChannelNode,
  { logged, corrected, clockDoubt, drawn }: Logged,
  zeroFlow: number | null,
): AgainstRecordView {
  const q = quantityOf('waterLevel');
  const comparison =
    level === null
      ? null
      : compareWithRecord({
          level,
          accuracy,
          timeAccuracy: timeAccuracy(reading.at) + clockDoubt,
          record: corrected,
          sensorTolerance: toleranceOf(node, corrected.value),
          sensorResolution: node.output?.resolution ?? 10 ** -q.decimals,
          zeroFlow,
          guard: q.guard,
          school: 'sum',
        });
  return {
    channelId: node.row.id,
    value: corrected.value,
    logged: logged.value,
    between: drawn,
    comparison: comparison && {
      difference: comparison.difference,
      sum: comparison.sum,
      limit: comparison.limit,
      verdict: comparison.verdict,
      parts: comparison.budget.sum.parts,
    },
  };
}
