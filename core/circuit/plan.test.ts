import { shippedProfile } from '@/catalogue/profiles';
import { withOhms, type Circuit } from './circuit';
import type { MeterRange } from './meter';
import { circuitOfPath, type CircuitLead } from './path';
import { planMeasurement, type PlannedCircuit } from './plan';

/** A plain handheld meter; its accuracy is common practice, no source. */
const dial = (ofReading: number): MeterRange[] =>
  (
    [
      [200, 0.1, 1],
      [2000, 1, 1e3],
      [20e3, 10, 1e3],
      [200e3, 100, 1e3],
      [2e6, 1000, 1e6],
    ] as const
  ).map(([upTo, count, unit]) => ({ does: 'ohms', upTo, count, ofReading, counts: 3, unit }));

/** A sensor of the catalogue, its leads off, at a value and at both ends of its range. */
function liftedOf(code: string, value: number, onlyEnds: boolean): PlannedCircuit {
  const profile = shippedProfile(code)!;
  const output = profile.outputs[0]!;
  const leads = profile.leads.map((l, i): CircuitLead => ({ ...l, ohms: 1.2, terminal: `${i + 1}` }));
  const at = (v: number): Circuit => {
    const circuit = circuitOfPath(profile, output, leads, v);
    const off = new Map(circuit.elements.filter((e) => e.kind === 'link').map((e) => [e.id, Infinity]));
    const lifted = withOhms(circuit, off);
    return onlyEnds ? { ...lifted, points: lifted.points.filter((p) => p.at === 'lead end') } : lifted;
  };
  return { now: at(value), ends: [at(output.range[0]), at(output.range[1])] };
}
const names = (plan: ReturnType<typeof planMeasurement>) =>
  plan.pairs.map((p) => `${p.from.name} – ${p.to.name}${p.proves ? ' (proves)' : ''}`);

test('a three-wire PRT from its lead ends: element with leads, and the loop of its pair; the third way round proves', () => {
  const plan = planMeasurement(liftedOf('noust-p3', 20, true), dial(0.008));
  expect(plan.pairs).toHaveLength(3);
  expect(plan.pairs.filter((p) => p.proves)).toHaveLength(1);
  // Three pairs over three points: one clip moves each time.
  expect(plan.moves).toBe(2);
  const loop = plan.pairs.find((p) => p.expected < 10)!;
  expect([loop.from.colour, loop.to.colour].sort()).toEqual(['white', 'white/red']);
  expect(loop.range!.upTo).toBe(200);
  // From here the leads of the pair only show together, and the third one not beside the element.
  expect(plan.together).toEqual([['lead white', 'lead white/red']]);
  expect(plan.unseen).toEqual(['lead red']);
});

test('at the sensor, too, all of it is told apart', () => {
  const plan = planMeasurement(liftedOf('noust-p3', 20, false), dial(0.008));
  expect(plan.together).toEqual([]);
  // Element and three leads, and one that proves them.
  expect(plan.pairs).toHaveLength(5);
  expect(names(plan).filter((n) => n.includes('proves'))).toHaveLength(1);
});

test('a thermistor on two wires: one pair tells it, its leads are nothing beside it', () => {
  const plan = planMeasurement(liftedOf('brough-n1', 20, true), dial(0.008));
  expect(plan.pairs).toHaveLength(1);
  expect(plan.together).toEqual([]);
  expect(plan.unseen).toEqual(['lead brown', 'lead orange']);
  const [pair] = plan.pairs;
  expect(pair!.span[0]).toBeLessThan(pair!.expected);
  expect(pair!.span[1]).toBeGreaterThan(pair!.expected);
  // 32.7 kΩ at 0 °C and more below: the range that shows all of it.
  expect(pair!.range!.upTo).toBe(200e3);
  expect(pair!.limit).toBeCloseTo(0.008 * pair!.expected + 300, 6);
});

test('a full bridge: four arms by four pairs, each arm with the others in parallel, and one that proves', () => {
  const plan = planMeasurement(liftedOf('ness-b1', 5, true), dial(0.008));
  expect(plan.pairs).toHaveLength(5);
  expect(plan.together).toEqual([]);
  expect(plan.pairs.filter((p) => p.proves)).toHaveLength(1);
  const arm = plan.pairs.find((p) => p.from.colour === 'red' && p.to.colour === 'green')!;
  expect(arm.parts.length).toBeGreaterThan(4);
});

test('a closed link that hides an element is named, since lifting it tells more', () => {
  const parallel: Circuit = {
    elements: [
      { id: 'R1', kind: 'fixed', from: 'a', to: 'b', ohms: 1000, tolerance: 0, hop: 'element' },
      { id: 'R2', kind: 'fixed', from: 'c', to: 'b', ohms: 3000, tolerance: 0, hop: 'element' },
      { id: 'strap', kind: 'link', from: 'a', to: 'c', ohms: 0, tolerance: 0, hop: 'input' },
    ],
    points: ['a', 'b', 'c'].map((node) => ({ node, name: node, colour: null, at: 'terminal' })),
    reads: null,
  };
  const plan = planMeasurement({ now: parallel, ends: [parallel, parallel] }, dial(0.008));
  expect(plan.together).toEqual([['R1', 'R2']]);
  expect(plan.lift).toEqual(['strap']);
});

test('without a range for it a pair is still planned, and says so', () => {
  const plan = planMeasurement(liftedOf('brough-n1', 20, true), dial(0.008).slice(0, 2));
  expect(plan.pairs[0]!.range).toBeNull();
  expect(plan.pairs[0]!.limit).toBeNaN();
});
