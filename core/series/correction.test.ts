import fc from 'fast-check';
import { clockRunOf } from './clockRun';
import {
  changes,
  correctedBy,
  correctionAt,
  correctionEdges,
  driftedStamp,
  loggedStamp,
  type Correction,
} from './correction';
import { rollupBuilder, widerRollups } from './rollup';

describe('corrections', () => {
  const drift: Correction = { kind: 'linear', from: 1000, until: 2000, fromOffset: 0, untilOffset: -3 };
  test('pro-rated between two checks: nothing at the first, all of it at the second', () => {
    expect([999, 1000, 1500, 2000, 2001].map((t) => correctionAt([drift], t).offset)).toEqual([
      0, 0, -1.5, -3, 0,
    ]);
  });
  test('an adjustment holds from then on, the newest one; spans come on top', () => {
    const all: Correction[] = [
      { kind: 'adjustment', from: 500, until: Infinity, offset: 1 },
      { kind: 'adjustment', from: 1500, until: Infinity, offset: 0.5 },
      drift,
      { kind: 'step', from: 0, until: 600, offset: 10 },
    ];
    expect([400, 550, 1000, 1500, 3000].map((t) => correctionAt(all, t).offset)).toEqual([
      10,
      11,
      1,
      0.5 - 1.5,
      0.5,
    ]);
  });
  test('where one span ends as another begins, the reading is corrected once: by the one that begins', () => {
    const touching: Correction[] = [
      drift,
      { kind: 'linear', from: 2000, until: 3000, fromOffset: -3, untilOffset: 0 },
      { kind: 'step', from: 3000, until: 4000, offset: 2 },
    ];
    expect([1999, 2000, 2001, 3000, 4000].map((t) => correctionAt(touching, t).offset)).toEqual([
      -2.997, -3, -2.997, 2, 2,
    ]);
    expect(correctionAt([{ kind: 'step', from: 5, until: 5, offset: 1 }], 5).offset).toBe(1);
  });
  test('a correction of the record ends with the sensor it was made for', () => {
    const swapped: Correction[] = [
      { kind: 'adjustment', from: 500, until: 900, offset: 1 },
      { kind: 'adjustment', from: 1200, until: Infinity, offset: 0.25 },
    ];
    expect([499, 500, 899, 900, 1199, 1200].map((t) => correctionAt(swapped, t).offset)).toEqual([
      0, 1, 1, 0, 0, 0.25,
    ]);
    expect(correctionEdges(swapped)).toEqual([500, 900, 1200]);
  });
  test('a percentage is one of the logged value, whatever is added beside it; two of them are added', () => {
    const fouled: Correction[] = [
      { kind: 'percentage', from: 1000, until: 2000, percent: 25 },
      { kind: 'step', from: 1500, until: 2000, offset: -2 },
      { kind: 'percentage', from: 1800, until: 2000, percent: -5 },
    ];
    const at = (t: number) => correctedBy(correctionAt(fouled, t), 8);
    // A window that lets 80 % through: 8 NTU shown are 10 (USGS TM 1-D3 on percentages, from memory).
    expect([999, 1000, 1500, 1900, 2001].map(at)).toEqual([8, 10, 8, 7.6, 8]);
    expect([999, 1000].map((t) => changes(correctionAt(fouled, t)))).toEqual([false, true]);
    expect(correctionEdges(fouled)).toEqual([1000, 1500, 1800, 2000]);
  });
  test('between two edges it is a straight line', () => {
    const all: Correction[] = [
      drift,
      { kind: 'step', from: 1200, until: 1800, offset: 2 },
      { kind: 'adjustment', from: 700, until: Infinity, offset: 1 },
    ];
    const edges = correctionEdges(all);
    expect(edges).toEqual([700, 1000, 1200, 1800, 2000]);
    fc.assert(
      fc.property(fc.nat(edges.length - 2), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (i, share) => {
        const [a, b] = [edges[i]! + 1e-6, edges[i + 1]! - 1e-6];
        const at = a + share * (b - a);
        const line =
          correctionAt(all, a).offset + share * (correctionAt(all, b).offset - correctionAt(all, a).offset);
        expect(correctionAt(all, at).offset).toBeCloseTo(line, 6);
      }),
    );
  });
});

