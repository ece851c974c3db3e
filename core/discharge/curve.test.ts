import fc from 'fast-check';
import { allTogether, isBeside } from './agreement';
import { curveThrough, kAt, logLawK, type Support } from './curve';
import { fitCurve } from './fitCurve';
import { gaugedK, isGauged, type GaugedMoment } from './gaugedK';
import { sectionTable } from './section';

const supportsOf = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 30, max: 120 })), {
    minLength: 1,
    maxLength: 10,
  })
  .map((steps) => {
    let level = 0;
    return steps.map(([up, k]): Support => ({ level: (level += up / 10), k: k / 100 }));
  });

describe('the k curve', () => {
  test('runs through its supports, and never beyond the two beside it', () => {
    fc.assert(
      fc.property(supportsOf, fc.double({ min: 0, max: 1, noNaN: true }), (supports, t) => {
        const curve = curveThrough(supports);
        for (const s of supports) expect(kAt(curve, s.level)).toBeCloseTo(s.k, 12);
        for (let i = 1; i < supports.length; i++) {
          const [a, b] = [supports[i - 1]!, supports[i]!];
          const k = kAt(curve, a.level + t * (b.level - a.level));
          expect(k).toBeGreaterThanOrEqual(Math.min(a.k, b.k) - 1e-12);
          expect(k).toBeLessThanOrEqual(Math.max(a.k, b.k) + 1e-12);
        }
      }),
    );
  });
  test('is monotone where its supports are', () => {
    fc.assert(
      fc.property(supportsOf, (supports) => {
        const rising = [...supports].map((s, i) => ({ ...s, k: 0.3 + i * 0.05 }));
        const curve = curveThrough(rising);
        let last = 0;
        for (let h = 0; h < 45; h += 0.4) {
          const k = kAt(curve, h);
          expect(k).toBeGreaterThanOrEqual(last - 1e-12);
          last = k;
        }
      }),
    );
  });
  test('stays as its ends are beyond them', () => {
    const curve = curveThrough([
      { level: 1, k: 0.8 },
      { level: 2, k: 0.9 },
    ]);
    expect([kAt(curve, -5), kAt(curve, 9)]).toEqual([0.8, 0.9]);
    expect(kAt(curveThrough([{ level: 1, k: 0.8 }]), 3)).toBe(0.8);
  });
  test('without supports, with two at one level or a k of nothing there is none', () => {
    expect(() => curveThrough([])).toThrow(RangeError);
    expect(() => curveThrough([{ level: 1, k: 0 }])).toThrow(RangeError);
    expect(() =>
      curveThrough([
        { level: 1, k: 0.8 },
        { level: 1, k: 0.9 },
      ]),
    ).toThrow(/two supports/);
  });
  test('begins by the logarithmic law: about 0.83 over a metre with kₛ = 0.1 m', () => {
    // 1 − 1 / ln 300.
    expect(logLawK(1, 0.1)).toBeCloseTo(0.8247, 4);
    expect(logLawK(3, 0.1)).toBeGreaterThan(logLawK(1, 0.1));
    expect(logLawK(0.1, 0.5)).toBe(0.5);
    expect(() => logLawK(0, 0.1)).toThrow(RangeError);
  });
});

