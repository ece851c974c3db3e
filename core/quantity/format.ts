/**
 * Numbers as they stand on screen and in the field book: a true minus sign, a sign on every
 * difference, no negative zero, and as many decimals as the instrument's resolution carries.
 */

/** Decimals that show a resolution in full: 0.01 → 2, 0.5 → 1, 1 → 0. Resolution > 0. */
export function decimalsOf(resolution: number): number {
  for (let d = 0; d <= 6; d++) {
    const scaled = resolution * 10 ** d;
    if (Math.abs(scaled - Math.round(scaled)) < 1e-9 * Math.max(1, scaled)) return d;
  }
  return 6;
}

const minus = (text: string) => text.replace('-', '−');

/** A value with fixed decimals; `–` when it is missing (null, NaN or infinite). */
export function formatValue(value: number | null | undefined, decimals: number): string {
  if (value == null || !Number.isFinite(value)) return '–';
  const text = value.toFixed(decimals);
  return minus(Number(text) === 0 ? text.replace('-', '') : text);
}

/** A difference or offset: always signed unless it rounds to zero. */
export function formatDifference(value: number | null | undefined, decimals: number): string {
  if (value == null || !Number.isFinite(value)) return '–';
  const text = formatValue(value, decimals);
  return Number(value.toFixed(decimals)) > 0 ? `+${text}` : text;
}

/** Round half away from zero to a number of decimals, without binary residue in the text form. */
export const roundTo = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** An age in words that a person would say: "40 s", "12 min", "5 h", "3 d". Seconds ≥ 0. */
export function formatAge(seconds: number): string {
  if (!Number.isFinite(seconds)) return 'never';
  const s = Math.abs(seconds);
  if (s < 90) return `${Math.round(s)} s`;
  if (s < 90 * 60) return `${Math.round(s / 60)} min`;
  if (s < 36 * 3600) return `${Math.round(s / 3600)} h`;
  return `${Math.round(s / 86400)} d`;
}
