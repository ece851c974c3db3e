import { partAge } from './partAge';

/** Ages by the calendar; how long a part serves is its maker’s word. */
const day = 86_400;
const cap = { name: 'oxygen cap', since: 100 * day, goodFor: 365 };

test('a part within its time is good, and says how long it serves', () => {
  expect(partAge(cap, 159.9 * day)).toEqual({
    name: 'oxygen cap in use',
    value: 59,
    unit: 'd',
    decimals: 0,
    isGood: true,
    says: 'It serves 365 days.',
  });
});

test('on its last day it still serves, on the next it does not, and what to do is said', () => {
  expect(partAge(cap, 465 * day).isGood).toBe(true);
  const old = partAge(cap, 466 * day);
  expect(old.isGood).toBe(false);
  expect(old.says).toContain('put another in');
});

test('nobody states how long it serves: its age is said, and judged by nobody', () => {
  const unstated = partAge({ ...cap, goodFor: null }, 5_000 * day);
  expect(unstated.value).toBe(4_900);
  expect(unstated.isGood).toBe(true);
});

test('a check with a time before it was put in finds it new; what is no time is refused', () => {
  expect(partAge(cap, 0).value).toBe(0);
  expect(() => partAge(cap, Number.NaN)).toThrow(RangeError);
});
