import { finite, notNegative, positive } from '../valid';

/** An as-found difference of a check. */
export interface FoundDifference {
  /** ms since epoch */
  readonly at: number;
  /** Base unit. */
  readonly difference: number;
  /** The instrument it was found against, and what that is good for, ±, base unit. */
  readonly reference: string;
  readonly referenceTolerance: number;
}

export interface DriftOutlook {
  /** Base units per day. */
  readonly perDay: number;
  /** Standard error of it, base units per day. */
  readonly uncertainty: number;
  /** When the straight line reaches ± limit, ms since epoch. */
  readonly reachesLimitAt: number;
  /** Checks it rests on, and the days between the first and the last. */
  readonly checks: number;
  readonly days: number;
}

/** Checks closer together than this in all say nothing of a drift, days. Our own choice. */
export const shortestDrift = 14;
/**
 * Two checks of one unchanged sensor scatter by so much of the limit, as a standard deviation: air that
 * was not quite still, a hand too near. Our own choice; few checks cannot tell it themselves.
 */
export const usualScatter = 1 / 3;
/** A slope of fewer standard errors than this is taken for chance: 95 % of a normal distribution, two-sided. */
export const beyondChance = 1.96;

/**
 * Straight line through as-found differences since the last adjustment, and when it leaves ± limit:
 * only where the slope is more than chance. Its standard error comes from the usual scatter, or from
 * that of the differences about the line where it is wider; where references were changed, their
 * tolerances (rectangular) come in, since a change of reference looks like a step of the sensor.
 * Null for fewer than two checks, less than `shortestDrift` days, chance, or a line towards agreement.
 *
 * Weighted straight line after Taylor, An Introduction to Error Analysis (1997), 8.4 and problem 8.9
 * (from memory); rectangular limits by JCGM 100:2008, 4.3.7. What it claims is simulated in
 * `drift.test.ts` and tabled in docs/judgement.md.
 *
 * @param found ascending by time
 * @param limit base unit, > 0
 * @throws RangeError for a time or difference that is not finite, a limit that is not above 0, a negative tolerance
 */
export function driftOutlook(found: readonly FoundDifference[], limit: number): DriftOutlook | null {
  positive('limit', limit);
  const n = found.length;
  if (n < 2) return null;
  const day = 86_400_000;
  const t0 = found[0]!.at;
  const xs = found.map((f) => (finite('time', f.at) - t0) / day);
  const ys = found.map((f) => finite('difference', f.difference));
  const days = xs[n - 1]!;
  if (days < shortestDrift) return null;
  const oneReference = found.every((f) => f.reference === found[0]!.reference);
  const variances = found.map(
    (f) =>
      (usualScatter * limit) ** 2 +
      (oneReference ? 0 : notNegative('reference tolerance', f.referenceTolerance) ** 2 / 3),
  );
  const weights = variances.map((v) => 1 / v);
  const sum = (of: (i: number) => number) => weights.reduce((s, w, i) => s + w * of(i), 0);
  const all = sum(() => 1);
  const xMean = sum((i) => xs[i]!) / all;
  const yMean = sum((i) => ys[i]!) / all;
  const sxx = sum((i) => (xs[i]! - xMean) ** 2);
  if (!(sxx > 0)) return null;
  const perDay = sum((i) => (xs[i]! - xMean) * (ys[i]! - yMean)) / sxx;
  // Wider than was allowed for: then the differences themselves say how wide.
  const wider = n > 2 ? sum((i) => (ys[i]! - yMean - perDay * (xs[i]! - xMean)) ** 2) / (n - 2) : 0;
  const uncertainty = Math.sqrt(Math.max(1, wider) / sxx);
  if (Math.abs(perDay) <= beyondChance * uncertainty) return null;
  const now = yMean + perDay * (days - xMean);
  if (Math.sign(now) !== Math.sign(perDay)) return null;
  const reaches = xMean + (Math.sign(perDay) * limit - yMean) / perDay;
  return { perDay, uncertainty, reachesLimitAt: t0 + reaches * day, checks: n, days };
}
