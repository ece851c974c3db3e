import { pairReading } from '@/test/pairReading';
import { plainCheckPlan } from '@/test/plainCheckPlan';
import { evaluateCheck } from './evaluate';
import { foulingOf } from './fouling';
import type { CheckReading } from './reading';

test('the fouling of USGS TM 1-D3: what cleaning changed, less what the reference changed by', () => {
  // Sensor 5.0 before, 5.6 after; the field meter 5.5 and 5.7 meanwhile: (5.6 − 5.0) − (5.7 − 5.5) = 0.4.
  expect(foulingOf([5.0 - 5.5], [5.6 - 5.7], null, 0)).toEqual({
    value: expect.closeTo(0.4, 9) as number,
    doubt: null,
  });
  const told = foulingOf([-0.5, -0.52], [-0.1, -0.1], { s: 0.02, dof: 6 }, 0)!;
  expect(told.value).toBeCloseTo(0.41, 9);
  expect(told.doubt).toBeGreaterThan(0.03);
  expect(told.doubt).toBeLessThan(0.06);
  // Read in steps of 0.1, a tenth is no fouling: 2 √2 · 0.1/√12 = 0.08 beside the scatter.
  expect(foulingOf([0, 0], [-0.1, -0.1], { s: 0.03, dof: 20 }, 0.1)!.doubt).toBeGreaterThan(0.1);
  expect(foulingOf([], [1], null, 0)).toBeNull();
  expect(() => foulingOf([Number.NaN], [1], null, 0)).toThrow('finite');
});

const reading = (n: number, sensor: number, isCleaned: boolean) => pairReading(n, sensor, 20, { isCleaned });

test('drift is judged after cleaning alone: a dirty window is no reason to adjust', () => {
  const plan = { ...plainCheckPlan, repeats: 2 };
  const dirty = [reading(1, 19.2, false), reading(2, 19.22, false)];
  const clean = [reading(3, 20.05, true), reading(4, 20.03, true)];
  const of = (readings: CheckReading[]) => evaluateCheck({ plan, readings, earlier: null }, []);
  expect(of(dirty)).toMatchObject({ verdict: { kind: 'adjust' }, fouling: null });
  const both = of([...dirty, ...clean]);
  expect(both.verdict).toEqual({ kind: 'agree' });
  expect(both.asFound).toBeCloseTo(0.04, 9);
  expect(both.fouling!.value).toBeCloseTo(0.83, 9);
  // One reading after cleaning is too few to judge by, however many there were before.
  expect(of([...dirty, clean[0]!]).verdict).toEqual({ kind: 'not-settled', why: 'too-few' });
});
