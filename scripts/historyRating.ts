import { reckonSheet, type GaugingSheet } from '@/core/discharge/gaugingSheet';
import { fitRating } from '@/core/discharge/rating';
import { roundTo } from '@/core/quantity/format';
import { rows } from '@/db/database';
import { addGauging } from '@/server/discharge/enter';
import { dischargeFile } from '@/server/discharge/load';
import { setRating } from '@/server/discharge/rate';
import { newId } from '@/server/id';
import { addDerived } from '@/server/record/addDerived';
import type { Play } from './historyPlay';

const day = 86_400_000;
const minute = 60_000;

/** What the drain of the bog carries truly, m³/s, by its level. */
const carries = (level: number): number => 0.9 * Math.max(0.001, level - 0.35) ** 1.9;
/** What each gauging was off, share. */
const off = [0.03, -0.02, 0.01, -0.035, 0.02, -0.01, 0.025];
/** So many days back somebody may have come at noon. */
const [earliest, latest] = [78, 12];

/** A drain without a tide: gaugings at levels from low to high, a rating by level, and its channel. */
export async function playRating(
  play: Play,
  stationId: string,
  levelAt: (ms: number) => number,
): Promise<void> {
  const { now, people } = play;
  const noon = now - (now % day) + 12 * 60 * minute;
  const days = Array.from({ length: earliest - latest }, (_, i) => noon - (latest + i) * day);
  const byLevel = [...days].sort((a, b) => levelAt(a) - levelAt(b));
  const chosen = off
    .map((_, i) => byLevel[Math.round((i * (byLevel.length - 1)) / (off.length - 1))]!)
    .sort((a, b) => a - b);
  for (const [i, ms] of chosen.entries()) {
    const discharge = carries(levelAt(ms)) * (1 + off[i]!);
    await addGauging(play.at(ms + 60 * minute), stationId, {
      gaugingId: newId(),
      sheet: slugFor(discharge),
      begunAt: new Date(ms - 10 * minute).toISOString(),
      endedAt: new Date(ms + 10 * minute).toISOString(),
      meanwhile: null,
      velocityUncertainty: 0,
      note: '',
    });
  }
  const { gaugings } = await dischargeFile(play.db, stationId);
  const { segments } = fitRating(
    gaugings.map((g) => ({ level: g.level, discharge: reckonSheet(g.sheet).discharge })),
    null,
    [],
  );
  await setRating(play.at(now - 10 * day, people.reviewer), stationId, {
    ratingId: newId(),
    basedOn: null,
    segments: segments.map((s) => ({
      from: null,
      a: roundTo(s.a, 6),
      b: roundTo(s.b, 6),
      zero: roundTo(s.zero, 4),
    })),
    shift: 0,
    holdsFrom: new Date(noon - (earliest + 1) * day).toISOString(),
    note: 'power law through seven slugs of salt',
  });
  const level = (await rows(play.db.channel, { where: { stationId, quantity: 'waterLevel' } }))[0]!;
  await addDerived(play.at(now - 10 * day, people.reviewer), stationId, {
    channelId: newId(),
    formula: 'levelRating',
    zoneName: 'Drain',
    inputs: { level: level.id },
    parameters: {},
  });
}

/** 500 g of salt as it passed: a rise and a long tail over 30 g/m³ that were there before. */
function slugFor(discharge: number): GaugingSheet {
  const [mass, background] = [500, 30];
  const times = Array.from({ length: 31 }, (_, i) => i * 20);
  const shape = times.map((t) => (t === 0 || t === 600 ? 0 : (t / 90) ** 3 * Math.exp(-t / 60)));
  const area = shape.slice(1).reduce((s, v, i) => s + 10 * (v + shape[i]!), 0);
  return {
    kind: 'slug',
    mass,
    background,
    U: 0.05,
    passage: times.map((at, i) => ({
      at,
      concentration: roundTo(background + (shape[i]! * mass) / discharge / area, 3),
    })),
  };
}
