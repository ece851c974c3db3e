import { curveThrough } from '../core/discharge/curve';
import { dischargeDoubt, dischargesOf } from '../core/discharge/discharge';
import { sectionTable, wettedAt, type SectionPoint } from '../core/discharge/section';
import { uniform } from '../test/simulate';
import { middle, ms, printTable } from './table';

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
