import { flag, type Flag } from './flag';
import type { PointTest, Refused } from './qualityTest';

/**
 * Range test: a value outside low–high gets `bad`, a missing one 9, any other 1. As the gross range
 * test (what the sensor can give: fail) and as the user's range (what is believed here: suspect).
 * Where low is above high the range runs through north, for directions: 330–30 holds 350 and 10.
 * Source: QARTOD manuals (US IOOS), gross range test, for its sensor and its operator span.
 *
 * @param low, high base unit, both ends inside; ±Infinity for an open end
 * @example rangeTest(350, 330, 30, 4) // 1
 */
export function rangeTest(v: number, low: number, high: number, bad: Flag): Flag {
  if (low !== low || high !== high) throw new RangeError(`a range of ${low} to ${high} holds nothing`);
  if (low > high ? v <= high || v >= low : v >= low && v <= high) return flag.good;
  return Number.isNaN(v) ? flag.missing : bad;
}

export interface Range {
  readonly low: number;
  readonly high: number;
}

const fields = { low: { label: 'from', is: 'value' }, high: { label: 'to', is: 'value' } } as const;

const refuseRange = (name: string, { low, high }: Range, circular: boolean): Refused | null =>
  circular || low < high
    ? null
    : {
        value: low,
        detail: `The ${name} runs from ${low} to ${high}.`,
        remedy: 'The lower end must be below the upper one.',
      };

/** What the sensor can give at all. */
export const gross: PointTest<Range> = {
  kind: 'point',
  name: 'gross range',
  says: 'what the sensor can give at all: outside fails',
  file: 'range.ts',
  definition: 'outside what the sensor can give: fail',
  fields,
  start: ({ range }) => ({ low: range[0], high: range[1] }),
  refuse: (limits, circular) => refuseRange('gross range', limits, circular),
  judge: (r, { low, high }) => rangeTest(r.value, low, high, flag.fail),
  calm: (limits) => limits,
};

/** What is believed at this place. */
export const user: PointTest<Range> = {
  kind: 'point',
  name: 'user range',
  says: 'what is believed here: outside is suspect',
  file: 'range.ts',
  definition: 'outside what is believed at this place: suspect; a sector may run through north',
  fields,
  start: () => null,
  refuse: (limits, circular) => refuseRange('user range', limits, circular),
  judge: (r, { low, high }) => rangeTest(r.value, low, high, flag.suspect),
  calm: (limits) => limits,
};
