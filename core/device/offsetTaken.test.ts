import fc from 'fast-check';
import { nextStep } from './offsetTaken';

test.each([
  [-0.62, 0.5, -0.5],
  [0.75, 0.5, 1],
  [-0.75, 0.5, -1],
  [0.24, 0.5, 0],
  [-0.24, 0.5, 0],
  [0.15, 0.1, 0.2],
  [233, 10, 230],
  [0.123, null, 0.123],
])('%d in steps of %s is %d', (offset, step, taken) => expect(nextStep(offset, step)).toBe(taken));

test('what is taken is a whole number of steps, never further off than half of one, and odd in its sign', () =>
  fc.assert(
    fc.property(
      fc.double({ min: -1000, max: 1000, noNaN: true }),
      fc.constantFrom(0.01, 0.1, 0.25, 0.5, 1, 2, 10),
      (offset, step) => {
        const taken = nextStep(offset, step);
        expect(Math.abs(taken / step - Math.round(taken / step))).toBeLessThan(1e-6);
        expect(Math.abs(taken - offset)).toBeLessThanOrEqual(step / 2 + 1e-8);
        expect(nextStep(-offset, step)).toBeCloseTo(-taken, 9);
      },
    ),
  ));

test('no step, no offset: refused', () => {
  expect(() => nextStep(1, 0)).toThrow(RangeError);
  expect(() => nextStep(Number.NaN, 1)).toThrow(RangeError);
});
