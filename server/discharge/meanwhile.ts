import { mean } from '@/core/check/uncertainty';
import { traces } from '../record/trace';
import { loadStation } from '../station/stationGraph';
import type { Context } from '../context';
import { badField } from '../problem';
import { waterFile, zeroOf } from '../water/load';
import { inputsOf } from './view';

/** Beyond the ends of a gauging so much of the record is looked at, ms. */
const around = 30 * 60_000;

/**
 * What the station measured while somebody gauged: mean level and, where it is measured, velocity, and how far the level
 * went. Refused where the record says nothing of that time.
 */
export async function meanwhileOf(
  ctx: Context,
  stationId: string,
  begunAt: Date,
  endedAt: Date,
): Promise<{ level: number; levelChange: number; velocity: number | null }> {
  const { db } = ctx;
  const { level, velocity } = inputsOf((await loadStation(db, stationId)).channels);
  const nothing = () =>
    badField(
      'no-record',
      'meanwhile',
      null,
      'The record says nothing of level or velocity while it was gauged.',
      'Collect it first, or enter level and velocity yourself.',
    );
  if (!level) throw nothing();
  const [from, until] = [begunAt.getTime(), endedAt.getTime()];
  const { series } = await traces(
    db,
    [level, ...(velocity ? [velocity] : [])].map((c) => ({ stationId, channelId: c.row.id })),
    { from: from - around, until: until + around, pixels: 4000 },
  );
  const values = series.map((s) =>
    s.points.flatMap((p) => (p.mean === null ? [] : [[p.t, p.corrected ?? p.mean] as const])),
  );
  const within = values.map((v) => v.filter(([t]) => t >= from && t <= until).map(([, x]) => x));
  const at = (v: readonly (readonly [number, number])[], t: number): number => {
    const after = v.findIndex(([x]) => x >= t);
    if (after < 0) throw nothing();
    const [t1, v1] = v[after]!;
    const [t0, v0] = v[after - 1] ?? [t1, v1];
    return t1 === t0 ? v1 : v0 + ((t - t0) / (t1 - t0)) * (v1 - v0);
  };
  if (values.some((v) => v.length === 0)) throw nothing();
  const ends = values.map((v) => [at(v, from), at(v, until)] as const);
  const means = within.map((w, i) => mean([...w, ...ends[i]!]));
  const zero = zeroOf(await waterFile(db, stationId), level.row.id)(from) ?? 0;
  return {
    level: means[0]! + zero,
    levelChange: ends[0]![1] - ends[0]![0],
    velocity: means[1] ?? null,
  };
}
