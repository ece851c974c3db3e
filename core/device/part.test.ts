import fc from 'fast-check';
import { readWhenTold } from './adjustmentWay';
import { partCoefficients, partWords, refuseCoefficients } from './part';

const cap = {
  coefficients: [
    { name: 'C0', low: 0.5, high: 2 },
    { name: 'C1', low: -0.2, high: 0.2 },
  ],
};

test('any float32 goes into its two words and comes back', () => {
  fc.assert(
    fc.property(fc.array(fc.float({ noNaN: true, noDefaultInfinity: true }), { maxLength: 16 }), (list) => {
      const words = partWords(list);
      expect(words).toHaveLength(2 * list.length);
      // A coefficient of −0 is one of 0.
      expect(partCoefficients(words).map(Math.fround)).toEqual(list.map((x) => x + 0));
    }),
    { seed: 7 },
  );
});
// IEEE 754 single precision: 1.0 is 0x3F800000, −0.15625 is 0xBE200000 (widely printed).
test('the words are those of IEEE 754', () => {
  expect(partWords([1, -0.15625])).toEqual([0x3f80, 0, 0xbe20, 0]);
  expect(() => partWords([Number.NaN])).toThrow(RangeError);
});
test('what a label says comes back as the label says it', () => {
  const label = [1.4625, 0.02, -0.00217, 3.4e-7, 123456.7];
  expect(partCoefficients(partWords(label))).toEqual(label);
});
test('what no label can say is refused by its place', () => {
  expect(refuseCoefficients(cap, [1.2, 0.1])).toBeNull();
  expect(refuseCoefficients(cap, [12, 0.1])).toEqual({ at: 0, says: 'C0 is 0.5 to 2, not 12' });
  expect(refuseCoefficients(cap, [1.2, Number.NaN])).toMatchObject({ at: 1 });
  expect(refuseCoefficients(cap, [1.2])).toMatchObject({
    at: 1,
    says: 'its label has 2 coefficients, not 1',
  });
});
test('what a device read when it was told a true value follows from its offsets', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -100, max: 100, noNaN: true }),
      fc.double({ min: -10, max: 10, noNaN: true }),
      fc.double({ min: -10, max: 10, noNaN: true }),
      (told, before, read) =>
        // As such a device does it: after = before + (told − read).
        expect(readWhenTold(told, before, before + (told - read))).toBeCloseTo(read, 9),
    ),
    { seed: 7 },
  );
});
