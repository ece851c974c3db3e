import { stationDoubt } from '@/core/discharge/stationDischarge';
import type { Database } from '@/db/database';
import type { DerivationRow } from '@/db/rows';
import { channelOf, toleranceOf, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { waterFile, zeroOf } from '../water/load';
import { curveOf, dischargeFile, sectionOf } from './load';

/** What the discharges of a channel are good to. */
export interface DischargeDoubtBy {
  /** The channel of the level that they rest on. */
  readonly level: ChannelNode;
  /** Expanded (k = 2), m³/s; null where nothing says so. Instant in ms, level as it was logged, m. */
  of(at: number, level: number, discharge: number): number | null;
}

/** By section, k, level and velocity. Null for a channel of anything else, and for a rating by level alone. */
export async function dischargeDoubtBy(
  db: Database,
  graph: StationGraph,
  derivation: DerivationRow | null,
): Promise<DischargeDoubtBy | null> {
  if (derivation?.formula !== 'surfaceVelocity') return null;
  const { sections, curves } = await dischargeFile(db, graph.station.id);
  const { level, velocity } = derivation.inputs;
  const levelChannel = channelOf(graph, level!);
  const zeroAt = zeroOf(await waterFile(db, graph.station.id), level!);
  const doubt = stationDoubt(
    sections.map((s) => ({ ...sectionOf(s), uncertainty: s.uncertainty })),
    curves.map((c) => ({ ...curveOf(c), uncertainty: c.uncertainty })),
    { level: toleranceOf(levelChannel), velocity: toleranceOf(channelOf(graph, velocity!)) },
  );
  return {
    level: levelChannel,
    of(at, h, discharge) {
      const found = doubt(at, h + (zeroAt(at) ?? 0), discharge);
      return Number.isFinite(found) ? found : null;
    },
  };
}
