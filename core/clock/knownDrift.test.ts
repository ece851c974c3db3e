import { driftedStamp } from '../series/correction';
import { knownDrift, stampDoubt, type ClockContact } from './knownDrift';

const contact = (stamp: number, difference: number, run = 1): ClockContact => ({
  stamp,
  difference,
  uncertainty: 0.5,
  run,
});
const contacts = [contact(0, 4), contact(1_000_000, 14), contact(2_000_000, 0, 2), contact(3_000_000, 1, 2)];

test('between two comparisons of a run a stamp means what both say', () => {
  const drifts = knownDrift(contacts);
  expect(drifts).toHaveLength(2);
  // Half-way it was 9 s fast.
  expect(driftedStamp(drifts, 500_000, 1)).toBe(491_000);
  // Nobody knows what went on while the clock was set.
  expect(driftedStamp(drifts, 1_500_000, 1)).toBe(1_500_000);
});
test('its time is in doubt by the comparisons; beyond them by what the nearest found', () => {
  expect(stampDoubt(contacts, 500_000)).toBe(0.5);
  expect(stampDoubt(contacts, 1_500_000)).toBe(14.5);
  expect(stampDoubt(contacts, 9_000_000)).toBe(1.5);
  expect(stampDoubt(contacts, -5)).toBe(4.5);
  expect(stampDoubt([], 0)).toBe(0);
  expect(() => stampDoubt(contacts, Number.NaN)).toThrow(RangeError);
});
