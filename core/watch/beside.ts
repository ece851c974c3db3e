import type { Milliseconds } from '../time';

/**
 * What another series last read at each of some stamps.
 *
 * @param stamps ms, in any order; asked fastest in rising order
 * @param at stamps of the other series, ms, rising
 * @param value its values
 * @param oldest how old its value may be, ms
 * @returns NaN where there is none that is young enough
 */
export function lastRead(
  stamps: Float64Array,
  at: Float64Array,
  value: Float64Array,
  oldest: Milliseconds,
): Float64Array {
  const found = new Float64Array(stamps.length);
  let i = 0;
  for (let n = 0; n < stamps.length; n++) {
    const t = stamps[n]!;
    while (i > 0 && at[i - 1]! > t) i--;
    while (i < at.length && at[i]! <= t) i++;
    found[n] = i > 0 && t - at[i - 1]! <= oldest ? value[i - 1]! : NaN;
  }
  return found;
}
