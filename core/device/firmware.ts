/** A firmware of a device that is known to be bad. */
export interface BadFirmware {
  /** Of its profile, whichever revision. */
  readonly code: string;
  /** Every version from this one on, "2.2.0"; null for all before. */
  readonly from: string | null;
  /** Up to this one, which is good again; null where none is yet. */
  readonly before: string | null;
  /** What is wrong with it: a sentence. */
  readonly says: string;
}

/**
 * Which of two versions is newer, number by number from the left; missing numbers count as 0, anything that is no
 * number as before any number. Common practice, no source.
 *
 * @param a "2.4.1"
 * @param b likewise
 * @returns above 0 where `a` is newer, below 0 where `b` is, 0 for the same
 * @example compareVersions('2.10', '2.9.3') > 0 // true
 */
export function compareVersions(a: string, b: string): number {
  const numbers = (v: string) => v.split('.').map((n) => (/^\d+$/.test(n) ? Number(n) : -1));
  const [x, y] = [numbers(a), numbers(b)];
  for (let i = 0; i < Math.max(x.length, y.length); i++) {
    const d = (x[i] ?? 0) - (y[i] ?? 0);
    if (d !== 0) return d;
  }
  return 0;
}

/**
 * What is known to be wrong with a device's firmware; empty for nothing.
 *
 * @param code of its profile
 * @param version it said
 * @param list of what is known
 */
export const knownBad = (
  code: string,
  version: string,
  list: readonly BadFirmware[],
): readonly BadFirmware[] =>
  list.filter(
    (b) =>
      b.code === code &&
      (b.from === null || compareVersions(version, b.from) >= 0) &&
      (b.before === null || compareVersions(version, b.before) < 0),
  );
