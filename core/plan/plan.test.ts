import { shipped, shippedProfile } from '@/catalogue/profiles';
import { catalogue, device, on, planOf } from '@/test/plan';
import { checkPlan } from './check';
import { planContext } from './context';
import { findingKey } from './finding';
import { emptyPlan, placeText, planDifferences, plannedDevice, refusePlan } from './newPlan';
import { pickList } from './pickList';
import type { Plan, PlannedDevice } from './plan';
import { busyTime, readTime } from './scanTime';
import { dayEnergy, supplies } from './supply';

const b4 = 'brannoch-b4';
const reach = (plan: Plan) => {
  const c = planContext(plan, catalogue);
  const all = supplies(c);
  return c.devices.map((d) => all.get(d) ?? null);
};
const th = (id: string, change: Partial<PlannedDevice> = {}) =>
  device(
    'quern-th3',
    { brown: '1 V+', white: '2 V−', green: '3 D+', yellow: '4 D−' },
    { id, name: id, ...change },
  );

describe('what reaches a sensor', () => {
  test('on a shared run the currents of all on it flow: by hand', () => {
    // Run 50 m of 20 Ω/km: 2 Ω out and back, 2 × 12 mA through it; own 10 m of 84.2: 1.684 Ω, 12 mA.
    const cable = { metres: 10, ohmsPerKm: 84.2, run: 'R1' };
    const [a] = reach(
      planOf(b4, [th('a', { cable }), th('b', { cable })], {
        runs: [{ name: 'R1', metres: 50, ohmsPerKm: 20 }],
      }),
    );
    expect(a!.drop).toBeCloseTo(0.024 * 2 + 0.012 * 1.684, 9);
    expect(a!.sum).toBe('12 − 24 mA × 2 Ω − 12 mA × 1.68 Ω = 11.93 V');
  });
  test('along a chain every piece carries what comes after it: by hand', () => {
    // Three of 4 mA, 10 m of 50 Ω/km between: 1 Ω each; 12 + 8 + 4 mV to the last.
    const chain = ['a', 'b', 'c'].map((id) =>
      device(
        'hask-a1',
        { plum: 'L1+', grey: 'L1−', lime: 'L1D' },
        { id, name: id, cable: { metres: 10, ohmsPerKm: 50, run: null } },
      ),
    );
    const drops = reach(planOf('hask-h1', chain)).map((r) => Number((r!.drop * 1000).toFixed(6)));
    expect(drops).toEqual([12, 20, 24]);
  });
  test('through a splice; what nothing feeds has no sum', () => {
    const plan = (terminal: string | null) =>
      planOf(b4, [device('kelda-x1', { red: '=S1', black: 'AG1', yellow: 'A1' })], {
        splices: [{ name: 'S1', terminal }],
      });
    expect(reach(plan('SW'))[0]!.from).toBe(12);
    expect(reach(plan(null))).toEqual([null]);
  });
  test('a day at rest is 24 h of sleep', () =>
    expect(
      dayEnergy({ volts: 12, sleeps: 0.002, works: 5, always: 0, switched: 0, every: 600, busy: 0 }),
    ).toBeCloseTo(0.576, 9));
});

test('time on the line: by hand', () => {
  // 19 200 8E1: a character of 11 bits is 0.573 ms. 8 + 5 + 4 characters, two silences of 2.005 ms, 30 ms: 43.7 ms.
  const c = planContext(planOf(b4, [th('a', { busId: 1 })]), catalogue);
  expect(readTime(c.devices[0]!, c)).toBeCloseTo(0.04375, 4);
  expect(busyTime(c)).toBeCloseTo(2 + 0.04375 + 0.5, 3);
});

