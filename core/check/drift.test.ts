import { checkHistory, uniform } from '@/test/simulate';
import { driftOutlook, type FoundDifference } from './drift';

const day = 86_400_000;
const found = (...pairs: [days: number, difference: number, reference?: string][]): FoundDifference[] =>
  pairs.map(([days, difference, reference = 'HX-771']) => ({
    at: days * day,
    difference,
    reference,
    referenceTolerance: 1,
  }));

test('a straight line through as-found differences, its standard error, and when it leaves the tolerance', () => {
  const o = driftOutlook(found([0, -0.8], [20, 0.4], [40, 1.6]), 2)!;
  expect(o.perDay).toBeCloseTo(0.06, 10);
  expect(o.reachesLimitAt / day).toBeCloseTo(46.6667, 3);
  expect([o.checks, o.days]).toEqual([3, 40]);
  // σ/√Σ(x − x̄)² with σ a third of the limit, by hand: (2/3)/√800.
  expect(o.uncertainty).toBeCloseTo(0.02357, 4);
});

describe('no outlook', () => {
  test.each<[string, FoundDifference[]]>([
    ['one difference', found([0, 1])],
    ['no time between them', found([0, 1], [0, 2])],
    ['less than a fortnight in all', found([0, 0], [13, 5])],
    ['a line towards agreement', found([0, 4], [40, 0.1])],
    ['no movement', found([0, 1], [40, 1])],
    ['a step that two checks may show by chance', found([0, 0], [40, 1.8])],
    [
      'a step where the reference was changed, inside what the two references allow',
      found([0, 0], [40, 2], [80, 2, 'HX-512']),
    ],
  ])('%s', (_, history) => expect(driftOutlook(history, 2)).toBeNull());
  test('the same differences against one reference are a drift', () => {
    expect(driftOutlook(found([0, 0], [40, 2.2]), 2)).not.toBeNull();
  });
});

test('what no check can have is refused', () => {
  expect(() => driftOutlook(found([0, 1], [40, NaN]), 2)).toThrow(RangeError);
  expect(() => driftOutlook(found([0, 1], [40, 2]), 0)).toThrow(RangeError);
  expect(() => driftOutlook(found([0, 1], [40, 2]), NaN)).toThrow(RangeError);
});

describe('simulated histories, 4 000 each, seeded', () => {
  const alarms = (checks: number, perDay: number, scatter = 1 / 3) => {
    const random = uniform(checks * 1000 + Math.round(perDay * 1e4));
    let n = 0;
    for (let i = 0; i < 4000; i++)
      if (driftOutlook(checkHistory(random, { checks, apart: 45, perDay, scatter }), 1)) n++;
    return n / 4000;
  };
  test.each([2, 3, 4, 5, 6])(
    'a stable sensor with scatter of a third of the limit is called drifting in under 5 % of histories of %d checks',
    (checks) => expect(alarms(checks, 0)).toBeLessThan(0.05),
  );
  test('a sensor that leaves its limit within four checks is found more often than not, and nearly always by six', () => {
    expect(alarms(4, 1 / 120)).toBeGreaterThan(0.6);
    expect(alarms(6, 1 / 120)).toBeGreaterThan(0.97);
  });
});
