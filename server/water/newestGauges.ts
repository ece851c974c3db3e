import type { RecordFacts } from '@/core/trust/stationFacts';
import { levelSum } from '@/core/water/levelSum';
import { visitHours } from '@/core/visit/openMatter';
import { query, type Database } from '@/db/database';
import type { StationGraph } from '../station/stationGraph';
import { againstRecord, levelChannels } from './against';
import { readingOf, revisionOf, waterFile } from './load';

const visit = visitHours * 3_600_000;

/**
 * What the gauges of the last visit say of each channel of level: of those that stand beside its record, the one that is
 * furthest out by its limit.
 */
export async function newestGauges(
  db: Database,
  graph: StationGraph,
): Promise<Map<string, NonNullable<RecordFacts['gauge']>>> {
  const found = new Map<string, NonNullable<RecordFacts['gauge']>>();
  if (!graph.channels.some((c) => c.row.quantity === 'waterLevel')) return found;
  const stationId = graph.station.id;
  const [any] = await query(
    db,
    'select 1 as x from level_reading where station_id = :stationId and taken_back_at is null limit 1',
    { stationId },
  );
  if (!any) return found;
  const file = await waterFile(db, stationId);
  const channels = await levelChannels(db, graph, file, Infinity);
  const record = { readings: file.readings.map(readingOf), revisions: file.revisions.map(revisionOf) };
  const last = record.readings[0]!.at;
  // A crest is of long ago: what it says of the record is not of now.
  const ofVisit = record.readings
    .filter((r) => last - r.at <= visit && r.read.kind !== 'crest')
    .map((reading) => ({ reading, sum: levelSum(reading, record) }));
  const beside = await againstRecord(ofVisit, file, channels);
  for (const { reading } of ofVisit) {
    const its = beside.get(reading.id);
    const comparison = its?.comparison;
    if (!its || !comparison) continue;
    const out = Math.abs(comparison.difference) / comparison.limit;
    const before = found.get(its.channelId);
    if (before && Math.abs(before.difference) / before.limit >= out) continue;
    found.set(its.channelId, {
      at: reading.at,
      difference: comparison.difference,
      limit: comparison.limit,
      name: file.points.find((p) => p.id === reading.pointId)?.code ?? 'a level by hand',
    });
  }
  return found;
}
