import { roundTo } from '../quantity/format';

const factors: Readonly<Record<string, number>> = { m: 1, cm: 0.01, mm: 0.001, ft: 0.3048 };

/**
 * A length as it was typed, in metres: metres where no unit stands behind it.
 *
 * @param text a number with a point or a comma, and m, cm, mm or ft behind it
 * @returns m to a tenth of a millimetre; NaN for anything else
 * @example metresOf('341.5 cm') // 3.415
 */
export function metresOf(text: string): number {
  const found = /^\s*([+\-−]?\d*(?:[.,]\d*)?)\s*(m|cm|mm|ft)?\s*$/i.exec(text);
  const digits = found?.[1]?.replace(',', '.').replace('−', '-') ?? '';
  if (!/\d/.test(digits)) return Number.NaN;
  return roundTo(Number(digits) * factors[found![2]?.toLowerCase() ?? 'm']!, 4);
}
