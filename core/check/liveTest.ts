import { formatValue } from '../quantity/format';
import { finite, notNegative } from '../valid';

/** One try of a live test, value in the base unit; null with why nothing came. */
export type Try =
  { readonly value: number; readonly why: null } | { readonly value: null; readonly why: string };

export interface LiveTestResult {
  readonly tries: number;
  /** Tries whose value the sensor can have. */
  readonly good: number;
  /** What went wrong, with how often, the commonest first. */
  readonly failures: readonly { readonly why: string; readonly n: number }[];
  /** Of the good ones; null for none. */
  readonly low: number | null;
  readonly high: number | null;
  readonly last: number | null;
}

/**
 * What came of asking a channel several times: n of m, and why not the others. A value that its sensor cannot have is
 * a failure, not a reading. Common practice, no source.
 *
 * @param tries in order
 * @param range what the sensor can show, base unit; null where nobody said
 * @param shown decimals and unit for what is said of a value outside
 */
export function judgeLiveTest(
  tries: readonly Try[],
  range: readonly [low: number, high: number] | null,
  shown: { readonly decimals: number; readonly unit: string },
): LiveTestResult {
  const outside = (value: number) => range !== null && (value < range[0] || value > range[1]);
  const reasons = tries.flatMap((t) => {
    if (t.why !== null) return [t.why];
    return outside(t.value)
      ? [
          `out of range: its sensor shows ${formatValue(range![0], shown.decimals)} to ${formatValue(range![1], shown.decimals)} ${shown.unit}`,
        ]
      : [];
  });
  const counts = new Map<string, number>();
  for (const why of reasons) counts.set(why, (counts.get(why) ?? 0) + 1);
  const good = tries.flatMap((t) => (t.why === null && !outside(t.value) ? [t.value] : []));
  return {
    tries: tries.length,
    good: good.length,
    failures: [...counts].map(([why, n]) => ({ why, n })).sort((a, b) => b.n - a.n),
    low: good.length > 0 ? Math.min(...good) : null,
    high: good.length > 0 ? Math.max(...good) : null,
    last: good.at(-1) ?? null,
  };
}

/**
 * Why a value counts for nothing although it came: the sensor itself says that it is tilted further than it may be.
 * Null where it is not. Common practice, no source.
 *
 * @param tilt ° from the vertical, as it says; sign without meaning
 * @param most ° its profile allows, ≥ 0
 * @example tiltFailure(4.2, 2) // 'tilted: 4.2° from the vertical, 2° at most'
 */
export const tiltFailure = (tilt: number, most: number): string | null =>
  Math.abs(finite('tilt', tilt)) > notNegative('most', most)
    ? `tilted: ${formatValue(Math.abs(tilt), 1)}° from the vertical, ${most}° at most`
    : null;
