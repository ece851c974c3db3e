import fc from 'fast-check';
import { hourCounts, uniform } from '@/test/simulate';
import { meanDirection } from './circular';
import { clockDifference } from './clock';
import { dueBetween, findGaps } from './gaps';

describe('gaps (after the gap test of the QARTOD manuals)', () => {
  const hours = (...ns: number[]) => ns.map((n, i) => ({ start: i * 3600, n })).filter((b) => b.n > 0);
  const every = (interval: number, phase = 0) => ({ interval, phase });
  const gapsOf = (ns: number[], interval = 600, phase = 0) =>
    findGaps(hours(...ns), 0, ns.length * 3600, 3600, () => every(interval, phase));

  test('a full record has none', () => expect(gapsOf([6, 6, 6])).toEqual([]));
  test('neighbouring short buckets are one gap, with what is missing', () => {
    expect(gapsOf([6, 2, 0, 6])).toEqual([{ from: 3600, until: 3 * 3600, missing: 10 }]);
  });
  test('a gap may run to the end; two gaps stay two', () => {
    expect(gapsOf([0, 6, 0])).toEqual([
      { from: 0, until: 3600, missing: 6 },
      { from: 7200, until: 10800, missing: 6 },
    ]);
  });
  test('due are ⌈until/i⌉ − ⌈from/i⌉ stamps: of 480 s, 8 and 7 by turns; of a day, one', () => {
    expect([0, 1, 2].map((h) => dueBetween(h * 3600, (h + 1) * 3600, every(480)))).toEqual([8, 7, 8]);
    expect(dueBetween(0, 86_400, every(86_400))).toBe(1);
    expect(dueBetween(0, 7200, every(86_400, 9 * 3600))).toBe(0);
  });
  test('a reading across the edge of a bucket is not missing from the next', () => {
    expect(gapsOf([7, 5, 6])).toEqual([]);
  });
  test('a daily record read at nine has no gap, and one lost day is one reading', () => {
    const day = (n: number) => ({ start: (n * 24 + 9) * 3600, n: 1 });
    const gaps = (days: number[]) =>
      findGaps(days.map(day), 0, 5 * 86_400, 3600, () => every(86_400, 9 * 3600 + 120));
    expect(gaps([0, 1, 2, 3, 4])).toEqual([]);
    expect(gaps([0, 1, 3, 4]).map((g) => g.missing)).toEqual([1]);
  });
  test('an interval that was changed is judged by what was in force', () => {
    const counts = [...Array.from({ length: 5 }, () => 6), ...Array.from({ length: 5 }, () => 12)];
    const dueAt = (start: number) => every(start < 5 * 3600 ? 600 : 300);
    expect(findGaps(hours(...counts), 0, 10 * 3600, 3600, dueAt)).toEqual([]);
  });
  test('property: missing and held add up to what was due, of a record that holds nowhere too much', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 60 }), (ns) => {
        const gaps = gapsOf(ns);
        const missing = gaps.reduce((s, g) => s + g.missing, 0);
        expect(missing + ns.reduce((s, n) => s + n, 0)).toBe(6 * ns.length);
        for (const [i, g] of gaps.entries()) expect(g.from).toBeGreaterThan(i ? gaps[i - 1]!.until - 1 : -1);
      }),
    );
  });
  test('what has no width, or no interval, is refused and not looked through for ever', () => {
    expect(() => findGaps([], 0, 3600, 0, () => every(600))).toThrow(RangeError);
    expect(() => findGaps([], 0, 3600, 3600, () => every(0))).toThrow(RangeError);
    expect(() => findGaps([], 0, Infinity, 3600, () => every(600))).toThrow(RangeError);
  });
  describe('simulated: thirty days, any phase', () => {
    test.each([60, 300, 480, 600, 900, 1200, 2700, 3600, 7200, 10_800, 21_600, 86_400])(
      'at %d s a full record reports nothing missing, and losses of a tenth are all counted',
      (interval) => {
        const random = uniform(interval);
        for (let i = 0; i < 8; i++) {
          const of = (lost: number) => {
            const { counts, missing, last } = hourCounts(random, { interval, hours: 720, lost });
            const dueAt = () => every(interval, last % interval);
            const found = findGaps(counts, 3600, 719 * 3600, 3600, dueAt).reduce((s, g) => s + g.missing, 0);
            return { found, missing };
          };
          expect(of(0).found).toBe(0);
          const { found, missing } = of(0.1);
          expect(found).toBe(missing);
        }
      },
    );
  });
});

describe('directions are averaged on the circle', () => {
  const of = (...degrees: number[]) => {
    const rad = degrees.map((d) => (d * Math.PI) / 180);
    return meanDirection(
      rad.reduce((s, r) => s + Math.sin(r), 0),
      rad.reduce((s, r) => s + Math.cos(r), 0),
      degrees.length,
    );
  };
  test('the mean of 350°, 10° and 20° is 6.7°', () => expect(of(350, 10, 20).degrees).toBeCloseTo(6.7, 1));
  test('opposite directions have none, nor do some all round the circle; their strength says so', () => {
    expect(of(0, 180).degrees).toBeNaN();
    expect(of(0, 180).strength).toBeCloseTo(0, 9);
    expect(of(10, 100, 190, 280, 15, 200).degrees).toBeNaN();
    expect(of(90).strength).toBe(1);
  });
  test('a weak one that many readings share is said: Rayleigh’s test (Mardia & Jupp, 6.3.1, from memory)', () => {
    const some = Array.from({ length: 120 }, (_, i) => (i % 4 === 0 ? 90 : i * 37));
    const { degrees, strength } = of(...some);
    expect(strength).toBeLessThan(0.5);
    expect(Math.abs(degrees - 90)).toBeLessThan(30);
  });
  test('always 0–360', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 359 }), { minLength: 1, maxLength: 9 }), (ds) => {
        const { degrees } = of(...ds);
        return Number.isNaN(degrees) || (degrees >= 0 && degrees < 360);
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
