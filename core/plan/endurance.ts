import { planContext, type PlanContext, type Profiles } from './context';
import { lasting, ownBattery } from '../deploy/lasting';
import { batteryDays, energyOf, usable } from './energy';
import { num } from './rule';

const day = 86_400;

/** How long a station goes on by itself: until its memory is full, until its battery is used. */
export interface Endurance {
  /** Channels that are stored. */
  readonly channels: number;
  /** Days; null where nothing is stored, or nobody described the logger. */
  readonly memoryDays: number | null;
  /** Days without sun; null for a station fed by mains. */
  readonly batteryDays: number | null;
  /** What ends first; null where neither does. */
  readonly first: 'memory' | 'battery' | null;
  readonly sums: readonly string[];
}

/** Channels of a plan that are stored. */
export const storedChannels = ({ devices }: Pick<PlanContext, 'devices'>): number =>
  devices.reduce((n, d) => n + d.plan.mapped.length, 0);

/**
 * Days until a logger's memory is full: readings it keeps over channels, times the storage interval.
 * Common practice, no source (three channels every 5 min fill 43 000 readings in 49.8 days).
 *
 * @param readings it keeps, above 0
 * @param channels that are stored; null is returned for none
 * @param storeEvery s, above 0
 * @example memoryDays(43_000, 3, 300)?.toFixed(1) // '49.8'
 */
export const memoryDays = (readings: number, channels: number, storeEvery: number): number | null =>
  channels > 0 ? ((readings / channels) * storeEvery) / day : null;

/**
 * Days until the memory of a plan's logger is full, with the sum; null where nothing is stored, or nobody described
 * the logger. Of a launched logger the fewest days, since pages and headers take a share.
 *
 * @param c the plan with its profiles
 * @param channels that are stored, from 0
 * @param storeEvery s, above 0
 */
export function memoryOf(
  { logger }: Pick<PlanContext, 'logger'>,
  channels: number,
  storeEvery: number,
): { readonly days: number; readonly sum: string } | null {
  if (!logger || channels <= 0) return null;
  const { memory, standAlone } = logger;
  if (standAlone) {
    const lasts = lasting(
      { memory, standAlone },
      { channels, storesBattery: false, storeEvery, ampereHours: 0 },
    );
    return { days: lasts.memory.low, sum: lasts.sums[0]! };
  }
  const days = memoryDays(memory, channels, storeEvery)!;
  return { days, sum: `${memory} readings ÷ ${channels} channels × ${num(storeEvery)} s = ${num(days)} d` };
}

/**
 * How long a plan lasts, of any channels and storage interval: what it draws does not hang on them, so it is
 * reckoned once. The usable share of the battery, over what is drawn in a day; common practice, no source.
 *
 * @param c the plan with its profiles
 * @returns of the channels stored and the storage interval in s, above 0; those of the plan where left out
 */
export function endurance(c: PlanContext): (channels?: number, storeEvery?: number) => Endurance {
  const { plan } = c;
  const energy = energyOf(c);
  const { batteryAh, volts } = plan.supply;
  const fed = energy && batteryDays(energy.wattHours, plan);
  const alone = c.logger?.standAlone;
  const own =
    alone && fed === null && energy && energy.wattHours > 0
      ? ownBattery(alone.battery, energy.wattHours / volts)
      : null;
  const battery = fed ?? own?.days.low ?? null;
  const batterySums =
    fed !== null
      ? [
          `${num(batteryAh!)} Ah × ${num(volts)} V × ${usable} ÷ ${Number(energy!.wattHours.toPrecision(3))} Wh a day = ${num(fed)} d`,
        ]
      : own
        ? [`its own battery: ${own.sum}`]
        : [];
  return (channels = storedChannels(c), storeEvery = plan.storeEvery) => {
    const memory = memoryOf(c, channels, storeEvery);
    const [m, b] = [memory?.days ?? Infinity, battery ?? Infinity];
    return {
      channels,
      memoryDays: memory?.days ?? null,
      batteryDays: battery,
      first: m === Infinity && b === Infinity ? null : m <= b ? 'memory' : 'battery',
      sums: [...(memory ? [memory.sum] : []), ...batterySums],
    };
  };
}

/**
 * Days until the first of the two ends; Infinity where neither does.
 *
 * @param e how long both last, days
 */
export const daysOf = (e: Pick<Endurance, 'memoryDays' | 'batteryDays'>): number =>
  Math.min(e.memoryDays ?? Infinity, e.batteryDays ?? Infinity);

/** Storage intervals that people use, s: all divide a day. */
export const usualIntervals: readonly number[] = [
  60, 120, 300, 600, 900, 1800, 3600, 7200, 10_800, 21_600, 43_200, 86_400,
];

/** Something that could be switched, and how long the station lasts then. */
export interface Switch {
  readonly says: string;
  readonly then: Endurance;
}

/**
 * What buys time: the next longer storage interval, measuring no oftener than is stored, each sensor's channels
 * off; what buys less than a hundredth is left out.
 *
 * @param c the plan with its profiles; storage and measurement interval in s
 * @param profiles those of the plan
 */
export function switches(c: PlanContext, profiles: Profiles): readonly Switch[] {
  const { plan } = c;
  const lasts = endurance(c);
  const channels = storedChannels(c);
  const now = daysOf(lasts());
  const longer = usualIntervals.find((s) => s > plan.storeEvery);
  const seldom = { ...plan, measureEvery: plan.storeEvery };
  return [
    ...(longer === undefined
      ? []
      : [{ says: `stored every ${intervalText(longer)}`, then: lasts(channels, longer) }]),
    ...(plan.measureEvery < plan.storeEvery
      ? [
          {
            says: `measured every ${intervalText(plan.storeEvery)} too`,
            then: endurance(planContext(seldom, profiles))(),
          },
        ]
      : []),
    ...plan.devices
      .filter((d) => d.mapped.length > 0)
      .map((d) => ({
        says: `channels of ${d.name} off`,
        then: lasts(channels - d.mapped.length),
      })),
  ].filter(({ then }) => daysOf(then) > now * 1.01);
}

/**
 * An interval in the unit people say it in.
 *
 * @param seconds above 0
 * @example intervalText(1800) // '30 min'
 */
export const intervalText = (seconds: number): string =>
  seconds % 3600 === 0
    ? `${seconds / 3600} h`
    : seconds % 60 === 0
      ? `${seconds / 60} min`
      : `${num(seconds)} s`;
