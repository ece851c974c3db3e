import { normal, uniform } from '@/test/simulate';
import { controlChart } from './controlChart';

const of = (...differences: number[]) => differences.map((difference) => ({ difference, u: 0.1 }));

test('the individuals chart of the NIST/SEMATECH handbook, 6.3.2.2 (flow rates of a batch process, from memory)', () => {
  // Moving ranges 1.8, 3, 1.1, 1.1, 0.1, 1.6, 2.4, 2.7, 3.1: mean 1.8778; 50.81 ± 4.995 there, with 3/1.128.
  // The eleventh is held against the ten of the book.
  const chart = controlChart(of(49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1, 51))!;
  expect(chart.by).toBe('moving-range');
  expect(chart.centre).toBeCloseTo(50.81, 2);
  expect(chart.high - chart.centre).toBeCloseTo(4.995, 1);
  expect(chart.centre - chart.low).toBeCloseTo(4.995, 1);
  expect(chart.signals).toEqual([]);
});

test('few checks go by the uncertainty of each; one beyond is named, nine on a side are', () => {
  expect(controlChart(of(0.1))).toBeNull();
  const few = controlChart(of(0, 0.05, -0.05, 0.6))!;
  expect(few.by).toBe('uncertainty');
  expect(few.centre).toBe(0);
  // 3 u √(1 + 1/3)
  expect(few.high).toBeCloseTo(0.3464, 4);
  expect(few.signals).toEqual([{ index: 3, kind: 'beyond' }]);
  const there = [0, 0.3, 0, 0.3, 0, 0.3, 0, 0.3];
  const turned = controlChart(of(...there, ...there.map((v) => 0.4 - v / 3), 0.3))!;
  expect(turned.signals.map((s) => [s.index, s.kind])).toEqual([
    [15, 'run'],
    [16, 'run'],
  ]);
  expect(() => controlChart(of(Number.NaN, 1))).toThrow('finite');
  expect(() => controlChart([{ difference: 0, u: -1 }, ...of(0)])).toThrow('u -1');
});

test('of steady sensors three in a hundred are accused at most, of one that jumped by five scatters nine in ten are found', () => {
  const draw = normal(uniform(11));
  const runs = 2000;
  let [accused, found] = [0, 0];
  for (let i = 0; i < runs; i++) {
    const steady = Array.from({ length: 12 }, () => draw());
    if (controlChart(of(...steady))!.signals.some((s) => s.index === 11)) accused++;
    if (controlChart(of(...steady.slice(0, 11), steady[11]! + 5))!.signals.some((s) => s.index === 11))
      found++;
  }
  expect(accused / runs).toBeLessThan(0.03);
  expect(found / runs).toBeGreaterThan(0.9);
});
