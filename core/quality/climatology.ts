import { mean, sampleStandardDeviation } from 'simple-statistics';
import { flag } from './flag';
import type { DayOfRecord, Months, PointTest } from './qualityTest';
import { rangeTest } from './range';
import type { Seconds } from '../time';

export interface MonthlyRange {
  /** Base unit; a month is tested where both of its ends are set. */
  readonly low: Months;
  readonly high: Months;
}

/** The month of a stamp (s), from 0, by UTC: at a month's edge an hour matters little to a climate. */
const monthOf = (at: Seconds): number => new Date(at * 1000).getUTCMonth();
const nextMonth = (at: Seconds): Seconds => {
  const d = new Date(at * 1000);
  return Date.UTC(d.getUTCFullYear(), d.getUTCMonth() + 1) / 1000;
};

/** A month of a year speaks from so many days on, and is believed from so many years on. Our own choice. */
const fewestDays = 20;
const fewestYears = 2;

/**
 * Ranges of the months out of days of a record: as far as the days' lowest and highest values have been,
 * or three standard deviations beyond their mean where that is farther. Null where no month has two
 * years of twenty days. Our own choice; the tests simulate what it misses and what it calls wrong.
 */
export function monthlyRanges(
  days: readonly DayOfRecord[],
  [lowest, highest]: readonly [number, number],
): MonthlyRange | null {
  const ranges = Array.from({ length: 12 }, (_, month) => {
    const years = new Map<number, DayOfRecord[]>();
    for (const day of days)
      if (monthOf(day.at) === month) {
        const year = new Date(day.at * 1000).getUTCFullYear();
        years.set(year, [...(years.get(year) ?? []), day]);
      }
    const whole = [...years.values()].filter((y) => y.length >= fewestDays);
    if (whole.length < fewestYears) return null;
    const [low, high] = [whole.flat().map((d) => d.min), whole.flat().map((d) => d.max)];
    return {
      low: Math.max(lowest, Math.min(...low, mean(low) - 3 * sampleStandardDeviation(low))),
      high: Math.min(highest, Math.max(...high, mean(high) + 3 * sampleStandardDeviation(high))),
    };
  });
  if (ranges.every((r) => r === null)) return null;
  return { low: ranges.map((r) => r?.low ?? null), high: ranges.map((r) => r?.high ?? null) };
}

/**
 * Climatology test: a value outside what its month has been known to bring is suspect.
 * Source: QARTOD manuals (US IOOS), climatology test (from memory: suspect outside the range of the
 * season; no value fails by it).
 */
export const climatology: PointTest<MonthlyRange> = {
  kind: 'point',
  name: 'climatology by month',
  says: 'outside what the month brings: suspect; an empty month is not tested',
  file: 'climatology.ts',
  definition:
    'outside the range of its month (UTC), typed or learned from two years or more of the record: suspect',
  fields: { low: { label: 'from', is: 'months' }, high: { label: 'to', is: 'months' } },
  start: () => null,
  refuse({ low, high }, circular) {
    for (const [month, from] of low.entries()) {
      const to = high[month] ?? null;
      if ((from === null) !== (to === null) || (from !== null && !circular && !(from < to!)))
        return {
          value: from ?? to,
          detail: `Month ${month + 1} runs from ${from ?? 'nothing'} to ${to ?? 'nothing'}.`,
          remedy: 'Give both ends of a month, the lower one below the upper one, or neither.',
        };
    }
    return null;
  },
  judge({ at, value }, { low, high }) {
    const [from, to] = [low[monthOf(at)] ?? null, high[monthOf(at)] ?? null];
    if (from === null || to === null) return Number.isNaN(value) ? flag.missing : flag.notEvaluated;
    return rangeTest(value, from, to, flag.suspect);
  },
  calm: ({ low, high }, _interval, at) => ({
    low: low[monthOf(at)] ?? undefined,
    high: high[monthOf(at)] ?? undefined,
    until: nextMonth(at),
  }),
  learn: {
    name: 'Learn from this record',
    from: (days, { aggregate, range }) => (aggregate === 'circular' ? null : monthlyRanges(days, range)),
  },
};
