import type { LoggerProfile, StandAlone } from '../device/loggerProfile';
import { num } from '../plan/rule';
import { notNegative, positive, whole } from '../valid';

const day = 86_400;

/** Days, from the fewest to the most; both may be Infinity. */
export interface Days {
  readonly low: number;
  readonly high: number;
}

/** How long a launched logger goes on by itself. */
export interface Lasting {
  /** Readings a row takes: its channels, its stamp, and its battery where that is stored. */
  readonly perRow: number;
  readonly memory: Days;
  readonly battery: Days;
  /** Until the first of the two ends. */
  readonly ends: Days;
  readonly first: 'memory' | 'battery';
  readonly sums: readonly string[];
}

/**
 * How long memory and battery of a launched logger last, as a range: headers and pages take a share of the memory
 * that hangs on how rows fall into them, cold takes a share of the battery, and neither is known beforehand.
 * Common practice, no source; the shares come from the profile.
 *
 * @param logger its profile: readings it keeps, what stamps, pages and cold take
 * @param use `channels` stored, a whole number from 1; `storeEvery` in s, above 0; `ampereHours` drawn in a day, from 0
 * @example lasting({ memory: 43_000, standAlone: { whenFull: ['stops'], starts: ['now'], perStamp: 0, overhead: 0, battery: { ampereHours: 1, volts: 3.6, change: 3, coldTakes: 0 }, storesBattery: false } }, { channels: 3, storesBattery: false, storeEvery: 300, ampereHours: 0.001 }).ends.low.toFixed(1) // '49.8'
 */
export function lasting(
  { memory, standAlone }: Pick<LoggerProfile, 'memory'> & { readonly standAlone: StandAlone },
  use: {
    readonly channels: number;
    readonly storesBattery: boolean;
    readonly storeEvery: number;
    readonly ampereHours: number;
  },
): Lasting {
  const { channels, storesBattery, storeEvery, ampereHours } = use;
  whole('channels', channels, 1);
  positive('storage interval', storeEvery);
  const { perStamp, overhead } = standAlone;
  const perRow = channels + perStamp + (storesBattery ? 1 : 0);
  const full = ((memory / perRow) * storeEvery) / day;
  const battery = ownBattery(standAlone.battery, ampereHours);
  const lasts = { memory: less(full, overhead), battery: battery.days };
  return {
    perRow,
    ...lasts,
    ends: {
      low: Math.min(lasts.memory.low, lasts.battery.low),
      high: Math.min(lasts.memory.high, lasts.battery.high),
    },
    first: middle(lasts.memory) <= middle(lasts.battery) ? 'memory' : 'battery',
    sums: [
      `${memory} readings ÷ (${channels} channels + ${num(perStamp)} for the stamp${storesBattery ? ' + 1 for its battery' : ''}) × ${num(storeEvery)} s = ${num(full)} d, less up to ${num(overhead * 100)} % for pages and headers: ${daysText(lasts.memory)}`,
      ...(battery.sum === '' ? [] : [battery.sum]),
    ],
  };
}

const less = (most: number, taken: number): Days => ({ low: most * (1 - taken), high: most });

/**
 * How long a logger's own battery lasts when new: what it holds over what is drawn, less what cold may take. Common
 * practice, no source.
 *
 * @param battery of its profile
 * @param ampereHours drawn in a day, from 0
 * @returns days, endless and without a sum where nothing is drawn
 */
export function ownBattery(
  battery: StandAlone['battery'],
  ampereHours: number,
): { readonly days: Days; readonly sum: string } {
  if (notNegative('charge drawn in a day', ampereHours) === 0)
    return { days: { low: Infinity, high: Infinity }, sum: '' };
  const most = battery.ampereHours / ampereHours;
  const days = less(most, battery.coldTakes);
  return {
    days,
    sum: `${num(battery.ampereHours)} Ah ÷ ${num(ampereHours * 1000)} mAh a day = ${num(most)} d, less up to ${num(battery.coldTakes * 100)} % for cold: ${daysText(days)}`,
  };
}

/**
 * The middle of a range, days.
 *
 * @example middle({ low: 80, high: 100 }) // 90
 */
export const middle = ({ low, high }: Days): number => (high === Infinity ? Infinity : (low + high) / 2);

/**
 * Half the width of a range over its middle, share of 1.
 *
 * @example halfWidth({ low: 75, high: 100 }).toFixed(3) // '0.143'
 */
export const halfWidth = ({ low, high }: Days): number => (high === low ? 0 : (high - low) / (high + low));

/**
 * A range of days as people say it.
 *
 * @example daysText({ low: 41.2, high: 45.8 }) // '41–46 days'
 */
export function daysText({ low, high }: Days): string {
  if (low >= 3650) return 'more than ten years';
  const [from, to] = low < 10 ? [low.toFixed(1), high.toFixed(1)] : [Math.floor(low), Math.ceil(high)];
  return high === Infinity ? `more than ${from} days` : from === to ? `${from} days` : `${from}–${to} days`;
}