describe('a clock that ran off', () => {
  // Set right on day 0, 60 s fast on day 10: halfway it was 30 s fast.
  const day = 86_400_000;
  const drift = { fromStamp: 0, fromDifference: 0, untilStamp: 10 * day, untilDifference: 60, run: null };
  test('stamps are put back in proportion', () => {
    expect(driftedStamp([drift], 5 * day)).toBe(5 * day - 30_000);
    expect(driftedStamp([drift], 10 * day)).toBe(10 * day - 60_000);
    expect(driftedStamp([drift], 11 * day)).toBe(11 * day);
  });
  test('a stamp two clock runs share is put back in the run whose drift it was', () => {
    const own = { ...drift, run: 0 };
    expect(driftedStamp([own], 10 * day, 0)).toBe(10 * day - 60_000);
    expect(driftedStamp([own], 10 * day, 1)).toBe(10 * day);
    expect(driftedStamp([own], 10 * day)).toBe(10 * day - 60_000);
    expect(driftedStamp([drift], 10 * day, 1)).toBe(10 * day - 60_000);
  });
  test('their order stays what it was', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 * day }), fc.integer({ min: 0, max: 10 * day }), (a, b) => {
        fc.pre(a < b);
        expect(driftedStamp([drift], a)).toBeLessThan(driftedStamp([drift], b));
      }),
    );
  });
});

describe('back from an instant to the stamp the clock showed', () => {
  const day = 86_400_000;
  // Two spans of one run, then a clock that was set and runs slow.
  const drifts = [
    { fromStamp: 0, fromDifference: 0, untilStamp: 10 * day, untilDifference: 60, run: 0 },
    { fromStamp: 10 * day, fromDifference: 60, untilStamp: 20 * day, untilDifference: 200, run: 0 },
    { fromStamp: 21 * day, fromDifference: 0, untilStamp: 30 * day, untilDifference: -90, run: 1 },
  ];
  test('it is the way back from every corrected stamp', () => {
    fc.assert(
      fc.property(fc.integer({ min: -day, max: 31 * day }), (stamp) => {
        const instant = driftedStamp(drifts, stamp);
        const back = loggedStamp(drifts, instant);
        // Just behind a span's end two stamps mean one instant: either is right.
        expect(Math.abs(driftedStamp(drifts, back) - instant)).toBeLessThan(0.01);
      }),
    );
  });
  test('outside every span, and without any, the instant is the stamp', () => {
    expect(loggedStamp([], 5 * day)).toBe(5 * day);
    expect(loggedStamp(drifts, -1)).toBe(-1);
    expect(
      loggedStamp([{ fromStamp: 7, fromDifference: 0, untilStamp: 7, untilDifference: 0, run: 0 }], 7),
    ).toBe(7);
  });
});

describe('clock runs', () => {
  // Set back at 1000 to 900, and forward at 2000 to 2100.
  const runs = [
    { run: 1, stampBefore: 1000, stampAfter: 900 },
    { run: 2, stampBefore: 2000, stampAfter: 2100 },
  ];
  test('a stamp belongs to the run that can have written it; one that two can have is nobody’s', () => {
    expect([0, 899, 900, 950, 1000, 1001, 2000, 2050, 2100, 9999].map((s) => clockRunOf(runs, s))).toEqual([
      0,
      0,
      'was-twice',
      'was-twice',
      'was-twice',
      1,
      1,
      1,
      2,
      2,
    ]);
    expect(clockRunOf([], 5)).toBe(0);
  });
});

test('rollups: hours hold what went by, days what the hours hold', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 359 })), {
        minLength: 1,
        maxLength: 200,
      }),
      (steps) => {
        const hours = rollupBuilder(3600);
        let at = 1_577_836_800_000;
        const all = steps.map(([minutes, value]) => ({ at: (at += minutes * 60_000), value }));
        for (const r of all) hours.add(r.at, r.value);
        const days = widerRollups(hours.buckets, 86_400);
        for (const buckets of [hours.buckets, days]) {
          expect(buckets.reduce((n, b) => n + b.n, 0)).toBe(all.length);
          expect(buckets[0]!.first).toBe(all[0]!.value);
          expect(buckets.at(-1)!.last).toBe(all.at(-1)!.value);
          expect(Math.max(...buckets.map((b) => b.max))).toBe(Math.max(...all.map((r) => r.value)));
          expect(buckets.reduce((s, b) => s + b.sum, 0)).toBeCloseTo(
            all.reduce((s, r) => s + r.value, 0),
            6,
          );
        }
      },
    ),
  );
});
