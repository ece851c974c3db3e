import fc from 'fast-check';
import { atRest, judgeSettling, projectFinal, type TimedValue } from './settling';

const rule = { window: 60, band: 0.1, resolution: 0.01 };
/** First-order response sampled every second. */
const response = (
  final: number,
  start: number,
  tau: number,
  seconds: number,
  noise: (i: number) => number = () => 0,
): TimedValue[] =>
  Array.from({ length: seconds + 1 }, (_, i) => ({
    t: i,
    value: final + (start - final) * Math.exp(-i / tau) + noise(i),
  }));
const wobble = (size: number) => (i: number) => size * Math.sin(i * 12.9898) * Math.cos(i * 4.1414);

describe('settling', () => {
  test('too short a watch says nothing', () => {
    expect(judgeSettling([], rule).state).toBe('watching');
    expect(judgeSettling(response(20, 20, 10, 30), rule)).toEqual({
      state: 'watching',
      watched: 30,
      window: 60,
    });
    expect(
      judgeSettling(
        [
          { t: 0, value: 1 },
          { t: 100, value: 1 },
        ],
        rule,
      ).state,
    ).toBe('watching');
  });
  test('a reading at rest is settled, and says how little it moved', () => {
    const s = judgeSettling(response(20, 20, 10, 90, wobble(0.02)), rule);
    expect(s.state).toBe('settled');
    if (s.state === 'settled') expect(Math.abs(s.movement)).toBeLessThan(0.05);
  });
  test('a moving reading is told where it is heading: 20.000 from 25.000 with τ = 40 s', () => {
    const s = judgeSettling(response(20, 25, 40, 80, wobble(0.01)), rule);
    expect(s.state).toBe('moving');
    if (s.state !== 'moving' || !s.projected) throw new Error('no projection');
    expect(Math.abs(s.projected.final - 20)).toBeLessThan(3 * s.projected.uncertainty + 0.02);
    expect(s.projected.tau).toBeGreaterThan(30);
    expect(s.projected.tau).toBeLessThan(50);
  });
  test('the three-reading example 25.000, 23.0327, 21.8394 → 20.000 holds for the fit of many readings too', () => {
    // Three equally spaced readings of this response are the ones of the closed formula.
    const tau = -1 / Math.log((23.0327 - 20) / 5);
    const many = Array.from({ length: 21 }, (_, i) => ({
      t: i / 10,
      value: 20 + 5 * Math.exp(-i / 10 / tau),
    }));
    expect(many[10]!.value).toBeCloseTo(23.0327, 3);
    expect(many[20]!.value).toBeCloseTo(21.8394, 3);
    expect((25 * 21.8394 - 23.0327 ** 2) / (25 + 21.8394 - 2 * 23.0327)).toBeCloseTo(20, 2);
    expect(projectFinal(many, 0.0001)!.final).toBeCloseTo(20, 2);
  });
  test('a straight line has no final value to project', () => {
    const line = Array.from({ length: 80 }, (_, i) => ({ t: i, value: 20 + i * 0.05 }));
    expect(projectFinal(line, 0.01)).toBeNull();
    const s = judgeSettling(line, rule);
    expect(s).toMatchObject({ state: 'moving', projected: null });
  });
  test('scatter without a trend is called restless, not settled', () => {
    const s = judgeSettling(response(20, 20, 10, 90, wobble(1)), rule);
    expect(s.state).toBe('restless');
  });
  test('missing values are passed over', () => {
    const holes = response(20, 20, 10, 90).map((r, i) => (i % 7 === 0 ? { ...r, value: Number.NaN } : r));
    expect(judgeSettling(holes, rule).state).toBe('settled');
  });
  test('a stuck reading is settled: stillness is not proof of life, other tests look for that', () => {
    expect(judgeSettling(response(5, 5, 1, 120), rule).state).toBe('settled');
  });

  test('property: shifting time or value changes nothing but the value', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: -200, max: 200, noNaN: true }),
        (dt, dv) => {
          const plain = response(20, 22, 30, 100, wobble(0.02));
          const shifted = plain.map((r) => ({ t: r.t + dt, value: r.value + dv }));
          const [a, b] = [judgeSettling(plain, rule), judgeSettling(shifted, rule)];
          expect(b.state).toBe(a.state);
          const [p, q] = [projectFinal(plain, 0.01), projectFinal(shifted, 0.01)];
          if (p && q) expect(Math.abs(q.final - dv - p.final)).toBeLessThan(0.05);
        },
      ),
      { numRuns: 40 },
    );
  });
  test('property: the stated uncertainty covers the truth (three standard uncertainties, nearly always)', () => {
    let inside = 0;
    let said = 0;
    for (let seed = 1; seed <= 60; seed++) {
      let state = seed * 7919;
      const random = () => ((state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff - 0.5) * 2;
      const p = projectFinal(
        response(18, 25, 25, 70, () => 0.03 * (random() + random() + random())),
        0.01,
      );
      if (!p) continue;
      said += 1;
      if (Math.abs(p.final - 18) <= 3 * p.uncertainty) inside += 1;
    }
    expect(said).toBeGreaterThan(50);
    expect(inside / said).toBeGreaterThan(0.9);
  });
});

test('at rest: shown to be so, or said by whoever watched the display; nothing else', () => {
  const still = { movement: 0, band: 1 };
  expect(atRest({ state: 'settled', value: 1, ...still })).toBe(true);
  expect(atRest({ state: 'said', window: 60 })).toBe(true);
  expect(atRest({ state: 'watching', watched: 0, window: 60 })).toBe(false);
  expect(atRest({ state: 'restless', scatter: 1, ...still })).toBe(false);
  expect(atRest({ state: 'moving', projected: null, ...still })).toBe(false);
});
