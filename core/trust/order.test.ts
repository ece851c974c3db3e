import fc from 'fast-check';
import { cairnOf, findingKinds, stoneNames, urgencyOf, type FindingCode } from './finding';

/** Properties of cairn and rank that hold for any findings whatever. */
const finding = fc
  .record({
    stone: fc.constantFrom(...stoneNames),
    state: fc.constantFrom('missing' as const, 'displaced' as const),
    code: fc.constantFrom(...(Object.keys(findingKinds) as FindingCode[])),
  })
  .map((f) => ({ ...f, weight: findingKinds[f.code].weight }));
const findings = fc.array(finding, { maxLength: 8 });
const worth = { sound: 0, missing: 1, displaced: 2 } as const;

test('one finding more never sets a stone upright', () => {
  fc.assert(
    fc.property(findings, finding, (all, more) => {
      const [before, after] = [cairnOf(all), cairnOf([...all, more])];
      for (const s of stoneNames) expect(worth[after[s]]).toBeGreaterThanOrEqual(worth[before[s]]);
    }),
  );
});
test('a stone is sound exactly when nothing is said of it', () => {
  fc.assert(
    fc.property(findings, (all) => {
      for (const s of stoneNames) expect(cairnOf(all)[s] === 'sound').toBe(!all.some((f) => f.stone === s));
    }),
  );
});
test('the order of the findings does not matter', () => {
  fc.assert(
    fc.property(findings, (all) => {
      expect(cairnOf([...all].reverse())).toEqual(cairnOf(all));
    }),
  );
});
test('one finding more never makes a stop less urgent', () => {
  fc.assert(
    fc.property(findings, finding, (all, more) => {
      const [before, after] = [urgencyOf(all), urgencyOf([...all, more])];
      expect(after.heaviest).toBeGreaterThanOrEqual(before.heaviest);
      expect(after.total).toBeGreaterThan(before.total);
    }),
  );
});
