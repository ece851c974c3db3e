import { connectionAs, planContext, type DeviceUse, type PlanContext, type Profiles } from './context';
import { maySeveral } from './fit';
import type { Plan, PlannedDevice } from './plan';
import {
  drawnBy,
  isOpen,
  loadOf,
  noLoad,
  options,
  type Option,
  type PortLoad,
  type Taken,
} from './proposeOptions';

/** What was found: a plan with every lead landed, the devices that cannot all be landed, or nothing in the time given. */
export type Proposal =
  | { readonly kind: 'plan'; readonly plan: Plan; readonly landed: readonly string[] }
  /** `with`: devices that hold what they would need. */
  | {
      readonly kind: 'conflict';
      readonly devices: readonly string[];
      readonly heldBy: readonly string[];
      readonly smallest: boolean;
    }
  | { readonly kind: 'gave-up'; readonly tried: number };

/** Places tried before it gives up. */
const mostTries = 60_000;

/** What lies already. */
function takenBy(c: PlanContext): Taken {
  const inputs = new Set<string>();
  const drawn = new Map<string, number>();
  const screws = new Set<string>();
  const guests = new Map<string, Set<string>>();
  const ports = new Map<string, PortLoad>();
  for (const { terminal, leads } of c.terminals.values())
    for (const lead of leads) {
      if (!lead.ability) continue;
      if (!maySeveral(lead.ability.does, lead.device.kind)) inputs.add(terminal.label);
      const amperes = drawnBy(lead, lead.ability);
      if (amperes > 0) drawn.set(terminal.label, (drawn.get(terminal.label) ?? 0) + amperes);
    }
  for (const d of c.devices) {
    for (const l of d.leads)
      if (l.host) {
        screws.add(`${l.host.device} ${l.host.screw}`);
        const place = c.byId
          .get(l.host.device)
          ?.sensor?.hosts.find((h) => h.screws.some((s) => s.mark === l.host!.screw));
        const key = `${l.host.device} ${place?.label ?? ''}`;
        guests.set(key, (guests.get(key) ?? new Set()).add(d.plan.id));
      }
    if (d.port && !isOpen(d)) ports.set(d.port.name, add(ports.get(d.port.name), loadOf(d, idOf(d))));
  }
  return { inputs, drawn, screws, ports, guests: new Map([...guests].map(([k, v]) => [k, v.size])) };
}

const idOf = (d: DeviceUse): number | string | null => {
  if (d.kind !== 'i2c') return d.plan.busId ?? d.plan.busAddress;
  const data = d.leads.find((l) => l.signal === 'data')?.terminal?.terminal.label ?? '';
  return d.plan.busAddress === null ? null : `${data} ${d.plan.busAddress}`;
};

const add = (a: PortLoad = noLoad, b: PortLoad): PortLoad => ({
  ids: [...a.ids, ...b.ids],
  load: a.load + b.load,
  sensors: a.sensors + b.sensors,
  metres: a.metres + b.metres,
});

function after(taken: Taken, o: Option): Taken {
  const drawn = new Map(taken.drawn);
  for (const [label, amperes] of o.drawn) drawn.set(label, (drawn.get(label) ?? 0) + amperes);
  return {
    inputs: o.inputs.length ? new Set([...taken.inputs, ...o.inputs]) : taken.inputs,
    drawn,
    screws: o.screws.length ? new Set([...taken.screws, ...o.screws]) : taken.screws,
    guests: o.guestOf
      ? new Map(taken.guests).set(o.guestOf, (taken.guests.get(o.guestOf) ?? 0) + 1)
      : taken.guests,
    ports: o.port
      ? new Map(taken.ports).set(o.port.name, add(taken.ports.get(o.port.name), o.port.adds))
      : taken.ports,
  };
}

type Found = ReadonlyMap<DeviceUse, Option> | null;

/** A place for every device, by depth-first search: the one with the fewest ways first, dead ends remembered. */
function search(
  c: PlanContext,
  devices: readonly DeviceUse[],
  start: Taken,
  budget: { left: number },
): Found {
  const dead = new Set<string>();
  const kinds = new Map(devices.map((d) => [d, JSON.stringify({ ...d.plan, id: '', name: '', serial: '' })]));
  const stateKey = (left: readonly DeviceUse[], t: Taken) =>
    JSON.stringify([
      left.map((d) => kinds.get(d)).sort(),
      [...t.inputs].sort(),
      [...t.drawn].map(([k, v]) => `${k} ${v.toFixed(9)}`).sort(),
      [...t.ports]
        .map(([k, v]) => `${k} ${v.load} ${v.sensors} ${v.metres} ${[...v.ids].sort().join()}`)
        .sort(),
      [...t.screws].sort(),
    ]);
  const go = (left: readonly DeviceUse[], t: Taken): Found => {
    if (left.length === 0) return new Map();
    const key = stateKey(left, t);
    if (dead.has(key)) return null;
    let best: { d: DeviceUse; ways: Option[] } | null = null;
    for (const d of left) {
      const ways: Option[] = [];
      for (const o of options(c, d, t)) {
        ways.push(o);
        if (best && ways.length >= best.ways.length) break;
      }
      if (!best || ways.length < best.ways.length) best = { d, ways };
      if (ways.length <= 1) break;
    }
    const rest = left.filter((d) => d !== best!.d);
    for (const o of best!.ways) {
      if (budget.left-- <= 0) return null;
      const found = go(rest, after(t, o));
      if (found) return new Map(found).set(best!.d, o);
    }
    dead.add(key);
    return null;
  };
  return go(devices, start);
}