describe('what makes a plan unreadable', () => {
  const two = planOf(b4, [th('a'), th('b')]);
  test.each<[string, Plan, string]>([
    ['one id twice', planOf(b4, [th('a'), th('a')]), 'devices'],
    ['one serial number twice', planOf(b4, [th('a', { serial: 'X' }), th('b', { serial: 'X' })]), 'devices'],
    [
      'a splice twice',
      {
        ...two,
        splices: [
          { name: 'S', terminal: null },
          { name: 'S', terminal: 'A1' },
        ],
      },
      'splices',
    ],
    [
      'a run twice',
      {
        ...two,
        runs: [
          { name: 'R', metres: 1, ohmsPerKm: 1 },
          { name: 'R', metres: 2, ohmsPerKm: 1 },
        ],
      },
      'runs',
    ],
    ['a lead that is not there', planOf(b4, [th('a', { landings: on({ purple: 'A1' }) })]), 'landings'],
    ['an output that is not there', planOf(b4, [th('a', { mapped: ['wind'] })]), 'mapped'],
  ])('%s', (_name, plan, field) => expect(refusePlan(plan, catalogue)).toMatchObject({ field }));
  test('nothing else', () => {
    expect(refusePlan(two, catalogue)).toBeNull();
    // Of a model nobody knows nothing can be said; the plan check names it.
    expect(
      refusePlan(planOf(b4, [th('a', { profile: { code: 'gone', revision: 1 } })]), catalogue),
    ).toBeNull();
  });
});

test('two plans in words: what one has and the other has not, lead by lead', () => {
  const mine = planOf(b4, [th('a'), th('b', { height: 1 })]);
  const theirs = planOf(b4, [th('a', { landings: on({ brown: 'SW' }) }), th('c')], { storeEvery: 300 });
  expect(planDifferences(mine, theirs)).toEqual([
    'a, brown lead: yours 1 V+, theirs SW',
    'a, white lead: yours 2 V−, theirs nowhere',
    'a, green lead: yours 3 D+, theirs nowhere',
    'a, yellow lead: yours 4 D−, theirs nowhere',
    'they have c, you do not',
    'you have b, they do not',
    'supply, intervals, ports, runs or splices differ',
  ]);
  expect(planDifferences(mine, mine)).toEqual([]);
  expect(placeText({ at: 'host', device: 'x', screw: 'F1' })).toBe('screw F1');
});

test('an empty plan has the serial lines of its logger; a new device nothing landed', () => {
  const logger = shipped('logger', 'brannoch-b8')!;
  const plan = emptyPlan(logger, 24, new Map());
  expect(plan.ports.map((p) => p.name)).toEqual(['RS-485 port 1', 'RS-485 port 2']);
  expect(checkPlan(plan, catalogue)).toEqual([]);
  const made = plannedDevice('x', shippedProfile('noust-s3')!, 'Bed');
  expect([made.mapped.length, made.line, Object.keys(made.landings)]).toEqual([3, null, []]);
  expect(plannedDevice('y', shipped('board', 'tyst-r1')!, 'Fan').mapped).toEqual([]);
});

test('accepted findings go last with their reason; what forbids work is never accepted', () => {
  const plan = planOf('tyst-c3', [
    device('tyst-m1', { red: '3V3', black: 'GND1', white: 'D1' }, { id: 'm' }),
    device('geo-l1', { red: '3V3', black: 'GND1', yellow: 'D3', blue: 'D4' }, { id: 'l' }),
  ]);
  const found = checkPlan(plan, catalogue);
  expect(found[0]!.severity).toBe('stops');
  const accepted = found.map((f) => ({ key: findingKey(f.rule, f), reason: 'seen', by: 'IK' }));
  const again = checkPlan({ ...plan, accepted }, catalogue);
  expect(again.filter((f) => !f.accepted).map((f) => f.rule)).toEqual(['mains-logic']);
  expect(again.at(-1)!.accepted).toEqual({ reason: 'seen', by: 'IK' });
});

test('for the bag: sensors, accessories, cable with a tenth to spare, labels for both ends', () => {
  const plan = planOf(
    b4,
    [th('a', { serial: 'TH3-9' }), th('b'), th('c', { accessories: [{ code: 'link-t120', revision: 1 }] })],
    {
      runs: [{ name: 'R1', metres: 20, ohmsPerKm: 20 }],
    },
  );
  expect(pickList(planContext(plan, catalogue)).map((p) => `${p.count} ${p.unit} ${p.what}`)).toEqual([
    '1 pieces Quern TH-3 air transmitter TH3-9',
    '2 pieces Quern TH-3 air transmitter',
    '1 pieces Terminator 120 Ω',
    '6 pieces cable label',
    '33 m of cable, 5 leads, 84.2 Ω/km',
    '22 m of cable for run R1, 20 Ω/km',
  ]);
});
