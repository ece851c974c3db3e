import { positive } from '../valid';

/**
 * Numbers as they stand on screen and in the field book: a true minus sign, a sign on every
 * difference, no negative zero, and as many decimals as the instrument's resolution carries.
 */

/**
 * Decimals that show a resolution in full: 0.01 → 2, 0.5 → 1, 1 → 0. Resolution > 0, RangeError otherwise.
 *
 * @example decimalsOf(0.05) // 2
 */
export function decimalsOf(resolution: number): number {
  positive('resolution', resolution);
  for (let d = 0; d <= 6; d++) {
    const scaled = resolution * 10 ** d;
    if (Math.abs(scaled - Math.round(scaled)) < 1e-9 * Math.max(1, scaled)) return d;
  }
  return 6;
}

const minus = (text: string) => text.replace('-', '−');

/**
 * A finite number with fixed decimals, halves away from zero as people round by hand: 1.005 → 1.01,
 * −2.5 → −3. The decimal digits of the number are rounded, not its binary neighbour (for which
 * `toFixed` gives 1.00). No negative zero.
 *
 * @param decimals 0–15, whole; RangeError otherwise
 */
function fixed(value: number, decimals: number): string {
  if (!Number.isInteger(decimals) || decimals < 0 || decimals > 15)
    throw new RangeError(`${decimals} decimals are not 0–15`);
  const [digits, exponent = '0'] = String(Math.abs(value)).split('e');
  const scaled = Math.round(Number(`${digits}e${Number(exponent) + decimals}`));
  // Beyond what an integer holds exactly there is nothing left to round.
  const rounded = Number.isSafeInteger(scaled) ? Number(`${scaled}e-${decimals}`) : Math.abs(value);
  const text = rounded.toFixed(decimals);
  return value < 0 && rounded !== 0 ? `-${text}` : text;
}

/**
 * A value with fixed decimals; `–` when it is missing (null, NaN or infinite).
 *
 * @example formatValue(12.345, 1) // '12.3'
 */
export function formatValue(value: number | null | undefined, decimals: number): string {
  if (value == null || !Number.isFinite(value)) return '–';
  return minus(fixed(value, decimals));
}

/**
 * A difference or offset: always signed unless it rounds to zero.
 *
 * @example formatDifference(-0.24, 1) // '−0.2'
 */
export function formatDifference(value: number | null | undefined, decimals: number): string {
  if (value == null || !Number.isFinite(value)) return '–';
  const text = formatValue(value, decimals);
  return roundTo(value, decimals) > 0 ? `+${text}` : text;
}

/**
 * Rounds half away from zero to a number of decimals, without binary residue in the text form; NaN and infinities stay.
 *
 * @example roundTo(2.345, 2) // 2.35
 */
export const roundTo = (value: number, decimals: number): number =>
  Number.isFinite(value) ? Number(fixed(value, decimals)) : value;

/**
 * A difference with its sum, as it adds up in print: the result is that of the two rounded numbers,
 * so that whoever works it out again finds the same. 21.436 − 21.334 at two decimals is
 * "21.44 − 21.33 = +0.11".
 */
export const differenceSum = (a: number, b: number, decimals: number): string =>
  `${formatValue(a, decimals)} − ${formatValue(b, decimals)} = ${formatDifference(roundTo(a, decimals) - roundTo(b, decimals), decimals)}`;

/** What was there, what was added and what came of it, as it adds up in print: "+0.0 + (−3.2) = −3.2". */
export const additionSum = (before: number, after: number, decimals: number): string =>
  `${formatDifference(before, decimals)} + (${formatDifference(roundTo(after, decimals) - roundTo(before, decimals), decimals)}) = ${formatDifference(after, decimals)}`;

/**
 * An age in words that a person would say: "40 s", "12 min", "5 h", "3 d", "8 years". Seconds ≥ 0.
 *
 * @example formatAge(7200) // '2 h'
 */
export function formatAge(seconds: number): string {
  if (!Number.isFinite(seconds)) return 'never';
  const s = Math.abs(seconds);
  if (s < 90) return `${Math.round(s)} s`;
  if (s < 90 * 60) return `${Math.round(s / 60)} min`;
  if (s < 36 * 3600) return `${Math.round(s / 3600)} h`;
  const days = s / 86400;
  return days < 1000 ? `${Math.round(days)} d` : `${Math.round(days / 365.25)} years`;
}
