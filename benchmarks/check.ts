import { plainCheckPlan } from '../test/plainCheckPlan';
import { sharesOfChecks, someCheck } from '../test/checks';
import { normal, uniform } from '../test/simulate';
import { evaluateCheck, type Judged } from '../core/check/evaluate';
import type { CheckPlan } from '../core/check/plan';
import type { CheckReading } from '../core/check/reading';
import { middle, ms, printTable } from './table';

/** Checks as they lie on file: side by side, humidity in one air, pH in two buffers; three readings each, or three a point. */
function storedChecks(count: number): Judged[] {
  const draw = normal(uniform(7));
  const humid: CheckPlan = {
    ...plainCheckPlan,
    procedure: 'one-air',
    quantity: 'humidity',
    unit: '%RH',
    pools: true,
    sensorTolerance: 2,
    referenceTolerance: 1,
    companions: ['sensorTemperature', 'referenceTemperature'].map((key) => ({
      key,
      channel: null,
      tolerance: 0.3,
      range: [-60, 80],
      certificate: null,
    })),
  };
  const buffered: CheckPlan = {
    ...plainCheckPlan,
    procedure: 'ph-buffers',
    quantity: 'ph',
    unit: 'pH',
    pools: true,
    repeats: 1,
    sensorTolerance: 0.1,
    referenceTolerance: 0.02,
    companions: [{ key: 'temperature', channel: null, tolerance: 0.3, range: [-10, 60], certificate: null }],
    points: [6.88, 4.0].map((value, i) => ({
      key: `p${i + 1}`,
      name: `pH ${value}`,
      values: [15, 20, 25].map((temperature) => ({ temperature, value: value - 0.003 * (temperature - 20) })),
      tolerance: 0.02,
      sensorTolerance: 0.1,
      standardId: null,
    })),
  };
  const reading = (
    i: number,
    point: string | null,
    read: Readonly<Record<string, number>>,
  ): CheckReading => ({
    id: `r${i}`,
    phase: 'as-found',
    round: 0,
    point,
    at: 200 * i,
    settling: { state: 'said', window: 60 },
    reference: null,
    isCleaned: false,
    isExcluded: false,
    observations: Object.entries(read).map(([role, value]) => ({
      id: `${i} ${role}`,
      role,
      value,
      at: 200 * i,
      since: null,
      isExcluded: false,
    })),
  });
  const kinds: (() => Judged)[] = [
    () => ({
      plan: { ...plainCheckPlan, pools: true },
      earlier: { s: 0.05, dof: 8 },
      readings: [0, 1, 2].map((i) => reading(i, null, { sensor: 16 + 0.1 * draw(), reference: 16 })),
    }),
    () => ({
      plan: humid,
      earlier: { s: 0.4, dof: 8 },
      readings: [0, 1, 2].map((i) =>
        reading(i, null, {
          sensor: 55 + draw(),
          reference: 55,
          sensorTemperature: 20 + 0.1 * draw(),
          referenceTemperature: 20,
        }),
      ),
    }),
    () => ({
      plan: buffered,
      earlier: null,
      readings: ['p1', 'p2', 'p1'].map((point, i) =>
        reading(i, point, { sensor: (point === 'p1' ? 6.88 : 4) + 0.02 * draw(), temperature: 19 + i }),
      ),
    }),
  ];
  return Array.from({ length: count }, (_, i) => kinds[i % kinds.length]!());
}

/** Every check on file judged again, and the simulation behind docs/judgement.md. */
export async function benchCheck(): Promise<void> {
  const all = storedChecks(50_000);
  let decided = 0;
  const again = await middle(5, () => {
    decided = 0;
    for (const check of all) if (evaluateCheck(check, []).verdict?.kind !== 'not-settled') decided++;
  });
  // A yardstick that does nothing but read the same numbers once.
  const copied = await middle(5, () => JSON.stringify(all).length);
  const simulated = await middle(3, () => {
    const random = uniform(11);
    sharesOfChecks(random, someCheck(random, 'gum', 0.25), 1, 10_000 / 3);
  });
  printTable('Checks', [
    {
      what: `50 000 stored checks judged again (${decided} decide)`,
      value: ms(again),
      against: `${ms(copied)} to write them as JSON`,
      ratio: (again / copied).toFixed(1),
      aim: '< 1 s',
    },
    { what: 'a simulation of 10 000 checks', value: ms(simulated), aim: '< 5 s' },
  ]);
}
