import fc from 'fast-check';
import { circularMean } from './circular';
import { clockDifference } from './clock';
import { flatSince } from './flatLine';
import { findGaps } from './gaps';

describe('gaps (after the gap test of the QARTOD manuals)', () => {
  const hours = (...ns: number[]) => ns.map((n, i) => ({ start: i * 3600, n })).filter((b) => b.n > 0);
  test('a full record has none', () => expect(findGaps(hours(6, 6, 6), 0, 3 * 3600, 3600, 6)).toEqual([]));
  test('neighbouring short buckets are one gap, with what is missing', () => {
    expect(findGaps(hours(6, 2, 0, 6), 0, 4 * 3600, 3600, 6)).toEqual([
      { from: 3600, until: 3 * 3600, missing: 10 },
    ]);
  });
  test('a gap may run to the end; two gaps stay two', () => {
    expect(findGaps(hours(0, 6, 0), 0, 3 * 3600, 3600, 6)).toEqual([
      { from: 0, until: 3600, missing: 6 },
      { from: 7200, until: 10800, missing: 6 },
    ]);
  });
  test('property: missing and held add up to what was expected', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 60 }), (ns) => {
        const gaps = findGaps(hours(...ns), 0, ns.length * 3600, 3600, 6);
        const missing = gaps.reduce((s, g) => s + g.missing, 0);
        expect(missing + ns.reduce((s, n) => s + n, 0)).toBe(6 * ns.length);
        for (const [i, g] of gaps.entries()) expect(g.from).toBeGreaterThan(i ? gaps[i - 1]!.until - 1 : -1);
      }),
    );
  });
});

describe('flat line (after the QARTOD manuals)', () => {
  const flat = (...pairs: [number, number][]) =>
    pairs.map(([min, max], i) => ({ start: i * 3600, min, max }));
  test('a record that has not moved long enough is flat since the run began', () => {
    expect(flatSince(flat([1, 2], [5, 5], [5, 5], [5, 5]), 3600, 0, 3 * 3600)).toBe(3600);
  });
  test('shorter, or moving, is not flat', () => {
    expect(flatSince(flat([1, 2], [5, 5], [5, 5]), 3600, 0, 3 * 3600)).toBeNull();
    expect(flatSince(flat([5, 5], [5, 5.2], [5.2, 5.2]), 3600, 0.1, 7200)).toBeNull();
    expect(flatSince([], 3600, 0, 3600)).toBeNull();
  });
  test('a slow drift within eps of each neighbour is not flat as a whole', () => {
    const drift = Array.from({ length: 24 }, (_, i) => ({ start: i * 3600, min: i * 0.05, max: i * 0.05 }));
    expect(flatSince(drift, 3600, 0.1, 12 * 3600)).toBeNull();
  });
});

describe('directions are averaged on the circle', () => {
  const of = (...degrees: number[]) => {
    const rad = degrees.map((d) => (d * Math.PI) / 180);
    return circularMean(
      rad.reduce((s, r) => s + Math.sin(r), 0),
      rad.reduce((s, r) => s + Math.cos(r), 0),
    );
  };
  test('the mean of 350°, 10° and 20° is 6.7°', () => expect(of(350, 10, 20)).toBeCloseTo(6.7, 1));
  test('opposite directions have none', () => expect(of(0, 180)).toBeNaN());
  test('always 0–360', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 359 }), { minLength: 1, maxLength: 9 }), (ds) => {
        const m = of(...ds);
        return Number.isNaN(m) || (m >= 0 && m < 360 + 1e-9);
      }),
    );
  });
});

describe('clock difference (after RFC 5905, section 8)', () => {
  test('the middle of the exchange is the instant of the answer; a cut second is half a second old', () => {
    expect(clockDifference({ asked: 1000, logger: 61_500, answered: 2000 }, 0)).toEqual({
      difference: 60,
      uncertainty: 0.5,
    });
    expect(clockDifference({ asked: 1000, logger: 1000, answered: 1000 }, 1)).toEqual({
      difference: 0.5,
      uncertainty: 0.5,
    });
  });
  test('an answer before its question is refused', () => {
    expect(() => clockDifference({ asked: 2000, logger: 0, answered: 1000 }, 0)).toThrow(RangeError);
  });
});
