import { flag, type Flag } from './flag';

/**
 * Range test: a value outside low–high gets `bad`, a missing one 9, any other 1. As the gross range
 * test (what the sensor can give: fail) and as the user's range (what is believed here: suspect).
 * Where low is above high the range runs through north, for directions: 330–30 holds 350 and 10.
 * Source: QARTOD manuals (US IOOS), gross range test, for its sensor and its operator span.
 *
 * @param low, high base unit, both ends inside; ±Infinity for an open end
 */
export function rangeTest(v: number, low: number, high: number, bad: Flag): Flag {
  if (low !== low || high !== high) throw new RangeError(`a range of ${low} to ${high} holds nothing`);
  if (low > high ? v <= high || v >= low : v >= low && v <= high) return flag.good;
  return Number.isNaN(v) ? flag.missing : bad;
}
