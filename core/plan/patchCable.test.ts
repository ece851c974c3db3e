import { judgePatchCable, patchCableText, pinsOf } from './patchCable';

test('straight and crossed', () => {
  expect(pinsOf(4, false)).toEqual([1, 2, 3, 4]);
  expect(pinsOf(4, true)).toEqual([4, 3, 2, 1]);
  for (const bad of [0, -1, 1.5, Number.NaN]) expect(() => pinsOf(bad, false)).toThrow(RangeError);
});

test('right, open, crossed, short: each pin by its own word', () => {
  expect(judgePatchCable(pinsOf(4, false), [[1], [3], [], [4, 2]])).toEqual([
    { pin: 1, is: 'right' },
    { pin: 2, is: 'crossed', to: 3 },
    { pin: 3, is: 'open' },
    { pin: 4, is: 'short', with: [2] },
  ]);
  // A straight cable where a crossed one belongs: only its middle pin is right.
  expect(judgePatchCable(pinsOf(3, true), [[1], [2], [3]]).map((v) => v.is)).toEqual([
    'crossed',
    'right',
    'crossed',
  ]);
  expect(() => judgePatchCable([1, 2], [[1]])).toThrow(/1 pins tested/);
});

test('what was found, in words', () =>
  expect(patchCableText(judgePatchCable(pinsOf(4, false), [[1], [3], [], [4, 2]]))).toBe(
    'pin 1 right, pin 2 goes to 3, pin 3 open, pin 4 shorted with 2',
  ));
