import { normal, uniform } from '@/test/simulate';
import { personDifferences, type MadeBy } from './persons';

const check = (
  person: string,
  sensor: string,
  at: number,
  difference: number,
  isAdjusted = false,
): MadeBy => ({ person, sensor, at, difference, isAdjusted });

test('neighbouring checks of one sensor by two persons are a pair, each check in one of them', () => {
  const made = [
    check('A', 's', 3, 0.1),
    check('A', 's', 1, 0),
    check('B', 's', 2, 0.3),
    check('B', 's', 4, 0.4),
    // Adjusted in between: another sensor, so to say.
    check('A', 't', 1, 2, true),
    check('B', 't', 2, 0),
    check('B', 'u', 1, 0.2),
    check('A', 'u', 2, 0),
  ];
  const [a, b] = personDifferences(made);
  expect(a).toMatchObject({ person: 'A', checks: 4, pairs: 3 });
  // (0 − 0.3), (0.1 − 0.4), (0 − 0.2)
  expect(a!.mean).toBeCloseTo(-0.8 / 3, 9);
  expect(b!.mean).toBeCloseTo(0.8 / 3, 9);
  // t = 6.205 at two degrees, two persons: 0.9875; s = 0.0577, √3
  expect(b!.doubt).toBeCloseTo(0.2068, 3);
  expect([a!.differs, b!.differs]).toEqual([true, true]);
  expect(personDifferences(made.slice(0, 3))[0]).toMatchObject({ pairs: 1, mean: null, differs: false });
  expect(() => personDifferences([check('A', 's', 1, Number.NaN)])).toThrow('finite');
});

test('three alike persons: hardly ever one is accused; one who breathes on it is found', () => {
  const random = uniform(3);
  const draw = normal(random);
  const runs = 1000;
  let [accused, found] = [0, 0];
  const world = (bias: number) =>
    Array.from({ length: 12 }, (_, s) => s).flatMap((s) => {
      const error = draw();
      return Array.from({ length: 4 }, (_, n) => {
        const person = 'ABC'[Math.floor(3 * random())]!;
        return check(person, String(s), n, error + 0.3 * draw() + (person === 'C' ? bias : 0));
      });
    });
  for (let i = 0; i < runs; i++) {
    if (personDifferences(world(0)).some((p) => p.differs)) accused++;
    if (personDifferences(world(0.6)).find((p) => p.person === 'C')?.differs) found++;
  }
  expect(accused / runs).toBeLessThan(0.05);
  expect(found / runs).toBeGreaterThan(0.8);
});
