import { currentOf, type DeviceUse, type PlanContext } from './context';
import type { Plan } from './plan';
import { num } from './rule';
import { busyTime } from './scanTime';
import { dayEnergy, feederOf } from './supply';

/** What a plan draws in a day, Wh, with its parts; null without a described logger. */
export function energyOf(c: PlanContext): { readonly wattHours: number; readonly sum: string } | null {
  if (!c.logger) return null;
  let always = 0;
  let switched = 0;
  for (const d of c.devices)
    if (onWhileMeasured(d)) switched += currentOf(d);
    else always += currentOf(d);
  const busy = busyTime(c);
  const { volts } = c.plan.supply;
  const every = c.plan.measureEvery;
  const { sleeps, works } = c.logger;
  const wattHours = dayEnergy({ volts, sleeps, works, always, switched, every, busy });
  const share = num(Math.min(1, busy / every) * 100);
  return {
    wattHours,
    sum: `(${num(sleeps * 1000)} mA asleep + ${num((works + switched) * 1000)} mA for ${share} % of the time + ${num(always * 1000)} mA always) × ${num(volts)} V × 24 h = ${num(wattHours)} Wh a day`,
  };
}

/** Fed by a switched supply, or by nothing but the excitation of its bridge: draws only while it is measured. */
const onWhileMeasured = (d: DeviceUse): boolean =>
  feederOf(d)?.ability.switched ?? d.leads.some((l) => l.signal === 'excitation');

/** What of a battery may be used before it suffers. Common practice for lead, no source. */
export const usable = 0.5;

/**
 * Days a plan's battery lasts without sun; null for one fed by mains, or that draws nothing.
 *
 * @param wattHours drawn in a day
 */
export const batteryDays = (
  wattHours: number,
  { supply: { batteryAh, volts } }: Pick<Plan, 'supply'>,
): number | null => (batteryAh !== null && wattHours > 0 ? (batteryAh * volts * usable) / wattHours : null);
