import type { LoggerPort, LoggerProfile, Terminal } from '../device/loggerProfile';
import { shipped } from '@/catalogue/profiles';
import { catalogue, catalogueWith, device, planOf } from '@/test/plan';
import { checkPlan } from './check';
import { planContext, type Profiles } from './context';
import { homeOf } from './fit';
import type { LeadPlace, Plan, PlannedDevice } from './plan';
import { propose } from './propose';

/** What a place is about; all else a plan may have wrong with it is no matter of terminals. */
const aboutPlaces = new Set([
  'lead-unfit',
  'lead-open',
  'terminal-shared',
  'inputs-taken',
  'terminal-missing',
  'host-needed',
  'host-full',
  'signal-over-range',
  'logic-over-range',
  'current-without-shunt',
  'excitation-missing',
  'excitation-high',
  'input-differential',
  'supply-low',
  'supply-high',
  'supply-current',
  'bus-id',
  'sdi12-address',
  'i2c-address',
  'rs485-unit-loads',
  'chain-system',
  'chain-strand',
  'chain-unit',
  'chain-length',
  'pulse-input',
]);
const faults = (plan: Plan, profiles: Profiles) =>
  checkPlan(plan, profiles).filter((f) => aboutPlaces.has(f.rule));

/** Every way to land every lead: is one without a fault? */
function bruteForce(plan: Plan, profiles: Profiles): boolean {
  const c = planContext(plan, profiles);
  const leads = c.devices.flatMap((d) =>
    d.leads
      .filter((l) => l.signal !== 'spare' && l.signal !== 'shield' && !l.terminal)
      .map((l) => ({
        id: d.plan.id,
        colour: l.colour,
        able: [...c.terminals.values()]
          .filter((t) => homeOf(t.terminal, d.kind!, l.signal))
          .map((t) => t.terminal.label),
      })),
  );
  const at = new Map<string, Record<string, LeadPlace>>();
  const go = (i: number): boolean => {
    if (i === leads.length)
      return (
        faults(
          {
            ...plan,
            devices: plan.devices.map((d) => ({ ...d, landings: { ...d.landings, ...at.get(d.id) } })),
          },
          profiles,
        ).length === 0
      );
    const lead = leads[i]!;
    return lead.able.some((label) => {
      at.set(lead.id, { ...at.get(lead.id), [lead.colour]: { at: 'terminal', terminal: label } });
      return go(i + 1);
    });
  };
  return go(0);
}

/** A small logger: a few terminals drawn from the catalogue's own. */
function smallLogger(random: () => number): LoggerProfile {
  const b4 = shipped('logger', 'brannoch-b4')!;
  const all = b4.ports.flatMap((p) => p.terminals);
  const find = (label: string): Terminal => all.find((t) => t.label === label)!;
  const inputs = ['A1', 'A2', 'A3', 'A4'].filter(() => random() < 0.7);
  const alone = (t: Terminal): Terminal => ({
    ...t,
    abilities: t.abilities.map((a) =>
      a.does === 'analog' && a.pair !== null && !inputs.includes(a.pair) ? { ...a, pair: null } : a,
    ),
  });
  const weak: Terminal = {
    label: 'SW',
    abilities: [{ does: 'supply', volts: null, most: random() < 0.5 ? 0.03 : 0.012, switched: true }],
  };
  const port: LoggerPort = {
    name: 'Terminals',
    bus: null,
    socket: null,
    terminals: [
      ...inputs.map((l) => alone(find(l))),
      find('AG1'),
      weak,
      ...(random() < 0.7 ? [find('VX1')] : []),
      ...(random() < 0.7 ? [find('P1')] : []),
    ],
  };
  return { ...b4, code: 'small', revision: 1, ports: [port] };
}

