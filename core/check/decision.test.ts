import { sharesOfChecks, someCheck, someHumidityCheck } from '@/test/checks';
import { normal, uniform } from '@/test/simulate';
import { pooledRepeatability, repeatsThatTell, together } from './repeatability';
import { judgeTaken } from './taken';

/** What a check decides, simulated: docs/judgement.md has 10 000 a row. */
const runs = 2000;

test.each([0.1, 0.25])(
  'scatter of %d tolerances: false adjust below 5 %%, two tolerances off caught above 95 %%, decided above 90 %%',
  (scatter) => {
    const random = uniform(3);
    const { accused, caught, undecided } = sharesOfChecks(random, someCheck(random, 'gum', scatter), 1, runs);
    expect(accused).toBeLessThan(0.05);
    expect(caught).toBeGreaterThan(0.95);
    expect(undecided).toBeLessThan(0.1);
  },
);

test.each([50, 80])(
  'humidity of %d %%RH in one moving air: caught above 90 %%, more than by two thermometers',
  (humidity) => {
    const of = (direct: boolean) => {
      const random = uniform(5);
      return sharesOfChecks(random, someHumidityCheck(random, 'gum', humidity, direct), 3, runs);
    };
    const [direct, brought] = [of(true), of(false)];
    expect(direct.accused).toBeLessThan(0.05);
    expect(direct.caught).toBeGreaterThan(0.9);
    expect(direct.caught).toBeGreaterThan(brought.caught);
  },
);

test.each([0, 1, 4])(
  'half of an offset of six scatters is found in more than 90 %% after %d earlier checks, a full one accused in less than 5 %%',
  (checks) => {
    const draw = normal(uniform(5));
    const set = (at: number) => [0, 1, 2].map(() => at + draw());
    let [half, twice, full] = [0, 0, 0];
    const isFound = (after: number) => {
      const earlier = pooledRepeatability(Array.from({ length: checks }, () => set(0)));
      return judgeTaken(set(6), set(after), -6, earlier, 0)?.kind === 'otherwise';
    };
    for (let i = 0; i < runs; i++) {
      half += Number(isFound(3));
      twice += Number(isFound(-6));
      full += Number(isFound(0));
    }
    expect(half / runs).toBeGreaterThan(0.9);
    expect(twice / runs).toBeGreaterThan(0.9);
    expect(full / runs).toBeLessThan(0.05);
  },
);

test('what was taken is said with its share; without repeats, or of too small an offset, nothing is said', () => {
  const earlier = { s: 0.05, dof: 8 };
  expect(judgeTaken([0.42, 0.4], [0.21, 0.2], -0.4, earlier, 0.01)).toMatchObject({
    kind: 'otherwise',
    share: expect.closeTo(0.51, 2) as number,
  });
  expect(judgeTaken([0.42, 0.4], [0.02, 0], -0.4, earlier, 0.01)?.kind).toBe('taken');
  expect(judgeTaken([0.4], [0], -0.4, null, 0.01)).toBeNull();
  expect(judgeTaken([], [0], -0.4, earlier, 0.01)).toBeNull();
  expect(judgeTaken([0.04], [0], -0.04, earlier, 0.01)).toBeNull();
  // Its last digit is no fault.
  expect(judgeTaken([0.4], [0.05], -0.4, { s: 0.001, dof: 50 }, 0.1)?.kind).toBe('taken');
});

test('repeatability is pooled about the mean of each check (GUM H.3.6); repeats within a time constant are one', () => {
  expect(pooledRepeatability([[0.1, 0.3], [5.2, 5.4], [1]])).toEqual({
    s: expect.closeTo(Math.SQRT2 / 10, 12) as number,
    dof: 2,
  });
  expect(pooledRepeatability([[1], []])).toBeNull();
  expect(together({ s: 1, dof: 1 }, { s: 3, dof: 3 }, null)).toEqual({
    s: expect.closeTo(Math.sqrt(7), 12) as number,
    dof: 4,
  });
  expect(together(null)).toBeNull();
  expect(repeatsThatTell([0, 5, 29, 90, 91], 30)).toBe(2);
  expect(repeatsThatTell([0, 5, 9], 0)).toBe(3);
});
