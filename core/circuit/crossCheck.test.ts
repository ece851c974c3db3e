import { normal, uniform } from '@/test/simulate';
import { plainMeter } from '@/test/faultSweep';
import type { Circuit } from './circuit';
import { contradictions } from './crossCheck';
import type { OhmsReading } from './estimate';
import { meterLimit, rangeFor } from './meter';
import { networkOf, resistanceBetween } from './network';

const part = (id: string, from: string, to: string, ohms: number) =>
  ({ id, kind: 'fixed', from, to, ohms, tolerance: 0.01, hop: 'element' }) as const;
/** Three in a row: the outer pair and the inner ones check one another. */
const row: Circuit = {
  elements: [part('R1', 'a', 'b', 1200), part('R2', 'b', 'c', 3300), part('R3', 'c', 'd', 4700)],
  points: [],
  reads: null,
};
const pairs = [
  ['a', 'b'],
  ['b', 'c'],
  ['c', 'd'],
  ['a', 'd'],
  ['a', 'c'],
] as const;
const network = networkOf(row.elements);

/** Readings of a meter with one gain a position and counts of its own each time. */
function measured(error: (limit: number) => number): OhmsReading[] {
  const gains = new Map<number, number>();
  return pairs.map(([from, to]) => {
    const ohms = resistanceBetween(network, from, to);
    const range = rangeFor(plainMeter, 'ohms', [0, ohms * 1.05])!;
    if (!gains.has(range.upTo)) gains.set(range.upTo, error(range.ofReading));
    return { from, to, range, ohms: ohms * (1 + gains.get(range.upTo)!) + error(range.counts * range.count) };
  });
}
const runs = 500;

test('readings of a sound meter contradict one another in less than 0.5 % of 500 plans, whichever way its errors are spread', () => {
  const gauss = normal(uniform(21));
  const even = uniform(22);
  for (const error of [
    (limit: number) => (limit / Math.sqrt(3)) * gauss(),
    (limit: number) => limit * (2 * even() - 1),
  ]) {
    let said = 0;
    for (let i = 0; i < runs; i++) if (contradictions(row, measured(error)).length > 0) said++;
    expect(said / runs).toBeLessThan(0.005);
  }
});

test('a digit misread is told, and which: in 95 % of 500 the first one named is it', () => {
  const gauss = normal(uniform(23));
  const pick = uniform(24);
  let [told, right] = [0, 0];
  for (let i = 0; i < runs; i++) {
    const readings = measured((limit) => (limit / Math.sqrt(3)) * gauss());
    const slip = Math.floor(pick() * pairs.length);
    const wrong = readings.map((r, k) =>
      k === slip ? { ...r, ohms: r.ohms * (pick() > 0.5 ? 1.1 : 0.9) } : r,
    );
    const [first] = contradictions(row, wrong);
    if (first) told++;
    if (first?.reading === slip) right++;
  }
  expect(told / runs).toBeGreaterThan(0.95);
  expect(right / told).toBeGreaterThan(0.95);
});

test('readings that check nothing contradict nothing; two of one pair do', () => {
  const range = rangeFor(plainMeter, 'ohms', [0, 1200])!;
  expect(contradictions(row, [{ from: 'a', to: 'b', ohms: 600, range }])).toEqual([]);
  expect(
    contradictions(row, [
      { from: 'a', to: 'b', ohms: 600, range },
      { from: 'b', to: 'c', ohms: 3300, range: rangeFor(plainMeter, 'ohms', [0, 3300])! },
    ]),
  ).toEqual([]);
  const twice = contradictions(row, [
    { from: 'a', to: 'b', ohms: 1200, range },
    { from: 'a', to: 'b', ohms: 1500, range },
  ]);
  expect(twice[0]!.limit).toBeLessThan(5 * meterLimit(range, 1200));
});