/**
 * A place for every open lead of a plan, whatever lies already left as it is: inputs that take the signal,
 * pairs for what needs them, a supply that bears it, a free ID or address, room on the bus, a host where one is
 * needed. Finds one whenever there is one, within `mostTries`; else the smallest set of devices that cannot be
 * landed together: by size up to three while that is quick, beyond that one from which none can be left out.
 *
 * @param plan with open leads
 * @param profiles those it pins
 */
export function propose(plan: Plan, profiles: Profiles): Proposal {
  const c = planContext(plan, profiles);
  const open = c.devices.filter((d) => d.kind !== null && isOpen(d));
  const start = takenBy(c);
  const budget = { left: mostTries };
  const found = search(c, open, start, budget);
  if (found) return { kind: 'plan', plan: landed(plan, found), landed: open.map((d) => d.plan.id) };
  if (budget.left <= 0) return { kind: 'gave-up', tried: mostTries };
  return conflict(c, open, start);
}

function conflict(c: PlanContext, open: readonly DeviceUse[], start: Taken): Proposal {
  const impossible = (set: readonly DeviceUse[]): boolean => {
    const budget = { left: mostTries };
    return search(c, set, start, budget) === null && budget.left > 0;
  };
  const said = (set: readonly DeviceUse[], smallest: boolean): Proposal => ({
    kind: 'conflict',
    devices: set.map((d) => d.plan.id),
    heldBy: holders(c, set),
    smallest,
  });
  for (const size of [1, 2, 3]) {
    if (combinations(open.length, size) > mostSubsets) break;
    for (const set of subsets(open, size)) if (impossible(set)) return said(set, true);
  }
  // None so small: leave out one after the other while it stays impossible.
  let set = [...open];
  for (const d of open) {
    const without = set.filter((x) => x !== d);
    if (impossible(without)) set = without;
  }
  return said(set, false);
}

/** Sets looked through for the smallest one. */
const mostSubsets = 2000;
const combinations = (n: number, k: number): number =>
  Array.from({ length: k }, (_, i) => (n - i) / (i + 1)).reduce((product, f) => product * f, 1);

function* subsets<T>(of: readonly T[], size: number, from = 0): Generator<T[]> {
  if (size === 0) yield [];
  else
    for (let i = from; i <= of.length - size; i++)
      for (const rest of subsets(of, size - 1, i + 1)) yield [of[i]!, ...rest];
}

/** Who lies on inputs of the kinds these devices need. */
function holders(c: PlanContext, set: readonly DeviceUse[]): string[] {
  const kinds = new Set(set.map((d) => d.kind));
  return c.devices
    .filter((d) => !set.includes(d) && !isOpen(d) && (kinds.has(d.kind) || sharesInputs(d, set)))
    .map((d) => d.plan.id);
}
const analogKinds = [
  'voltage',
  'current',
  'half-bridge',
  'full-bridge',
  'prt',
  'thermistor',
  'potentiometer',
] as const;
const sharesInputs = (d: DeviceUse, set: readonly DeviceUse[]) =>
  connectionAs(d, ...analogKinds) !== null && set.some((x) => connectionAs(x, ...analogKinds) !== null);

function landed(plan: Plan, found: ReadonlyMap<DeviceUse, Option>): Plan {
  const ways = new Map([...found].map(([d, o]) => [d.plan.id, o]));
  const hosted = new Map<string, PlannedDevice['landings']>();
  for (const o of ways.values())
    if (o.hosted) hosted.set(o.hosted.device, { ...hosted.get(o.hosted.device), ...o.hosted.landings });
  return {
    ...plan,
    devices: plan.devices.map((d) => {
      const o = ways.get(d.id);
      const spare = hosted.get(d.id);
      if (!o && !spare) return d;
      return {
        ...d,
        landings: { ...d.landings, ...o?.landings, ...spare },
        busId: d.busId ?? o?.busId ?? null,
        busAddress: d.busAddress ?? o?.busAddress ?? null,
      };
    }),
  };
}
