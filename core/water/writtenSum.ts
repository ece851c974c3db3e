import { roundTo } from '../quantity/format';

/**
 * A level worked out by hand, as it was written: numbers added and taken away, "12.340 − 3.415". What stands behind "="
 * has to be what comes out.
 *
 * @param text numbers in m with a point or a comma, + and − between them
 * @returns signed numbers and what they come to, m to the millimetre; null for anything else, or where the written result
 *   is another
 * @example writtenSum('12.340 − 3.415')?.result // 8.925
 */
export function writtenSum(
  text: string,
): { readonly parts: readonly number[]; readonly result: number } | null {
  const [left = '', right, ...more] = text.replaceAll('−', '-').replaceAll(',', '.').split('=');
  const sum = left.replaceAll(/\s+/g, '').replace(/m$/i, '');
  if (more.length > 0 || !/^[+-]?\d{1,6}(\.\d{1,6})?([+-]\d{1,6}(\.\d{1,6})?)*$/.test(sum)) return null;
  const parts = (sum.match(/[+-]?[\d.]+/g) ?? []).map(Number);
  const result = roundTo(
    parts.reduce((s, p) => s + p, 0),
    3,
  );
  if (right === undefined) return { parts, result };
  const written = Number(right.replaceAll(/[\s]|m$/gi, ''));
  return right.trim() !== '' && Math.abs(written - result) < 0.0006 ? { parts, result } : null;
}
