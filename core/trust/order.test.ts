import fc from 'fast-check';
import { byUrgency, cairnOf, stoneNames, weights, type Finding, type FindingCode } from './finding';

/** Properties of cairn and rank that hold for any findings whatever. */
const finding = fc
  .record({
    stone: fc.constantFrom(...stoneNames),
    state: fc.constantFrom('missing' as const, 'displaced' as const),
    code: fc.constantFrom(...(Object.keys(weights) as FindingCode[])),
  })
  .map((f): Finding => ({ ...f, weight: weights[f.code], channelId: null, text: 'x', next: 'y', bring: [] }));
const findings = fc.array(finding, { maxLength: 8 });
const stop = fc.record({ name: fc.string({ maxLength: 4 }), findings });
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
test('urgency is an order: antisymmetric and transitive, and one finding more never sinks a stop', () => {
  fc.assert(
    fc.property(stop, stop, stop, finding, (a, b, c, more) => {
      expect(Math.sign(byUrgency(a, b))).toBe(-Math.sign(byUrgency(b, a)) + 0);
      if (byUrgency(a, b) <= 0 && byUrgency(b, c) <= 0) expect(byUrgency(a, c)).toBeLessThanOrEqual(0);
      if (byUrgency(a, b) <= 0)
        expect(byUrgency({ ...a, findings: [...a.findings, more] }, b)).toBeLessThanOrEqual(0);
    }),
  );
});
