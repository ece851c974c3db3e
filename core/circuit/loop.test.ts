import { rigOf } from '@/test/faultSweep';
import { cabinetOf } from './cabinet';
import { explanationsOf, modelOf } from './explanation';
import type { Measurement } from './measurement';
import { plainMeter } from '@/test/faultSweep';
import { predictorOf } from './predict';

/** A level transmitter of 0–5 m in a loop of 24 V through two leads of 0.6 Ω and a shunt of 100 Ω. */
const rig = rigOf('ness-p4');
const v20 = plainMeter.find((r) => r.does === 'volts-dc' && r.upTo === 20)!;
const mA = plainMeter.find((r) => r.does === 'milliamps')!;
const [supply, signal] = ['amber lead end', 'navy lead end'];
const ask = (id: string, metres: number, ...asked: Measurement[]): number[] => {
  const model = modelOf(
    rig,
    explanationsOf(rig, true).find((e) => e.id === id)!,
  );
  const predictor = predictorOf(model, rig.range, asked);
  return predictor.at(predictor.unknowns.mean.map((m, k) => (k === 0 ? metres : m)));
};
const logger: Measurement = { kind: 'logger', u: 0.001 };

test('12.8 mA over 0–5 m are 2.75 m, and 1.28 V across 100 Ω', () => {
  // check: 4 + 16 · 2.75 ÷ 5 = 12.8 mA.
  const [shows, across, through, left] = ask(
    'none',
    2.75,
    logger,
    { kind: 'volts', from: signal, to: 'ground of the logger', range: v20 },
    { kind: 'milliamps', through: 'lead navy', range: mA },
    { kind: 'volts', from: supply, to: signal, range: v20 },
  ) as [number, number, number, number];
  expect(shows).toBeCloseTo(2.75, 9);
  expect(across).toBeCloseTo(1.28, 9);
  expect(through).toBeCloseTo(12.8, 9);
  // 24 V less what falls across the supply's own 0.5 Ω and the shunt.
  expect(left).toBeCloseTo(24 - 0.0128 * (0.5 + 100), 9);
});

test('a loop that is open reads below its range, one that is joined across its transmitter far above', () => {
  // 0 mA: −1.25 m.
  for (const id of ['open lead amber', 'open lead navy', 'open transmitter', 'no-feed'])
    expect(ask(id, 2, logger)[0]).toBeCloseTo(-1.25, 9);
  expect(ask('short transmitter', 2, logger)[0]).toBeGreaterThan(30);
  expect(ask('channel for 0–20 mA instead of 4–20 mA', 2, logger)[0]).toBeCloseTo(2.6, 9);
});

test('a transmitter lets through what its supply leaves it, and no more', () => {
  const low = modelOf(
    rig,
    explanationsOf(rig, true).find((e) => e.id === 'supply-low')!,
  );
  const predictor = predictorOf(low, rig.range, [logger]);
  // 9.5 V at least across it: with 10.5 V only 1 V is left for 101.7 Ω: 9.83 mA.
  const x = predictor.unknowns.ids.map((id, k) => (id === 'factor' ? Math.log(10.5 / 24) : k === 0 ? 4 : 0));
  expect(predictor.at(x)[0]).toBeCloseTo((1000 / 101.7) * 0.3125 - 1.25, 6);
});

test('a cabinet is the same for the same seed, and its meter shows whole counts', () => {
  let calls = 0;
  const random = () => ((calls += 7919) % 10_007) / 10_007;
  const fault = explanationsOf(rig, true).find((e) => e.id === 'wrong-value shunt')!;
  const once = cabinetOf(rig, fault, random);
  calls = 0;
  const again = cabinetOf(rig, fault, random);
  expect(again.truth).toEqual(once.truth);
  const shown = once.measure({ kind: 'milliamps', through: 'lead navy', range: mA }).shows!;
  expect(shown / mA.count).toBeCloseTo(Math.round(shown / mA.count), 6);
});
