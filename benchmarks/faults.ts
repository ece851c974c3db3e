import { sweep, sweptSensors, type SweepCounts } from '../test/faultSweep';
import { printTable } from './table';

const share = (of: number, all: number): string => (all === 0 ? '–' : `${((100 * of) / all).toFixed(1)} %`);

/** So many draws of every fault; the table in docs/fault-finding.md is made with these. */
const each = 10;

/** Hidden faults of every kind in every kind of circuit, found by the plan's own measurements. */
export function benchFaults(): void {
  for (const [where, atSensor, reference] of [
    ['from the cabinet, without a reference', false, false],
    ['from the cabinet, with a reference', false, true],
    ['at the sensor, too, with a reference', true, true],
  ] as const) {
    const all: (readonly [string, SweepCounts])[] = sweptSensors.map(([name, code]) => [
      name,
      sweep(code, { each, seed: 2026, atSensor, reference }),
    ]);
    const sum = Object.fromEntries(
      Object.keys(all[0]![1]).map((k) => [k, all.reduce((s, [, c]) => s + c[k as keyof SweepCounts], 0)]),
    ) as unknown as SweepCounts;
    printTable(
      `Hidden faults, ${where}: ${each} of each`,
      [...all, ['all', sum] as const].map(([what, c]) => ({
        what,
        value: `${c.cases} large: first ${share(c.first, c.cases)}, among two ${share(c.second, c.cases)}`,
        against: `${c.sound} sound: accused ${share(c.accused, c.sound)}; ${c.small} small: first ${share(c.smallFirst, c.small)}`,
        ratio: `sure ${c.sure}, wrong ${share(c.sureWrong, c.sure)}`,
        aim: '≥ 90 %, ≥ 98 %, < 5 %, ≤ 5 %',
      })),
    );
  }
}