/** Small and fast, seeded: mulberry32. */
function seeded(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const models = ['kelda-x1', 'skua-i1', 'noust-t1', 'ayre-r2', 'skua-c1', 'ness-p4', 'noust-p2', 'skua-d2'];

test('finds a place whenever there is one: 250 small plans against every way to land every lead', () => {
  const seen = { plan: 0, conflict: 0 };
  for (let seed = 1; seed <= 250; seed++) {
    const random = seeded(seed);
    const profiles = catalogueWith(smallLogger(random));
    const n = 1 + Math.floor(random() * 3);
    const devices: PlannedDevice[] = Array.from({ length: n }, (_, i) => ({
      ...device(models[Math.floor(random() * models.length)]!),
      id: `d${i}`,
      name: `Place ${i}`,
    }));
    const plan = planOf('small', devices);
    const found = propose(plan, profiles);
    expect([seed, found.kind === 'plan']).toEqual([seed, bruteForce(plan, profiles)]);
    if (found.kind === 'plan') {
      seen.plan++;
      expect([seed, faults(found.plan, profiles)]).toEqual([seed, []]);
      continue;
    }
    seen.conflict++;
    if (found.kind !== 'conflict') throw new Error('gave up on a small plan');
    // None smaller: without any one of them it can be done, and no set of fewer is impossible.
    const of = (ids: readonly string[]) => ({
      ...plan,
      devices: plan.devices.filter((d) => ids.includes(d.id)),
    });
    expect([seed, bruteForce(of(found.devices), profiles)]).toEqual([seed, false]);
    for (const left of found.devices)
      expect([seed, bruteForce(of(found.devices.filter((d) => d !== left)), profiles)]).toEqual([seed, true]);
  }
  expect(seen.plan).toBeGreaterThan(60);
  expect(seen.conflict).toBeGreaterThan(60);
});

test('what lies already stays as it is', () => {
  const plan = planOf('brannoch-b4', [
    device('kelda-x1', { yellow: 'A5' }, { id: 'a' }),
    device('kelda-x1', {}, { id: 'b' }),
  ]);
  const found = propose(plan, catalogue);
  if (found.kind !== 'plan') throw new Error(found.kind);
  expect(found.plan.devices[0]!.landings).toMatchObject({ yellow: { terminal: 'A5' } });
  expect(found.plan.devices[1]!.landings.yellow).not.toEqual({ at: 'terminal', terminal: 'A5' });
  expect(found.landed).toEqual(['a', 'b']);
});

test('IDs and addresses are given, each its own', () => {
  const plan = planOf('brannoch-b4', [
    device('quern-th3', {}, { id: 'a', busId: 1 }),
    device('quern-th3', {}, { id: 'b' }),
    device('noust-s3', {}, { id: 'c' }),
    device('noust-s3', {}, { id: 'd' }),
  ]);
  const found = propose(plan, catalogue);
  if (found.kind !== 'plan') throw new Error(found.kind);
  expect(found.plan.devices.map((d) => d.busId ?? d.busAddress)).toEqual([1, 2, '0', '1']);
  expect(faults(found.plan, catalogue)).toEqual([]);
});

test('a wetness grid goes through the spare leads of the rain gauge; a second one has no host', () => {
  const profiles = catalogue;
  const one = planOf('brannoch-b4', [device('ayre-r2'), device('ayre-w1')]);
  const found = propose(one, profiles);
  if (found.kind !== 'plan') throw new Error(found.kind);
  expect(found.plan.devices[1]!.landings.tan).toEqual({
    at: 'host',
    device: 'ayre-r2',
    screw: expect.any(String),
  });
  expect(faults(found.plan, profiles)).toEqual([]);
  const two = propose(
    planOf('brannoch-b4', [...one.devices, device('ayre-w1', {}, { id: 'second' })]),
    profiles,
  );
  expect(two).toMatchObject({ kind: 'conflict', devices: ['ayre-w1', 'second'], smallest: true });
});

test('too many for the inputs: the smallest set, and who holds them', () => {
  const held = ['A1', 'A2', 'A3', 'A4', 'A5'].map((a) =>
    device('kelda-x1', { red: 'SW', black: 'AG1', yellow: a }, { id: a }),
  );
  const found = propose(
    planOf('brannoch-b4', [
      ...held,
      device('kelda-x1', {}, { id: 'x' }),
      device('kelda-x1', {}, { id: 'y' }),
    ]),
    catalogue,
  );
  expect(found).toMatchObject({
    kind: 'conflict',
    devices: ['x', 'y'],
    heldBy: ['A1', 'A2', 'A3', 'A4', 'A5'],
  });
});

test('a large plan in one go', () => {
  const devices = [
    ...Array.from({ length: 12 }, (_, i) => device('quern-th3', {}, { id: `m${i}` })),
    ...Array.from({ length: 8 }, (_, i) =>
      device('noust-s3', {}, { id: `s${i}`, profile: { code: 'noust-s3', revision: 1 } }),
    ),
    ...Array.from({ length: 4 }, (_, i) => device('noust-t1', {}, { id: `t${i}` })),
    ...Array.from({ length: 4 }, (_, i) => device('skua-i1', {}, { id: `i${i}` })),
    ...Array.from({ length: 4 }, (_, i) => device('ayre-r2', {}, { id: `r${i}` })),
  ];
  const found = propose(planOf('brannoch-b8', devices), catalogue);
  if (found.kind !== 'plan') throw new Error(found.kind);
  expect(faults(found.plan, catalogue)).toEqual([]);
});
