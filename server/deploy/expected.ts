import { lasting, type Days, type Lasting } from '@/core/deploy/lasting';
import { planContext, type Profiles } from '@/core/plan/context';
import { energyOf } from '@/core/plan/energy';
import { usualIntervals } from '@/core/plan/endurance';
import type { Plan } from '@/core/plan/plan';
import type { Database } from '@/db/database';
import type { Expected, ExpectedDays } from '@/db/stored/deploy';
import { planOfStation } from '../plan/plan';
import type { StationGraph } from '../station/stationGraph';
import { requireLaunchable } from './deployment';

/** What a launched logger draws, by its plan: a launched logger measures when it stores. */

/** Ah drawn in a day at a storage interval, s. */
export function ampereHoursOf(plan: Plan, profiles: Profiles, storeEvery: number): number {
  const energy = energyOf(planContext({ ...plan, measureEvery: storeEvery }, profiles));
  return energy ? energy.wattHours / plan.supply.volts : 0;
}

/** Ah a day at every interval that people use, and at those in use. */
export const drawsOf = (
  plan: Plan,
  profiles: Profiles,
  inUse: readonly number[],
): { storeEvery: number; ampereHours: number }[] =>
  [...new Set([...usualIntervals, ...inUse])]
    .sort((a, b) => a - b)
    .map((storeEvery) => ({ storeEvery, ampereHours: ampereHoursOf(plan, profiles, storeEvery) }));

/** How long a launch is said to last. */
export async function lastingOf(
  db: Database,
  graph: StationGraph,
  channels: number,
  storeEvery: number,
  storesBattery: boolean,
): Promise<Lasting> {
  const { plan, profiles } = await planOfStation(db, graph);
  return lasting(requireLaunchable(graph), {
    channels,
    storesBattery,
    storeEvery,
    ampereHours: ampereHoursOf(plan, profiles, storeEvery),
  });
}

const kept = ({ low, high }: Days): ExpectedDays => ({
  low: Number.isFinite(low) ? low : null,
  high: Number.isFinite(high) ? high : null,
});

/** The same, as it is kept with the launch. */
export async function expectedOf(...of: Parameters<typeof lastingOf>): Promise<Expected> {
  const { memory, battery, ends, sums } = await lastingOf(...of);
  return { memory: kept(memory), battery: kept(battery), ends: kept(ends), sums };
}
