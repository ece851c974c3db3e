import type { WaterView } from '@/contract/water';
import type { LevelBeside } from '@/core/water/levelFault';
import { stoodAt, type LevelReading } from '@/core/water/levelReading';
import { lowestBed } from '@/core/water/measuringPoint';

/** The record is asked about readings of just now, and crests that it knows: what is older the server looks up. */
const recent = 45 * 60_000;
/** Within three quarters of an hour a tide goes a good way, m. Our own choice. */
const tide = 0.8;

/** What a device knows of the record beside a reading, before it is kept. */
export function besideNow(
  view: Pick<WaterView, 'points' | 'elevations' | 'channels' | 'crests'>,
  reading: LevelReading,
): LevelBeside {
  const point = view.points.find((p) => p.id === reading.pointId);
  const channel = view.channels.find((c) => c.id === point?.channelId) ?? view.channels[0] ?? null;
  const bed = lowestBed(view, reading.at);
  const stood = stoodAt(reading);
  const crest = point && view.crests[point.id]?.find((c) => c.at === stood);
  if (channel && crest) return { logged: crest.level, far: channel.far, bed };
  const newest = channel?.newest ?? null;
  const isFresh = newest !== null && stood !== null && Math.abs(Date.parse(newest.at) - stood) < recent;
  return { logged: isFresh ? newest.value : null, far: channel ? Math.max(channel.far, tide) : 1, bed };
}
