import type { DischargeView } from '@/contract/discharge';
import { row, rows, type Database } from '@/db/database';
import type { Context } from '../context';
import { isBehind } from '../record/reckonAnew';
import { traces } from '../record/trace';
import { stationHead } from '../station/stationBasics';
import { loadStation, toleranceOf, type ChannelNode } from '../station/stationGraph';
import { waterFile, zeroOf } from '../water/load';
import { curveOf, dischargeFile, ratingOf, sectionOf } from './load';

/** So much of the record is drawn, ms, and in so many steps. */
const drawn = 14 * 86_400_000;
const steps = 2000;

/** Everything that a station's discharge rests on, and what was recorded of late. */
export async function dischargeView(
  { db, now }: Pick<Context, 'db' | 'now'>,
  stationId: string,
): Promise<DischargeView> {
  const [head, graph, file, people, derivation, rated] = await Promise.all([
    stationHead(db, stationId),
    loadStation(db, stationId),
    dischargeFile(db, stationId),
    rows(db.person, {}),
    row(db.derivation, { where: { stationId, formula: 'surfaceVelocity' }, order: [['setAt', 'DESC']] }),
    row(db.derivation, { where: { stationId, formula: 'levelRating' }, order: [['setAt', 'DESC']] }),
  ]);
  const initials = new Map(people.map((p) => [p.id, p.initials]));
  const entered = ({ note, personId }: { note: string; personId: string }) => ({
    note,
    by: initials.get(personId) ?? '',
  });
  const { level, velocity } = inputsOf(graph.channels);
  const named = (c: ChannelNode | null) => c && { id: c.row.id, name: c.name, tolerance: toleranceOf(c) };
  return {
    ...head,
    sections: file.sections.map((s) => ({ ...sectionOf(s), ...entered(s), uncertainty: s.uncertainty })),
    curves: file.curves.map((c) => ({
      ...curveOf(c),
      ...entered(c),
      number: c.number,
      uncertainty: c.uncertainty,
      gaugings: c.gaugings,
    })),
    ratings: file.ratings.map((r) => ({
      ...ratingOf(r),
      ...entered(r),
      number: r.number,
      gaugings: r.gaugings,
    })),
    gaugings: file.gaugings.map((g) => ({
      ...entered(g),
      id: g.id,
      begunAt: g.begunAt.toISOString(),
      endedAt: g.endedAt.toISOString(),
      sheet: g.sheet,
      level: g.level,
      levelChange: g.levelChange,
      velocity: g.velocity,
      velocityUncertainty: g.velocityUncertainty,
    })),
    level: named(level),
    velocity: named(velocity),
    dischargeId: derivation?.channelId ?? null,
    ratedId: rated?.channelId ?? null,
    isBehind: await isBehind(
      db,
      stationId,
      [derivation, rated].flatMap((d) => d?.channelId ?? []),
    ),
    record: level
      ? await pairs(db, stationId, level.row.id, velocity?.row.id ?? null, now().getTime())
      : { at: [], level: [], velocity: [] },
  };
}

/** The channels that a discharge is reckoned from: the first level, and the velocity of the same sensor, or the first. */
export function inputsOf(channels: readonly ChannelNode[]): {
  level: ChannelNode | null;
  velocity: ChannelNode | null;
} {
  const velocity = channels.find((c) => c.row.quantity === 'velocity') ?? null;
  const levels = channels.filter((c) => c.row.quantity === 'waterLevel');
  const logged = levels.filter((c) => c.row.source !== 'manual');
  const beside = logged.find((c) => c.installation !== null && c.installation === velocity?.installation);
  return { level: beside ?? logged[0] ?? levels[0] ?? null, velocity };
}

/** Level and, where it is measured, velocity of the same moments, corrected. */
async function pairs(
  db: Database,
  stationId: string,
  levelId: string,
  velocityId: string | null,
  until: number,
): Promise<DischargeView['record']> {
  const window = { from: until - drawn, until: until + 1000, pixels: steps };
  const { series } = await traces(
    db,
    [levelId, ...(velocityId === null ? [] : [velocityId])].map((channelId) => ({ stationId, channelId })),
    window,
  );
  const [levels, velocities] = series.map(
    (s) =>
      new Map(
        s.points.flatMap((p) => (p.mean === null ? [] : [[Math.round(p.t), p.corrected ?? p.mean] as const])),
      ),
  );
  const zeroAt = zeroOf(await waterFile(db, stationId), levelId);
  const at = [...levels!.keys()].filter((t) => !velocities || velocities.has(t)).sort((a, b) => a - b);
  return {
    at,
    level: at.map((t) => levels!.get(t)! + (zeroAt(t) ?? 0)),
    velocity: velocities ? at.map((t) => velocities.get(t)!) : [],
  };
}
