import { curveThrough } from '../core/discharge/curve';
import { dischargeDoubt, dischargesOf } from '../core/discharge/discharge';
import { sectionTable, wettedAt, type SectionPoint } from '../core/discharge/section';
import type { QuantityCode } from '../core/quantity/quantity';
import { row, type Database } from '../db/database';
import type { Context } from '../server/context';
import { addSection, setCurve } from '../server/discharge/enter';
import { newId } from '../server/id';
import { addDerived } from '../server/record/addDerived';
import { mendDerived } from '../server/record/mendDerived';
import { RecordStore, storeTarget } from '../server/record/store';
import { traces } from '../server/record/trace';
import { loadStation } from '../server/station/stationGraph';
import { newCurve, newSection } from '../test/discharge';
import { uniform } from '../test/simulate';
import { middle, ms, printTable } from './table';
import type { BenchWorld } from './world';

/** A rough bed of so many points between two banks. */
function roughSection(count: number): SectionPoint[] {
  const random = uniform(14);
  return Array.from({ length: count }, (_, i): SectionPoint => {
    const x = (2 * i) / (count - 1) - 1;
    return { across: 10 * (x + 1), elevation: 4 * x * x + (i % (count - 1) === 0 ? 1 : 0.1 * random()) };
  });
}

/** Ten years of five minutes, reckoned anew after the curve was led; the visible window; a frame of a drag. */
export async function benchDischarge(): Promise<void> {
  const years = 1_051_200;
  const levels = Float64Array.from({ length: years }, (_, i) => 2 + 1.2 * Math.cos(i / 149));
  const velocities = Float64Array.from({ length: years }, (_, i) => 0.1 + 0.9 * Math.cos(i / 149 + 0.3));
  const points = roughSection(1000);
  const table = sectionTable(points);
  const curves = (shift: number) => ({
    forward: curveThrough(
      [0.5, 1.2, 2, 2.8, 3.6].map((level) => ({ level, k: 0.82 + 0.01 * level + shift })),
    ),
    reverse: null,
  });
  const all = await middle(5, () => dischargesOf(table, curves(0.01), levels, velocities));
  const copied = await middle(5, () => levels.map((h, i) => h * velocities[i]!));
  const doubt = { section: 0.015, k: 0.04, level: 0.006, velocity: 0, velocityLeast: 0.01 };
  const [shownLevels, shownVelocities] = [levels.subarray(0, 4000), velocities.subarray(0, 4000)];
  const frame = (shift: number) => {
    const led = curves(shift);
    dischargesOf(table, led, shownLevels, shownVelocities);
    for (let i = 0; i < shownLevels.length; i++)
      dischargeDoubt(table, led, shownLevels[i]!, shownVelocities[i]!, doubt);
  };
  const drawn = await middle(50, () => frame(Math.random() / 100));
  const made = await middle(10, () => sectionTable(points));
  const plain = await middle(5, () => shownLevels.forEach((h) => wettedAt(points, h)));
  printTable('Discharge', [
    {
      what: 'ten years of 5 min (1.05 million) by another curve',
      value: ms(all),
      against: `${ms(copied)} to multiply two numbers`,
      ratio: (all / copied).toFixed(1),
      aim: '< 3 s',
    },
    {
      what: 'the visible window (4 000 moments) with its band: a frame of a drag',
      value: ms(drawn),
      against: `${ms(plain)} for the areas alone, point by point`,
      ratio: (drawn / plain).toFixed(3),
      aim: '< 20 ms',
    },
    { what: 'a section of 1 000 points made a table', value: ms(made), aim: 'once' },
  ]);
}

const begin = Date.UTC(2016, 0, 1);
const fiveMinutes = 300_000;
const stored = 1_051_200;

/** Ten years of five minutes, stored: reckoned anew as a whole after the curve was led, and the first picture meanwhile. */
export async function benchStoredDischarge({ db, ctx, stationId }: BenchWorld): Promise<void> {
  const level = await filled(db, ctx, stationId, 'waterLevel', (i) => 2 + 1.2 * Math.cos(i / 149));
  const velocity = await filled(db, ctx, stationId, 'velocity', (i) => 0.1 + 0.9 * Math.cos(i / 149 + 0.3));
  const holdsFrom = new Date(begin - 86_400_000).toISOString();
  await addSection(ctx, stationId, newSection({ points: roughSection(1000), holdsFrom }));
  const first = newCurve({ holdsFrom });
  await setCurve(ctx, stationId, first);
  const channelId = newId();
  await addDerived(ctx, stationId, {
    channelId,
    formula: 'surfaceVelocity',
    zoneName: 'Discharge',
    inputs: { level, velocity },
    parameters: {},
  });
  await setCurve(ctx, stationId, {
    ...newCurve({ holdsFrom }),
    basedOn: first.curveId,
    forward: [{ level: 1, k: 0.85 }],
    note: 'led',
  });
  let at = performance.now();
  await mendDerived(db, stationId);
  const all = performance.now() - at;
  const window = { from: begin, until: begin + stored * fiveMinutes, pixels: 1200 };
  const drawn = await middle(5, () => traces(db, [{ stationId, channelId }], window));
  at = performance.now();
  await filled(db, ctx, stationId, 'waterTemperature', (i) => 8 + Math.cos(i / 149));
  const plain = performance.now() - at;
  printTable('Discharge, stored', [
    {
      what: 'ten years of 5 min cleared, reckoned, stored, rolled up and tested anew',
      value: ms(all),
      against: `${ms(plain)} to store and roll up as many new values`,
      ratio: (all / plain).toFixed(2),
      aim: '< 3 s',
    },
    { what: 'ten years of it drawn, 1 200 px', value: ms(drawn), aim: '< 150 ms' },
  ]);
}

/** A channel with ten years of a value by its number. */
async function filled(
  db: Database,
  ctx: Context,
  stationId: string,
  quantity: QuantityCode,
  value: (i: number) => number,
): Promise<string> {
  const id = newId();
  await db.channel.create({
    stationId,
    id,
    loggerId: null,
    number: null,
    quantity,
    zoneName: 'Ten years',
    checkEveryDays: 180,
    source: 'file',
  });
  const { key } = (await row(db.channel, { where: { stationId, id } }))!;
  const { station } = await loadStation(db, stationId);
  await db.transact(async (tx) => {
    const store = new RecordStore(ctx, tx, { stationId, stationKey: station.key, source: 0 });
    const target = storeTarget(db, station.key, { id, key, quantity }, 300, true);
    for (let i = 0; i < stored; i++) {
      await store.put(target, begin + i * fiveMinutes, 0, value(i), 0);
      if (i % 20_000 === 0) await store.flush();
    }
    await store.settle();
    await store.rollUp();
  });
  return id;
}
