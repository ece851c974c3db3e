import { planContext, type PlanContext, type Profiles } from './context';
import { energyOf, usable } from './energy';
import type { Plan } from './plan';
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

/**
 * Readings a logger keeps, over channels and storage interval; the usable share of its battery, over what the
 * plan draws in a day.
 * Common practice, no source (three channels every 5 min fill 43 000 readings in 49.8 days).
 *
 * @param c the plan with its profiles; its storage interval in s, above 0
 */
export function endurance(c: PlanContext): Endurance {
  const { logger, plan } = c;
  const channels = c.devices.reduce((n, d) => n + d.plan.mapped.length, 0);
  const memoryDays = logger && channels > 0 ? ((logger.memory / channels) * plan.storeEvery) / day : null;
  const energy = energyOf(c);
  const { batteryAh, volts } = plan.supply;
  const batteryDays =
    energy && batteryAh !== null && energy.wattHours > 0
      ? (batteryAh * volts * usable) / energy.wattHours
      : null;
  const [memory, battery] = [memoryDays ?? Infinity, batteryDays ?? Infinity];
  return {
    channels,
    memoryDays,
    batteryDays,
    first: memory === Infinity && battery === Infinity ? null : memory <= battery ? 'memory' : 'battery',
    sums: [
      ...(memoryDays === null
        ? []
        : [
            `${logger!.memory} readings ÷ ${channels} channels × ${num(plan.storeEvery)} s = ${num(memoryDays)} d`,
          ]),
      ...(batteryDays === null
        ? []
        : [
            `${num(batteryAh!)} Ah × ${num(volts)} V × ${usable} ÷ ${Number(energy!.wattHours.toPrecision(3))} Wh a day = ${num(batteryDays)} d`,
          ]),
    ],
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
 * @param plan with its storage and measurement interval in s
 */
export function switches(plan: Plan, profiles: Profiles): readonly Switch[] {
  const of = (says: string, changed: Plan): Switch => ({
    says,
    then: endurance(planContext(changed, profiles)),
  });
  const longer = usualIntervals.find((s) => s > plan.storeEvery);
  const now = daysOf(endurance(planContext(plan, profiles)));
  return [
    ...(longer === undefined
      ? []
      : [of(`stored every ${intervalText(longer)}`, { ...plan, storeEvery: longer })]),
    ...(plan.measureEvery < plan.storeEvery
      ? [
          of(`measured every ${intervalText(plan.storeEvery)} too`, {
            ...plan,
            measureEvery: plan.storeEvery,
          }),
        ]
      : []),
    ...plan.devices
      .filter((d) => d.mapped.length > 0)
      .map((d) =>
        of(`without ${d.name}`, {
          ...plan,
          devices: plan.devices.map((x) => (x.id === d.id ? { ...x, mapped: [] } : x)),
        }),
      ),
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
