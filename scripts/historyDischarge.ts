import type { Vertical } from '@/core/discharge/gauging';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import { wettedAt, type SectionPoint } from '@/core/discharge/section';
import { roundTo } from '@/core/quantity/format';
import { rows } from '@/db/database';
import { addGauging, addSection, setCurve } from '@/server/discharge/enter';
import { newId } from '@/server/id';
import { addDerived } from '@/server/record/addDerived';
import type { Play } from './historyPlay';

const day = 86_400_000;
const hour = 3_600_000;

/** The sluice: a wall on the left, a sill, a bank of stones on the right. */
const section: readonly SectionPoint[] = [
  [0, 5],
  [0, 0.2],
  [1.2, -0.1],
  [2.6, -0.35],
  [4.4, -0.3],
  [5.8, 0.05],
  [6.6, 0.9],
  [7.4, 1.8],
  [9, 3.4],
  [10.5, 4.8],
].map(([across, elevation]) => ({ across: across!, elevation: elevation! }));

/** What the rule says that it begins with. */
const firstK = (level: number): number => 0.815 + 0.013 * level;
/** What mean ÷ surface velocity is there truly: each gauging alone cannot tell. */
const trueK = (level: number): number => 0.955 * firstK(level);

interface Gauged {
  readonly daysAgo: number;
  readonly hour: number;
  readonly how: GaugingSheet['kind'];
  /** What the gauging itself was off, share. */
  readonly off: number;
}
const gaugings: readonly Gauged[] = [
  { daysAgo: 61, hour: 11, how: 'verticals', off: -0.006 },
  { daysAgo: 44, hour: 9, how: 'stated', off: 0.005 },
  { daysAgo: 30, hour: 14, how: 'rate', off: -0.006 },
  { daysAgo: 12, hour: 10, how: 'stated', off: 0.004 },
];

/** Section, first curve, gaugings and the channel of the discharge of the sluice. */
export async function playDischarge(
  play: Play,
  stationId: string,
  at: (quantity: 'waterLevel' | 'velocity', ms: number) => number,
): Promise<void> {
  const { now, people } = play;
  const midnight = now - (now % day);
  const begin = midnight - 79 * day;
  const inputs = async (quantity: string) =>
    (await rows(play.db.channel, { where: { stationId, quantity } }))[0]!.id;
  await addSection(play.at(begin), stationId, {
    sectionId: newId(),
    points: [...section],
    uncertainty: 0.03,
    holdsFrom: new Date(begin).toISOString(),
    note: 'Levelled at low water, stones counted in.',
  });
  await setCurve(play.at(begin, people.reviewer), stationId, {
    curveId: newId(),
    basedOn: null,
    forward: [0.2, 1.1, 2, 2.9, 3.8].map((level) => ({ level, k: roundTo(firstK(level), 3) })),
    reverse: null,
    uncertainty: 0.08,
    holdsFrom: new Date(begin).toISOString(),
    note: 'logarithmic velocity distribution, kₛ = 0.12 m',
    lookedAgain: false,
  });
  for (const g of gaugings) {
    const ms = runningAt(midnight - g.daysAgo * day + g.hour * hour, (t) => at('velocity', t));
    const [level, velocity] = [at('waterLevel', ms), at('velocity', ms)];
    const discharge = trueK(level) * velocity * wettedAt(section, level).area * (1 + g.off);
    await addGauging(play.at(ms + hour), stationId, {
      gaugingId: newId(),
      sheet: sheetFor(g.how, level, discharge),
      begunAt: new Date(ms - hour / 6).toISOString(),
      endedAt: new Date(ms + hour / 6).toISOString(),
      meanwhile: null,
      velocityUncertainty: 0.03,
      note: '',
    });
  }
  await addDerived(play.at(now - 10 * day, people.reviewer), stationId, {
    channelId: newId(),
    formula: 'surfaceVelocity',
    zoneName: 'Channel',
    inputs: { level: await inputs('waterLevel'), velocity: await inputs('velocity') },
    parameters: {},
  });
}

/** Nobody gauges slack water: the next time from an instant on when it runs down well. */
function runningAt(from: number, velocityAt: (ms: number) => number): number {
  for (let ms = from; ms < from + 26 * hour; ms += hour / 6) if (velocityAt(ms) > 0.55) return ms;
  return from;
}

function sheetFor(how: GaugingSheet['kind'], level: number, discharge: number): GaugingSheet {
  if (how === 'stated')
    return { kind: 'stated', discharge: roundTo(discharge, 3), U: 0.04, by: 'acoustic profiler' };
  // 100 000 mg/L fed at a rate that lifts 2 mg/L to about 12.
  if (how === 'rate') {
    const rate = roundTo((1000 * discharge * 10) / 99_988, 3);
    return { kind: 'rate', rate, fed: 100_000, plateau: 12, background: 2, U: 0.04 };
  }
  return { kind: 'verticals', method: 'mid', verticals: verticalsFor(level, discharge) };
}

/** Verticals half a metre apart, their velocities such that they come to a discharge. */
function verticalsFor(level: number, discharge: number): Vertical[] {
  const wet = section.filter((p) => p.elevation < level);
  const [left, right] = [wet[0]!.across, wet.at(-1)!.across + 0.6];
  const spans = 16;
  const depthAt = (x: number) => {
    const i = section.findIndex((p) => p.across >= x);
    const [a, b] = [section[i - 1] ?? section[0]!, section[i]!];
    const share = b.across === a.across ? 1 : (x - a.across) / (b.across - a.across);
    return Math.max(0.05, level - (a.elevation + share * (b.elevation - a.elevation)));
  };
  const plain = Array.from({ length: spans + 1 }, (_, i): Vertical => {
    const across = roundTo(left + ((right - left) * i) / spans, 2);
    const isEdge = i === 0 || i === spans;
    const depth = isEdge ? 0 : roundTo(depthAt(across), 2);
    return { across, depth, velocity: isEdge ? 0 : depth ** (1 / 3), depths: 2 };
  });
  const sum = plain.reduce((s, v, i) => {
    const [before, after] = [plain[i - 1] ?? v, plain[i + 1] ?? v];
    return s + ((after.across - before.across) / 2) * v.depth * v.velocity;
  }, 0);
  return plain.map((v) => ({ ...v, velocity: roundTo((v.velocity * discharge) / sum, 3) }));
}
