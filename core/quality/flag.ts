/**
 * Primary flags of a quality test. Source: QARTOD manuals (US IOOS), "Flags": 1 pass, 2 not evaluated,
 * 3 suspect, 4 fail, 9 missing.
 */
export const flag = { good: 1, notEvaluated: 2, suspect: 3, fail: 4, missing: 9 } as const;
export type Flag = (typeof flag)[keyof typeof flag];

export const flagWord: Readonly<Record<Flag, string>> = {
  1: 'good',
  2: 'not evaluated',
  3: 'suspect',
  4: 'fail',
  9: 'missing',
};

/**
 * A record as the tests take it: stamps in s since epoch, ascending; values in the base unit, NaN
 * where a value is missing. Both arrays are of one length.
 */
export interface Series {
  readonly times: Float64Array;
  readonly values: Float64Array;
}
