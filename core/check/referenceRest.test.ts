import { pairReading } from '@/test/pairReading';
import { plainCheckPlan } from '@/test/plainCheckPlan';
import { evaluateCheck } from './evaluate';
import { referenceRest, referenceRests, type ReferenceRest } from './referenceRest';

const rule = { response: 20, window: 60, band: 0.1, resolution: 0.01 };
const still = Array.from({ length: 40 }, (_, i) => ({ t: 2 * i, value: 20 + 0.002 * (i % 3) }));
const warming = Array.from({ length: 40 }, (_, i) => ({ t: 2 * i, value: 20 - 4 * Math.exp(-(2 * i) / 60) }));

test('by its own readings, by what is said, else by five of its time constants', () => {
  expect(referenceRest(rule, still, 5, false)).toEqual({ state: 'settled' });
  expect(referenceRest(rule, warming, 500, false)).toMatchObject({ state: 'moving' });
  expect(referenceRest(rule, warming, 500, true)).toEqual({ state: 'said' });
  expect(referenceRest(rule, [], 99, false)).toEqual({ state: 'waiting', waited: 99, needed: 100 });
  expect(referenceRest(rule, [], 100, false)).toEqual({ state: 'waited', waited: 100, needed: 100 });
  // Nobody states how long it takes: then nothing is said, as before.
  expect(referenceRest({ ...rule, response: 0 }, [], 0, false)).toBeNull();
  expect([null, { state: 'said' } as const].map(referenceRests)).toEqual([true, true]);
  expect(() => referenceRest(rule, [], Number.NaN, false)).toThrow('time waited');
});

test('a display in steps wider than the band still comes to rest', () => {
  const stepped = Array.from({ length: 40 }, (_, i) => ({ t: 2 * i, value: 55 }));
  expect(referenceRest({ ...rule, band: 0.05, resolution: 1 }, stepped, 0, false)).toEqual({
    state: 'settled',
  });
});

const reading = (n: number, shows: number, reference: ReferenceRest | null) =>
  pairReading(n, 20.5, shows, { reference });

test('a check whose reference still moved decides nothing', () => {
  const of = (reference: ReferenceRest | null) =>
    evaluateCheck(
      { plan: plainCheckPlan, readings: [1, 2, 3].map((n) => reading(n, 20.4, reference)), earlier: null },
      [],
    ).verdict;
  expect(of(null)).toEqual({ kind: 'agree' });
  expect(of({ state: 'settled' })).toEqual({ kind: 'agree' });
  expect(of({ state: 'waiting', waited: 3, needed: 100 })).toEqual({
    kind: 'not-settled',
    why: 'reference-moving',
  });
});

test('a certificate puts the reference right, and its U stands in the budget in place of the tolerance', () => {
  const certificate = {
    points: [
      { shown: 0, correction: 0 },
      { shown: 40, correction: 0.4 },
    ],
    uncertainty: 0.06,
    drift: 0.03,
  };
  const readings = [1, 2, 3].map((n) => reading(n, 20, null));
  const of = (plan: typeof plainCheckPlan) => evaluateCheck({ plan, readings, earlier: null }, []);
  const [plain, certified] = [
    of(plainCheckPlan),
    of({ ...plainCheckPlan, certificate, referenceTolerance: 0.09 }),
  ];
  expect(plain.asFound).toBeCloseTo(0.5, 9);
  // 20 shown is 20.2: sensor − reference = 20.5 − 20.2.
  expect(certified.asFound).toBeCloseTo(0.3, 9);
  // The sum of both: 0.3 + 0.06 + 0.03; the GUM's: U/2 for the certificate (JCGM 100, 4.3.3), rectangles for the rest.
  expect(certified.budget!.sum.limit).toBeCloseTo(0.39, 9);
  const u = Math.hypot(
    0.3 / Math.sqrt(3),
    0.01 / Math.sqrt(12),
    0.03,
    0.03 / Math.sqrt(3),
    0.1 / Math.sqrt(12),
  );
  expect(certified.budget!.gum.u).toBeCloseTo(u, 9);
  expect(certified.budget!.gum.contributions.map((c) => c.name)).toContain('certificate of the reference');
});
