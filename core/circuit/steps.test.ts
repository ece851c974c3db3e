import { plainMeter, rigOf, sweptSensors } from '@/test/faultSweep';
import type { MeterRange } from './meter';
import { plainInput } from './pathInput';
import { rigOfPath } from './rig';
import { loggerUncertainty, planBench } from './steps';

const plan = (code: string, value: number, sensor = false) =>
  planBench(rigOf(code), value, plainMeter, { sensor });

test('a 100 kΩ thermistor through 250 kΩ with a 2.5 % meter is known to about ± 2 °C, directly to about ± 0.5', () => {
  // Common practice, no source; beta 4000 K.
  const rig = rigOfPath(
    {
      connection: {
        kind: 'half-bridge',
        fixed: { in: 'sensor', ohms: 250e3 },
        ohms: [5e3, 2e6],
        mostExcitation: 5,
      },
      leads: [
        { colour: 'copper', signal: 'excitation' },
        { colour: 'ivory', signal: 'signal+' },
        { colour: 'slate', signal: 'supply−' },
      ],
    },
    {
      conversion: [
        { step: 'half-bridge', fixed: 250e3, sensing: 'to-ground' },
        { step: 'beta', at25: 100e3, beta: 4000 },
      ],
      range: [-20, 60],
      accuracy: { absolute: 0.3, ofReading: 0, ofRange: 0 },
    },
    (['copper', 'ivory', 'slate'] as const).map((colour, i) => ({
      colour,
      signal: (['excitation', 'signal+', 'supply−'] as const)[i]!,
      ohms: 0.6,
      terminal: `${i + 1}`,
    })),
    plainInput,
  );
  const cheap: MeterRange[] = [200e3, 2e6].map((upTo) => ({
    does: 'ohms',
    upTo,
    count: upTo / 2000,
    ofReading: 0.025,
    counts: 0,
    unit: 1e3,
  }));
  const { ohms, errors } = planBench(rig, 25, cheap, { sensor: false });
  const error = (a: string, b: string) =>
    errors[ohms.pairs.findIndex((p) => [p.from.colour, p.to.colour].sort().join() === [a, b].sort().join())]!;
  expect(error('ivory', 'slate')).toBeCloseTo(0.55, 1);
  expect(error('copper', 'slate')).toBeCloseTo(1.95, 1);
  // The fixed resistor alone says nothing of the temperature: it proves the meter.
  expect(error('copper', 'ivory')).toBeNull();
});

test('a loop is measured fed: supply, transmitter, shunt, current; its supply is never put to ohms', () => {
  const { fed, ohms } = plan('ness-p4', 2.75);
  expect(fed.map((f) => f.what)).toEqual([
    'supply under load',
    'across the transmitter, with its leads',
    'across the shunt',
    'loop current',
  ]);
  // 12.8 mA on 0–5 m, 1.28 V across 100 Ω.
  expect(fed[3]!.expected).toBeCloseTo(12.8, 9);
  expect(fed[2]!.expected).toBeCloseTo(1.28, 9);
  expect(ohms.pairs).toHaveLength(1);
  expect(ohms.pairs[0]!.parts.map((p) => p.id)).toEqual(['shunt']);
});

test('a bridge is measured fed: its excitation and what it puts out', () => {
  const { fed } = plan('ness-b1', 10);
  expect(fed.map((f) => [f.what, f.says])).toEqual([
    ['excitation', 'red to black'],
    ['output', 'green to white'],
  ]);
  // 10 mV/V of 2.5 V at half its 20 mV/V, less what the leads of 0.6 Ω take of 350 Ω.
  expect(fed[0]!.expected).toBeCloseTo(2.5, 9);
  expect(fed[1]!.expected).toBeCloseTo((0.025 * 350) / 351.2, 6);
});

test('a contact is measured closed and open, and counted', () => {
  const { fed, all, errors } = plan('ayre-r2', 1);
  expect(fed[0]!.of.kind).toBe('counts');
  const ohms = all.filter((m) => m.kind === 'ohms');
  expect(ohms.map((m) => m.closed)).toEqual([true, false]);
  // Moisture is looked for on the highest position.
  expect(ohms[1]!.range.upTo).toBe(20e6);
  expect(errors).toEqual([null]);
});

test('every kind: what is planned has a position that shows it, and at the sensor nothing is told less', () => {
  for (const [, code] of sweptSensors) {
    const value = code === 'ayre-r2' ? 1 : 5;
    const [near, far] = [plan(code, value), plan(code, value, true)];
    for (const m of near.all) if ('range' in m) expect(m.range.upTo).toBeGreaterThan(0);
    expect(far.ohms.together.flat().length).toBeLessThanOrEqual(near.ohms.together.flat().length);
  }
});

test('what a logger shows is uncertain by its input and its step', () => {
  // 0.05 % of 100 and a step of 0.1 ÷ √12 (JCGM 100:2008, 4.3.7).
  expect(loggerUncertainty([0, 100], 0.1)).toBeCloseTo(Math.hypot(0.05, 0.1 / Math.sqrt(12)), 12);
});
