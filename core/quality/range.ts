import { flag, type Flag } from './flag';

/**
 * Range test: values outside low–high get `bad`, missing ones 9, the others 1. As the gross range
 * test (what the sensor can give: fail) and as the user's range (what is believed here: suspect).
 * Where low is above high the range runs through north, for directions: 330–30 holds 350 and 10.
 * Source: QARTOD manuals (US IOOS), gross range test, for its sensor and its operator span.
 *
 * @param low, high base unit, both ends inside; ±Infinity for an open end
 */
export function rangeTest(
  values: Float64Array,
  low: number,
  high: number,
  bad: Flag,
  into = new Uint8Array(values.length),
): Uint8Array {
  // Almost all readings are good: only the others are written one by one.
  into.fill(flag.good);
  const through = low > high;
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!;
    if (through ? v <= high || v >= low : v >= low && v <= high) continue;
    into[i] = v === v ? bad : flag.missing;
  }
  return into;
}
