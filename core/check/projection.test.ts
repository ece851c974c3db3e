import fc from 'fast-check';
import { coverageOf, responses } from '@/test/response';
import { projectFinal } from './projection';

const first = (final: number, start: number, tau: number, seconds: number, every = 1) =>
  Array.from({ length: Math.floor(seconds / every) + 1 }, (_, i) => ({
    t: i * every,
    value: final + (start - final) * Math.exp((-i * every) / tau),
  }));

test('25.000, 23.0327, 21.8394 → 20.000: three readings of a response that many fit', () => {
  // The closed formula of three equally spaced readings, and the fit of all between them and beyond.
  expect((25 * 21.8394 - 23.0327 ** 2) / (25 + 21.8394 - 2 * 23.0327)).toBeCloseTo(20, 2);
  const tau = -1 / Math.log((23.0327 - 20) / 5);
  const many = first(20, 25, tau, 2 * tau, 0.1);
  const p = projectFinal(many, 0.0001)!;
  expect(Math.abs(p.final - 20)).toBeLessThan(0.01);
  expect(p.tau / tau).toBeCloseTo(1, 1);
});

test('too few readings, a straight line, stillness and too little of a response project nothing', () => {
  expect(projectFinal([], 0.01)).toBeNull();
  expect(projectFinal(first(20, 25, 40, 8), 0.01)).toBeNull();
  expect(
    projectFinal(
      Array.from({ length: 80 }, (_, i) => ({ t: i, value: 20 + i * 0.05 })),
      0.01,
    ),
  ).toBeNull();
  expect(
    projectFinal(
      Array.from({ length: 80 }, (_, i) => ({ t: i, value: 20 })),
      0.01,
    ),
  ).toBeNull();
  expect(projectFinal(first(20, 25, 100, 60), 0.01)).toBeNull();
});

test.each(responses)(
  '%s: of 200 seeded runs the stated 95 % hold the truth in 90 to 98 %, or nothing is stated',
  (kind) => {
    const { said, inside } = coverageOf(kind, 200);
    // Of so few the share itself is known to ± 3 to 7 %; docs/judgement.md has more.
    expect([kind, inside / said >= 0.84]).toEqual([kind, true]);
    if (kind === 'first order') expect(said / 200).toBeGreaterThan(0.8);
    if (kind === 'correlated noise') expect(said / 200).toBeLessThan(0.5);
  },
);

test('property: shifting time or value changes nothing but the value', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: -200, max: 200, noNaN: true }),
      (dt, dv) => {
        const wobbling = first(20, 22, 30, 100).map((r, i) => ({
          ...r,
          value: r.value + 0.02 * Math.sin(i * 12.9898),
        }));
        const [p, q] = [wobbling, wobbling.map((r) => ({ t: r.t + dt, value: r.value + dv }))].map((r) =>
          projectFinal(r, 0.01),
        );
        expect(p === null).toBe(q === null);
        if (p && q) expect(Math.abs(q!.final - dv - p.final)).toBeLessThan(0.02);
      },
    ),
    { numRuns: 30 },
  );
});
