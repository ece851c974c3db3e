import { shippedProfile } from '@/catalogue/profiles';
import { refuseCircuit, networkOfCircuit, type Circuit } from './circuit';
import { dividedBetween, resistanceBetween } from './network';
import { circuitOfPath, isMeasured, type CircuitLead } from './path';
import { nodes } from './pathKinds';
import { leadsOff } from './rig';

/** A sensor of the catalogue with leads of so many Ω each, on terminals 1, 2, … in their order. */
function installed(code: string, ohms = 1): { at: (value: number) => Circuit; leads: CircuitLead[] } {
  const profile = shippedProfile(code)!;
  const leads = profile.leads.map((l, i): CircuitLead => ({ ...l, ohms, terminal: `${i + 1}` }));
  return { leads, at: (value) => circuitOfPath(profile, profile.outputs[0]!, leads, value) };
}
/** V per V of excitation that the input sees. */
function ratioOf(circuit: Circuit): number {
  const { reads } = circuit;
  if (reads?.kind !== 'ratio') throw new Error('it reads no ratio');
  const [plus, minus] = reads.taps;
  return dividedBetween(networkOfCircuit(circuit), reads.drive, [plus!.node, minus!.node]);
}
const across = (circuit: Circuit, a: string, b: string) =>
  resistanceBetween(networkOfCircuit(circuit), nodes.end(a), nodes.end(b));

test('a Pt100 on three wires: the element with two leads, and the loop of its pair', () => {
  // IEC 60751: 109.73 Ω at 25 °C.
  const circuit = leadsOff(installed('noust-p3', 2).at(25));
  expect(across(circuit, 'red', 'white')).toBeCloseTo(109.73 + 4, 1);
  expect(across(circuit, 'red', 'white/red')).toBeCloseTo(109.73 + 4, 1);
  expect(across(circuit, 'white', 'white/red')).toBeCloseTo(4, 12);
});

test('a Pt100 on four wires shows each of its pairs', () => {
  const circuit = leadsOff(installed('noust-p4', 1.5).at(0));
  expect(across(circuit, 'red', 'red/black')).toBeCloseTo(3, 12);
  expect(across(circuit, 'white', 'white/black')).toBeCloseTo(3, 12);
  expect(across(circuit, 'red', 'white')).toBeCloseTo(103, 9);
});

test('half bridges put out the ratio their conversion takes, wherever the fixed resistor sits', () => {
  for (const code of ['skua-b1', 'noust-t1']) {
    const { at } = installed(code, 1e-6);
    for (const [value, ohms] of [
      [25, 10_000],
      [10, null],
    ] as const) {
      const circuit = at(value);
      const sensing = circuit.elements.find((e) => e.kind === 'sensing')!;
      if (ohms !== null) expect(sensing.ohms).toBeCloseTo(ohms, 6);
      const fixed = circuit.elements.find((e) => e.kind === 'fixed')!;
      const ratio = ratioOf(circuit);
      const lower = code === 'skua-b1' ? sensing : fixed;
      expect(ratio).toBeCloseTo(lower.ohms / (sensing.ohms + fixed.ohms), 8);
    }
  }
  // In the logger the fixed one is no part of what the lead ends show.
  expect(
    installed('noust-t1')
      .at(25)
      .elements.find((e) => e.kind === 'fixed')!.hop,
  ).toBe('input');
  expect(across(leadsOff(installed('noust-t1').at(25)), 'copper', 'ivory')).toBeCloseTo(10_002, 9);
});

test('a full bridge of 350 Ω puts out its mV/V; across an arm it shows about three quarters', () => {
  const { at } = installed('ness-b1', 1e-9);
  const full = at(20);
  expect(ratioOf(full)).toBeCloseTo(0.02, 9);
  expect(across(leadsOff(at(0)), 'red', 'green')).toBeCloseTo(262.5, 6);
  expect(across(leadsOff(at(0)), 'red', 'black')).toBeCloseTo(350, 6);
  expect(across(leadsOff(at(0)), 'green', 'white')).toBeCloseTo(350, 6);
});

test('a wind vane: the wiper divides its track', () => {
  const { at } = installed('skua-d2', 1e-9);
  const south = at(90);
  expect(ratioOf(south)).toBeCloseTo(0.25, 9);
  expect(across(leadsOff(south), 'white', 'black')).toBeCloseTo(2500, 3);
  expect(across(leadsOff(south), 'red', 'black')).toBeCloseTo(10_000, 3);
});

test('every sensor of the catalogue that a meter judges makes a sound circuit with its leads off', () => {
  for (const [code, value] of [
    ['noust-p2', 20],
    ['noust-p3', 20],
    ['noust-p4', 20],
    ['brough-n1', 20],
    ['skua-b1', 20],
    ['noust-t1', 20],
    ['ness-b1', 10],
    ['skua-d2', 180],
    ['ness-p4', 2],
    ['ness-u1', 2],
  ] as const) {
    const off = leadsOff(installed(code).at(value));
    // A supply is not measured: it stands there as open.
    const circuit = { ...off, elements: off.elements.filter((e) => e.id !== 'supply') };
    expect([code, refuseCircuit(circuit)]).toEqual([code, []]);
    // A shield is no part of what is measured.
    expect(circuit.points.some((p) => p.colour === 'bare')).toBe(false);
  }
  for (const code of ['quern-th3', 'skua-c1', 'kelda-x1'])
    expect(isMeasured(shippedProfile(code)!)).toBe(false);
  expect(isMeasured(shippedProfile('ayre-r2')!)).toBe(true);
  const serial = shippedProfile('quern-th3')!;
  expect(() => circuitOfPath(serial, serial.outputs[0]!, [], 20)).toThrow('is nothing a meter judges');
  const bare = shippedProfile('brough-n1')!;
  expect(() => circuitOfPath(bare, bare.outputs[0]!, [], 20)).toThrow('no lead for signal+');
});
