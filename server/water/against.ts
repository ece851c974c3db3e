import type { AgainstRecordView, LevelChannelView } from '@/contract/water';
import { compareWithRecord, recordAt, type RecordAt } from '@/core/water/againstRecord';
import { knownDrift, stampDoubt, type ClockContact } from '@/core/clock/knownDrift';
import type { LevelReading } from '@/core/water/levelReading';
import type { LevelSum } from '@/core/water/levelSum';
import { quantityOf } from '@/core/quantity/quantity';
import { correctedBy, correctionAt, driftedStamp, loggedStamp } from '@/core/series/correction';
import { query, type Database } from '@/db/database';
import { newestReadings, shown } from '@/db/record';
import { loadStation, toleranceOf, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { activeLayers, correctionsOf, driftsOf } from '../verify/layers';
import { zeroOf, type WaterFile } from './load';

/** A channel of water level with what its record is read by. */
export interface LevelChannel {
  readonly node: ChannelNode;
  readonly view: LevelChannelView;
  /**
   * The record at an instant, above the station's zero: as it was logged, and with its corrections. What is known of the
   * clock is taken out of its stamps, whether the record was corrected by it or not; ± s is what is left of it.
   */
  at(instant: number): Promise<{ logged: RecordAt; corrected: RecordAt; clockDoubt: number } | null>;
}

/** A longer gap between two values is not bridged: so many storage intervals. Our own choice, as of a trace. */
const mostIntervals = 2.5;
/** What is taken for the interval of a channel that nobody set, s. */
const usualStorage = 3600;

/** Every channel of water level at a station. */
export async function levelChannels(
  db: Database,
  stationId: string,
  file: Pick<WaterFile, 'points' | 'elevations'>,
  now: number,
): Promise<{ graph: StationGraph; channels: LevelChannel[] }> {
  const graph = await loadStation(db, stationId);
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
      const drifts = known.length > 0 ? knownDrift(known) : driftsOf(layers);
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
        async at(instant) {
          const found = await beside(db, graph, node, loggedStamp(drifts, instant));
          const at = ({ stamp, run }: Beside, value: number) =>
            [driftedStamp(drifts, stamp, run), above(instant, value)] as const;
          const [before, after] = found;
          if (!before || !after) return null;
          const by = (b: Beside) => at(b, correctedBy(correctionAt(corrections, b.stamp), b.value));
          const logged = recordAt(at(before, before.value), at(after, after.value), instant, longest);
          const corrected = recordAt(by(before), by(after), instant, longest);
          return logged && corrected && { logged, corrected, clockDoubt: stampDoubt(known, before.stamp) };
        },
      };
    }),
  );
  return { graph, channels };
}

/** Largest difference that needs no second look, m: ten times what sensor and gauge may be off. Our own choice. */
const farOff = (node: ChannelNode): number => Math.max(0.15, 10 * toleranceOf(node));

interface Beside {
  readonly stamp: number;
  readonly run: number;
  readonly value: number;
}

/** The logged values before and after a stamp. */
async function beside(
  db: Database,
  { station }: StationGraph,
  { row: { key } }: ChannelNode,
  stamp: number,
): Promise<[Beside | null, Beside | null]> {
  const of = (before: boolean) =>
    query<{ stamp: number; run: number; value: number }>(
      db,
      `select extract(epoch from at)::float8 * 1000 as stamp, clock_run as run, value from reading
        where station_key = :s and channel_key = :c and at ${before ? '<=' : '>='} :at and ${shown(':s')}
        order by at ${before ? 'desc' : 'asc'}, clock_run limit 1`,
      { s: station.key, c: key, at: new Date(stamp) },
    );
  const [[before], [after]] = await Promise.all([of(true), of(false)]);
  return [before ?? null, after ?? null];
}

/** What a time is known to, s: written to the minute, or to the second. */
const timeAccuracy = (at: number): number => (at % 60_000 === 0 ? 30 : 1);

/** A reading beside the record of its channel; null where that says nothing of its time. */
export async function againstRecord(
  reading: LevelReading,
  sum: LevelSum,
  channel: LevelChannel,
  zeroFlow: number | null,
): Promise<AgainstRecordView | null> {
  const at = sum.stoodAt;
  const found = at === null ? null : await channel.at(at);
  if (!found) return null;
  const { node } = channel;
  const q = quantityOf('waterLevel');
  const comparison =
    sum.level === null
      ? null
      : compareWithRecord({
          level: sum.level,
          accuracy: sum.accuracy,
          timeAccuracy: timeAccuracy(reading.at) + found.clockDoubt,
          record: found.corrected,
          sensorTolerance: toleranceOf(node, found.corrected.value),
          sensorResolution: node.output?.resolution ?? 10 ** -q.decimals,
          zeroFlow,
          guard: q.guard,
          school: 'sum',
        });
  return {
    channelId: node.row.id,
    value: found.corrected.value,
    logged: found.logged.value,
    comparison: comparison && {
      difference: comparison.difference,
      sum: comparison.sum,
      limit: comparison.limit,
      verdict: comparison.verdict,
      parts: comparison.budget.sum.parts,
    },
  };
}
