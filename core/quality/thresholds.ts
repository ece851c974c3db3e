import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { setTests, testOf, type QualityThresholds, type SetTest } from './tests';

/** Records sparser than this have only the gross range to start with, s. Our own choice. */
const longestTested = 6 * 3600;

const forEach = (limits: (test: SetTest) => unknown): QualityThresholds =>
  Object.fromEntries(setTests.map((test) => [test, limits(test)])) as unknown as QualityThresholds;

/**
 * Starting values per quantity, our own choice (`usual` in core/quantity/quantity.ts): wide enough that
 * ordinary weather, tides and doors pass, to be narrowed for each channel.
 *
 * @param interval storage interval, s, where it is known: a step from day to day or month to month is
 * weather, not a spike, and the limits of minutes and hours say nothing of it
 * @example defaultThresholds('rain').spike // null
 */
export const defaultThresholds = (code: QuantityCode, interval: number | null = null): QualityThresholds =>
  forEach((test) => testOf(test).start(quantityOf(code), interval !== null && interval > longestTested));

/** Thresholds as they were stored, by whatever version: a test that is newer than they are is off. */
export const completed = (stored: Partial<QualityThresholds>): QualityThresholds =>
  forEach((test) => stored[test] ?? null);

export interface ThresholdRefusal {
  readonly field: string;
  readonly value: unknown;
  readonly detail: string;
  readonly remedy: string;
}

/** What is wrong with thresholds someone typed; null for nothing. */
export function refuseThresholds(code: QuantityCode, thresholds: QualityThresholds): ThresholdRefusal | null {
  const circular = quantityOf(code).aggregate === 'circular';
  for (const field of setTests) {
    const limits = thresholds[field];
    const refused = limits === null ? null : testOf(field).refuse(limits, circular);
    if (refused) return { field, ...refused };
  }
  return null;
}