describe('gaugings beside the curve', () => {
  const four = [-0.04, -0.04, -0.04, -0.04].map((share) => ({ share, U: 0.05 }));
  test('one of −4 % ± 5 % says leave it; four of them −4 % ± 2.5 %', () => {
    expect(isBeside(four[0]!)).toBe(false);
    const all = allTogether(four);
    expect(all).toMatchObject({ n: 4, above: 0, below: 4, chance: 0.125 });
    expect(all.share).toBeCloseTo(-0.04, 12);
    expect(all.U).toBeCloseTo(0.025, 12);
    expect(isBeside({ share: all.share, U: all.U })).toBe(true);
  });
  test('what they share does not become less: one section is off for all', () => {
    expect(allTogether(four, 0.04).U).toBeCloseTo(Math.hypot(0.025, 0.04), 12);
    expect(isBeside({ share: -0.04, U: 0.025 }, 0.04)).toBe(false);
    expect(isBeside({ share: 0.08, U: 0.05 }, 0.04)).toBe(true);
  });
  test('signs: eight of eight on one side come by chance once in 128', () => {
    expect(allTogether(Array.from({ length: 8 }, () => ({ share: 0.01, U: 0.05 }))).chance).toBeCloseTo(
      1 / 128,
      12,
    );
    const mixed = allTogether([
      { share: 0.01, U: 0.05 },
      { share: -0.02, U: 0.05 },
    ]);
    expect(mixed.chance).toBe(1);
    expect(allTogether([{ share: 0, U: 0.05 }]).chance).toBe(1);
  });
  test('without gaugings, or with one that claims to be right, nothing is said', () => {
    expect(() => allTogether([])).toThrow(RangeError);
    expect(() => allTogether([{ share: 0.1, U: 0 }])).toThrow(RangeError);
    expect(() => isBeside({ share: Number.NaN, U: 1 })).toThrow(RangeError);
  });
});

describe('k by a gauging', () => {
  const box = sectionTable([
    { across: 0, elevation: 3 },
    { across: 0, elevation: 0 },
    { across: 5, elevation: 0 },
    { across: 5, elevation: 3 },
  ]);
  const moment: GaugedMoment = {
    discharge: 4.2,
    U: 0.05,
    level: 2,
    levelChange: 0.1,
    velocity: 0.5,
    velocityU: 0.02,
  };
  test('is discharge ÷ (v · A), with what its time leaves open', () => {
    const found = gaugedK(moment, box);
    if (!isGauged(found)) throw new Error('no k');
    // 4.2 / (0.5 · 10).
    expect(found.k).toBeCloseTo(0.84, 12);
    // 5 m · 0.1 m / √3 of 10 m² is 2.9 %.
    expect(found.parts.level).toBeCloseTo(0.02887, 5);
    expect(found.U).toBeCloseTo(Math.hypot(0.05, 0.02, 0.02887), 5);
  });
  test('against the stream both are negative, and k is not', () => {
    expect(gaugedK({ ...moment, discharge: -4.2, velocity: -0.5 }, box)).toMatchObject({
      k: expect.closeTo(0.84, 9) as number,
    });
    expect(gaugedK({ ...moment, velocity: -0.5 }, box)).toEqual({ kind: 'against' });
    expect(gaugedK({ ...moment, velocity: 0 }, box)).toEqual({ kind: 'no-velocity' });
    expect(gaugedK({ ...moment, level: -1 }, box)).toEqual({ kind: 'dry' });
    expect(() => gaugedK({ ...moment, U: -0.1 }, box)).toThrow(RangeError);
    expect(() => gaugedK({ ...moment, level: Number.NaN }, box)).toThrow(RangeError);
  });
});

describe('the curve is led by a fit', () => {
  const flat: Support[] = [0.5, 1.5, 2.5, 3.5].map((level) => ({ level, k: 0.85 }));
  test('near a good gauging it follows, far from it it stays', () => {
    const led = fitCurve(flat, [{ level: 1.5, k: 0.8, U: 0.02 }]);
    expect(led[1]!.k).toBeCloseTo(0.8, 2);
    expect(led[3]!.k).toBeCloseTo(0.85, 3);
  });
  test('a gauging that is worth little moves little', () => {
    const little = fitCurve(flat, [{ level: 1.5, k: 0.8, U: 0.5 }])[1]!.k;
    expect(little).toBeGreaterThan(0.84);
  });
  test('without gaugings nothing moves; where they agree, nothing does either', () => {
    expect(fitCurve(flat, [])).toEqual(flat);
    for (const s of fitCurve(flat, [{ level: 2, k: 0.85, U: 0.05 }])) expect(s.k).toBeCloseTo(0.85, 9);
    expect(() => fitCurve(flat, [{ level: 2, k: 0.85, U: 0 }])).toThrow(RangeError);
  });
});
