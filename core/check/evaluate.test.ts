import { plainCheckPlan } from '@/test/plainCheckPlan';
import { evaluateCheck, type Made } from './evaluate';
import type { CheckPlan } from './plan';
import type { CheckReading } from './reading';

/** Three readings of air temperature against 20.0 °C, sensor off by so much, plain sum of ±0.3 and ±0.2. */
const readings = (off: number, round = 0): CheckReading[] =>
  [0, 1, 2].map((i) => ({
    phase: round === 0 ? 'as-found' : 'verification',
    round,
    point: null,
    isExcluded: false,
    at: 600 * (round * 3 + i),
    settling: { state: 'said', window: 60 },
    reference: null,
    isCleaned: false,
    observations: [
      { role: 'sensor', at: 0, value: 20 + off },
      { role: 'reference', at: 0, value: 20 },
    ],
  })) as never;
const told: CheckPlan = { ...plainCheckPlan, adjustIn: 'device' };
const inSteps = (step: number): CheckPlan => ({ ...told, offsets: { step, most: 5 } });
const judged = (plan: CheckPlan, all: CheckReading[], made: readonly Made[] = []) =>
  evaluateCheck({ plan, readings: all, earlier: null }, made);
const wrote = (resulting: number): Made => ({ mode: 'added', previous: 0, resulting });

test('a device that takes every digit is told what was found, and nothing stays', () => {
  expect(judged(told, readings(0.87))).toMatchObject({ proposed: -0.87, remainder: null });
});

test('in steps of half a degree +0.87 °C becomes −1.0, and −0.13 °C is said to stay', () => {
  const e = judged(inSteps(0.5), readings(0.87));
  expect(e.verdict).toEqual({ kind: 'adjust', by: -0.87 });
  expect(e.proposed).toBe(-1);
  expect(e.remainder).toBeCloseTo(-0.13, 9);
});

test('what the steps leave belongs in the band: a limit of 0.5 °C and half a step of 0.5 °C hold +0.7, not +0.8', () => {
  const after = (left: number) =>
    judged(inSteps(0.5), [...readings(1.7), ...readings(left, 1)], [wrote(-1.5)]).convergence?.kind;
  expect(after(0.74)).toBe('converged');
  expect(after(0.8)).toBe('try-again');
  // Where every digit is taken the same +0.74 °C is chased.
  expect(judged(told, [...readings(1.7), ...readings(0.74, 1)], [wrote(-1.7)]).convergence?.kind).toBe(
    'try-again',
  );
});

test('less than half a step cannot be taken out there: the verdict stands, and nothing is proposed', () => {
  const e = judged(inSteps(2), readings(0.87));
  expect(e.verdict).toMatchObject({ kind: 'adjust' });
  expect(e.proposed).toBeNull();
  expect(e.remainder).toBeCloseTo(0.87, 9);
});
