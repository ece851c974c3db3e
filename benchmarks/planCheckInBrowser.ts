import { profiles } from '@/catalogue/profiles';
import { checkPlan } from '@/core/plan/check';
import { profilesByPin } from '@/core/plan/context';
import { plannedDevice } from '@/core/plan/newPlan';
import type { LoggerProfile } from '@/core/device/loggerProfile';
import type { SensorProfile } from '@/core/device/profile';
import type { LeadPlace, Plan } from '@/core/plan/plan';

/** Runs in the browser: 200 sensors on 20 ports, checked in one pass, beside copying the same plan as JSON. */
const sensor = (code: string) => profiles.find((p): p is SensorProfile => p.code === code)!;
const b8 = profiles.find((p): p is LoggerProfile => p.code === 'brannoch-b8')!;
const line = b8.ports[0]!;
const logger: LoggerProfile = {
  ...b8,
  code: 'bench',
  ports: Array.from({ length: 20 }, (_, i) => ({
    ...line,
    name: `RS-485 port ${i + 1}`,
    terminals: line.terminals.map((t) => ({ ...t, label: `${i + 1} ${t.label.split(' ')[1]}` })),
  })),
};
const model = sensor('quern-th3');
const places = (i: number): Record<string, LeadPlace> =>
  Object.fromEntries(
    Object.entries({ brown: 'V+', white: 'V−', green: 'D+', yellow: 'D−', bare: 'SH' }).map(([c, t]) => [
      c,
      { at: 'terminal', terminal: `${(i % 20) + 1} ${t}` },
    ]),
  );
const plan: Plan = {
  logger: { code: 'bench', revision: 1 },
  supply: { volts: 24, most: 10, batteryAh: 100, solarWh: 400, daysWanted: 5 },
  measureEvery: 60,
  storeEvery: 600,
  visitEvery: 60,
  ports: logger.ports.map((p) => ({
    name: p.name,
    line: model.connection.kind === 'modbus-rtu' ? model.connection.serial : null,
    terminators: 0,
  })),
  runs: [],
  splices: [],
  devices: Array.from({ length: 200 }, (_, i) => ({
    ...plannedDevice(`d${i}`, model, `Place ${i}`),
    busId: Math.floor(i / 20) + 1,
    landings: places(i),
    height: 1 + (i % 3),
  })),
  accepted: [],
};
const known = profilesByPin([...profiles, logger]);

const timed = (act: () => unknown): number[] =>
  Array.from({ length: 60 }, () => {
    const began = performance.now();
    act();
    return performance.now() - began;
  }).slice(10);

Object.assign(globalThis, {
  runBench: () => ({
    check: timed(() => checkPlan(plan, known)),
    copy: timed(() => JSON.parse(JSON.stringify(plan)) as unknown),
    findings: checkPlan(plan, known).length,
  }),
});
