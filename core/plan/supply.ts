import { currentOf, type DeviceUse, type PlanContext, type SupplyReach } from './context';
import { num } from './rule';

/** Ω out and back of a cable. */
const loop = ({ metres, ohmsPerKm }: { readonly metres: number; readonly ohmsPerKm: number }): number =>
  (2 * metres * ohmsPerKm) / 1000;

/** The terminal that feeds a device; null for none. */
export const feederOf = (d: DeviceUse) => {
  const lead = d.leads.find((l) => l.signal === 'supply+' && l.ability?.does === 'supply');
  return lead?.terminal && lead.ability?.does === 'supply'
    ? { terminal: lead.terminal, ability: lead.ability }
    : null;
};

/**
 * What reaches every device that is fed, V, and the drop on the way, with its sum. Drop = current × resistance
 * out and back (Ohm). On a shared run the currents of all that hang on it flow; in a chain those of all that
 * come after. Common practice.
 *
 * @param c the plan, gathered
 */
export function supplies(c: PlanContext): ReadonlyMap<DeviceUse, SupplyReach> {
  const known = reckoned.get(c);
  if (known) return known;
  const reach = new Map<DeviceUse, SupplyReach>();
  const runs = new Map(c.plan.runs.map((r) => [r.name, r]));
  const onRun = new Map<string, number>();
  for (const d of c.devices)
    if (d.plan.cable.run !== null)
      onRun.set(d.plan.cable.run, (onRun.get(d.plan.cable.run) ?? 0) + currentOf(d));
  for (const d of c.devices) {
    const feeder = feederOf(d);
    if (!feeder) continue;
    const from = feeder.ability.volts ?? c.plan.supply.volts;
    if (d.kind === 'daisy-chain') {
      reach.set(d, chained(c, d, from));
      continue;
    }
    const own = currentOf(d) * loop(d.plan.cable);
    const run = d.plan.cable.run === null ? undefined : runs.get(d.plan.cable.run);
    const along = run ? onRun.get(run.name)! * loop(run) : 0;
    const parts = [
      num(from),
      ...(run ? [`${num(onRun.get(run.name)! * 1000)} mA × ${num(loop(run))} Ω`] : []),
      `${num(currentOf(d) * 1000)} mA × ${num(loop(d.plan.cable))} Ω`,
    ];
    const drop = own + along;
    reach.set(d, { from, drop, sum: `${parts.join(' − ')} = ${(from - drop).toFixed(2)} V` });
  }
  reckoned.set(c, reach);
  return reach;
}

/** Several rules ask for it: reckoned once for a plan. */
const reckoned = new WeakMap<PlanContext, ReadonlyMap<DeviceUse, SupplyReach>>();

/** Along a chain: each piece of cable carries the current of all that come after it. */
function chained(c: PlanContext, d: DeviceUse, from: number): SupplyReach {
  const strand = (c.onPort.get(d.port?.name ?? '') ?? []).filter((x) => x.kind === 'daisy-chain');
  const last = strand.indexOf(d);
  let after = strand.reduce((sum, x) => sum + currentOf(x), 0);
  let drop = 0;
  for (const x of strand.slice(0, last + 1)) {
    drop += after * loop(x.plan.cable);
    after -= currentOf(x);
  }
  return {
    from,
    drop,
    sum: `${num(from)} − ${num(drop)} (over ${last + 1} of ${strand.length} along the chain) = ${(from - drop).toFixed(2)} V`,
  };
}

/**
 * What a plan draws in a day, Wh: the logger asleep, awake for `busy` s of every measurement, and the sensors,
 * those on a switched supply only while they are measured.
 *
 * @param busy s a measurement takes, warm-up included
 * @example dayEnergy({ volts: 12, sleeps: 0.002, works: 0.05, always: 0.01, switched: 0, every: 600, busy: 6 }) // 3.594
 */
export function dayEnergy(d: {
  readonly volts: number;
  /** A */
  readonly sleeps: number;
  readonly works: number;
  readonly always: number;
  readonly switched: number;
  /** s */
  readonly every: number;
  readonly busy: number;
}): number {
  const duty = Math.min(1, d.busy / d.every);
  const mean = d.sleeps * (1 - duty) + (d.works + d.switched) * duty + d.always;
  return mean * d.volts * 24;
}
