import { isDifferential } from '../device/channelInput';
import { hex } from '../device/connection';
import type { Ability, Terminal } from '../device/loggerProfile';
import { proposeBusId } from '../bus/busId';
import { proposeSdi12Address } from '../bus/sdi12';
import {
  connectionAs,
  currentOf,
  isSignal,
  type DeviceUse,
  type LeadUse,
  type PlanContext,
  type TerminalUse,
} from './context';
import { homeOf, maySeveral } from './fit';
import type { LeadPlace } from './plan';
import { rangeFor, shuntOf, signalVolts } from './signalVolts';

/** What is taken so far, while a place is looked for. */
export interface Taken {
  /** Inputs that take one lead, by their labels. */
  readonly inputs: ReadonlySet<string>;
  /** A drawn from a supply or excitation terminal. */
  readonly drawn: ReadonlyMap<string, number>;
  /** By port: IDs, addresses, unit loads, sensors as they count. */
  readonly ports: ReadonlyMap<string, PortLoad>;
  /** Screws in use: "device mark". */
  readonly screws: ReadonlySet<string>;
  /** Guests by host place: "device label". */
  readonly guests: ReadonlyMap<string, number>;
}
export interface PortLoad {
  readonly ids: readonly (number | string)[];
  readonly load: number;
  readonly sensors: number;
  readonly metres: number;
}
export const noLoad: PortLoad = { ids: [], load: 0, sensors: 0, metres: 0 };

/** One way to land all open leads of a device. */
export interface Option {
  readonly landings: Readonly<Record<string, LeadPlace>>;
  /** Spare leads of a host that are landed with it. */
  readonly hosted: { readonly device: string; readonly landings: Readonly<Record<string, LeadPlace>> } | null;
  readonly busId: number | null;
  readonly busAddress: string | null;
  readonly inputs: readonly string[];
  readonly drawn: readonly (readonly [label: string, amperes: number])[];
  readonly screws: readonly string[];
  /** The host place it ends in, "device label"; null for none. */
  readonly guestOf: string | null;
  readonly port: { readonly name: string; readonly adds: PortLoad } | null;
}

/** Whether a device still has leads to land. */
export const isOpen = (d: DeviceUse): boolean =>
  d.leads.some((l) => l.signal !== 'spare' && l.signal !== 'shield' && !l.terminal && l.lost === null);

/** What a port carries for a device. */
export function loadOf(d: DeviceUse, id: number | string | null): PortLoad {
  return {
    ids: id === null ? [] : [id],
    load: connectionAs(d, 'modbus-rtu')?.unitLoad ?? 0,
    sensors: connectionAs(d, 'daisy-chain')?.countsAs ?? 1,
    metres: d.plan.cable.metres,
  };
}

/** A that a lead draws from the terminal that feeds it. */
export function drawnBy(lead: LeadUse, ability: Ability): number {
  if (ability.does === 'supply') return currentOf(lead.device);
  if (ability.does !== 'excitation') return 0;
  const half = connectionAs(lead.device, 'half-bridge');
  if (half) return ability.volts / (half.fixed.ohms + half.ohms[0]);
  const other = connectionAs(lead.device, 'full-bridge', 'potentiometer');
  return other ? ability.volts / other.ohms : currentOf(lead.device);
}

/** Whether a lead may land on a terminal by what both are, whoever else is there. */
function fits(c: PlanContext, lead: LeadUse, terminal: Terminal): Ability | null {
  const { device } = lead;
  const ability = device.kind && homeOf(terminal, device.kind, lead.signal);
  if (!ability) return null;
  switch (ability.does) {
    case 'supply': {
      const range = device.sensor?.supply ?? device.board?.supply;
      const volts = ability.volts ?? c.plan.supply.volts;
      const lost = (currentOf(device) * 2 * device.plan.cable.metres * device.plan.cable.ohmsPerKm) / 1000;
      return range && volts <= range.high && volts - lost >= range.low ? ability : null;
    }
    case 'excitation': {
      const bridge = connectionAs(device, 'half-bridge', 'full-bridge', 'potentiometer');
      return !bridge || ability.volts <= bridge.mostExcitation ? ability : null;
    }
    case 'data':
    case 'clock': {
      const logic = connectionAs(device, 'i2c', 'clocked')?.logic ?? device.board?.logic;
      return logic === undefined || (logic <= ability.logic + 0.05 && logic >= ability.logic * 0.7)
        ? ability
        : null;
    }
    case 'pulse': {
      const pulse = connectionAs(device, 'pulse');
      return !pulse || (ability.takes.includes(pulse.gives) && pulse.mostHz <= ability.mostHz)
        ? ability
        : null;
    }
    default:
      return ability;
  }
}

/** Whether an input holds a signal, as far as it is known before there is an excitation. */
function inputTakes(d: DeviceUse, lead: LeadUse, terminal: Terminal, ability: Ability): boolean {
  const carries = d.sensor?.outputs.some((o) => o.field.kind === 'lead' && o.field.lead === lead.colour);
  const analog = terminal.abilities.find((a) => a.does === 'analog');
  if (!carries || !d.sensor || (ability.does !== 'analog' && ability.does !== 'current')) return true;
  if (d.kind === 'current') {
    const shunt = shuntOf(d, ability);
    if (shunt === null) return false;
    const volts = signalVolts(d, shunt, null);
    return !analog || !volts || rangeFor(analog, volts) !== undefined;
  }
  if (d.kind !== 'voltage' || !analog) return true;
  return rangeFor(analog, signalVolts(d, null, null)!) !== undefined;
}

/** Whether the inputs of a bridge hold what its excitation makes of it. */
function bridgeFits(d: DeviceUse, at: ReadonlyMap<LeadUse, TerminalUse>): boolean {
  for (const [lead, t] of at) {
    if (lead.signal !== 'excitation') continue;
    const excitation = t.terminal.abilities.find((a) => a.does === 'excitation');
    const volts = signalVolts(d, null, excitation?.volts ?? null);
    if (!volts) return true;
    for (const [other, input] of at) {
      const analog = input.terminal.abilities.find((a) => a.does === 'analog');
      if (other.signal === 'signal+' && analog && !rangeFor(analog, volts)) return false;
    }
  }
  return true;
}

/** Terminals that look the same from here: of one port and ability, with a mate in the same state. */
const likeness = ({ port, terminal }: TerminalUse, taken: Taken): string => {
  const mate = terminal.abilities.find((a) => a.does === 'analog')?.pair ?? null;
  return [
    port.name,
    JSON.stringify(terminal.abilities, (key, value: unknown) => (key === 'pair' ? undefined : value)),
    mate === null ? '' : taken.inputs.has(mate) ? 'taken' : 'free',
    taken.drawn.get(terminal.label) ?? 0,
  ].join(' ');
};

function* distinct(all: Iterable<TerminalUse>, taken: Taken): Generator<TerminalUse> {
  const seen = new Set<string>();
  for (const t of all) {
    const key = likeness(t, taken);
    if (!seen.has(key)) {
      seen.add(key);
      yield t;
    }
  }
}

interface Partial {
  readonly at: ReadonlyMap<LeadUse, TerminalUse>;
  readonly taken: Taken;
}

/** Ways to land the leads that carry what is measured, one lead after the other. */
function* signalWays(c: PlanContext, leads: readonly LeadUse[], so: Partial): Generator<Partial> {
  const [lead, ...rest] = leads;
  if (!lead) {
    yield so;
    return;
  }
  const d = lead.device;
  const candidates = () => {
    const other = mateOf(c, lead, so);
    if (other !== undefined) return other === null ? [] : [other];
    return [...c.terminals.values()];
  };
  const able = candidates().filter((t) => {
    const ability = fits(c, lead, t.terminal);
    if (!ability) return false;
    if (!maySeveral(ability.does, d.kind) && so.taken.inputs.has(t.terminal.label)) return false;
    return inputTakes(d, lead, t.terminal, ability);
  });
  for (const t of distinct(able, so.taken)) {
    const alone = !maySeveral(fits(c, lead, t.terminal)!.does, d.kind);
    yield* signalWays(c, rest, {
      at: new Map(so.at).set(lead, t),
      taken: alone ? { ...so.taken, inputs: new Set(so.taken.inputs).add(t.terminal.label) } : so.taken,
    });
  }
}

/** Where a lead has to go because of one that lies: the other half of a pair, the clock beside its data. Undefined: anywhere. */
function mateOf(c: PlanContext, lead: LeadUse, { at }: Partial): TerminalUse | null | undefined {
  const d = lead.device;
  const lies = (signal: string) => {
    const other = d.leads.find((l) => l.signal === signal);
    return other && (at.get(other) ?? other.terminal);
  };
  const pairOf = (t: TerminalUse | null | undefined) => {
    const pair = t?.terminal.abilities.find((a) => a.does === 'analog')?.pair;
    return pair ? (c.terminals.get(pair) ?? null) : null;
  };
  if (lead.signal === 'signal−' && d.sensor && isDifferential(d.sensor.connection))
    return pairOf(lies('signal+'));
  if (lead.signal === 'sense−' && d.leads.some((l) => l.signal === 'sense+')) return pairOf(lies('sense+'));
  if (lead.signal === 'clock') {
    const data = lies('data');
    if (!data) return null;
    const own = data.port.terminals;
    const after = own
      .slice(own.indexOf(data.terminal) + 1)
      .find((t) => t.abilities.some((a) => a.does === 'clock'));
    return after ? (c.terminals.get(after.label) ?? null) : null;
  }
  return undefined;
}

/** Every way to land the open leads of a device, the likeliest first. */
export function* options(c: PlanContext, d: DeviceUse, taken: Taken): Generator<Option> {
  const open = d.leads.filter((l) => l.signal !== 'spare' && !l.terminal && l.lost === null);
  const hosts = d.sensor?.needsHost ?? null;
  const signals = open.filter((l) => isSignal(l.signal));
  const order = ['signal+', 'data', 'data+', 'pulse', 'sense+', 'signal−', 'data−', 'sense−', 'clock'];
  signals.sort((a, b) => order.indexOf(a.signal) - order.indexOf(b.signal));
  for (const way of signalWays(c, signals, { at: new Map(), taken })) {
    const port = [...way.at.values()][0]?.port ?? d.port;
    const bus = port && busWay(c, d, port.name, way);
    if (port && bus === null) continue;
    for (const fed of feedWays(c, open, way, port?.name ?? null)) {
      const places = new Map([...way.at, ...fed.at]);
      if (!bridgeFits(d, places)) continue;
      const terminals = Object.fromEntries(
        [...places].map(([l, t]) => [l.colour, { at: 'terminal', terminal: t.terminal.label } as const]),
      );
      const common = {
        busId: bus?.busId ?? null,
        busAddress: bus?.busAddress ?? null,
        inputs: [...way.taken.inputs].filter((i) => !taken.inputs.has(i)),
        drawn: fed.drawn,
        port: port && bus ? { name: port.name, adds: bus.adds } : null,
      };
      if (hosts === null) yield { ...common, landings: terminals, hosted: null, screws: [], guestOf: null };
      else yield* hostWays(c, d, hosts, places, taken, common);
    }
  }
}

/** Through screws of a host: its spare leads go where the guest's leads would. */
function* hostWays(
  c: PlanContext,
  d: DeviceUse,
  label: string,
  places: ReadonlyMap<LeadUse, TerminalUse>,
  taken: Taken,
  common: Omit<Option, 'landings' | 'hosted' | 'screws' | 'guestOf'>,
): Generator<Option> {
  for (const host of c.devices)
    for (const place of host.sensor?.hosts ?? []) {
      if (place.label !== label || !(place.takes as readonly string[]).includes(d.kind ?? '')) continue;
      const name = (mark: string) => `${host.plan.id} ${mark}`;
      const free = place.screws.filter(
        (s) => !taken.screws.has(name(s.mark)) && !host.leads.some((l) => l.colour === s.lead && l.terminal),
      );
      const guestOf = `${host.plan.id} ${place.label}`;
      if (free.length < places.size || (taken.guests.get(guestOf) ?? 0) >= place.most) continue;
      const leads = [...places];
      yield {
        ...common,
        landings: Object.fromEntries(
          leads.map(([l], i) => [
            l.colour,
            { at: 'host', device: host.plan.id, screw: free[i]!.mark } as const,
          ]),
        ),
        hosted: {
          device: host.plan.id,
          landings: Object.fromEntries(
            leads.map(([, t], i) => [free[i]!.lead, { at: 'terminal', terminal: t.terminal.label } as const]),
          ),
        },
        screws: leads.map((_, i) => name(free[i]!.mark)),
        guestOf,
      };
    }
}

/** ID or address on a bus, where it has room; null where it has none. */
function busWay(
  c: PlanContext,
  d: DeviceUse,
  name: string,
  way: Partial,
): { busId: number | null; busAddress: string | null; adds: PortLoad } | null {
  const port = c.logger!.ports.find((p) => p.name === name)!;
  const on = way.taken.ports.get(name) ?? noLoad;
  const { bus } = port;
  const plain = (id: number | string | null, busId: number | null, busAddress: string | null) => ({
    busId,
    busAddress,
    adds: loadOf(d, id),
  });
  switch (d.kind) {
    case 'modbus-rtu': {
      if (bus?.kind !== 'modbus-rtu') return null;
      if (on.load + connectionAs(d, 'modbus-rtu')!.unitLoad + 1 > bus.unitLoads) return null;
      const id = d.plan.busId ?? proposeBusId(on.ids.filter((x) => typeof x === 'number'));
      return id === null || on.ids.includes(id) ? null : plain(id, id, null);
    }
    case 'sdi-12': {
      if (bus?.kind !== 'sdi-12' || on.sensors >= bus.sensors) return null;
      const address = d.plan.busAddress ?? proposeSdi12Address(on.ids.filter((x) => typeof x === 'string'));
      return address === null || on.ids.includes(address) ? null : plain(address, null, address);
    }
    case 'daisy-chain': {
      const chain = connectionAs(d, 'daisy-chain')!;
      if (bus?.kind !== 'daisy-chain' || bus.system !== chain.system) return null;
      const strands = c.logger!.ports.filter((p) => p.bus?.kind === 'daisy-chain');
      let [all, metres, builtIn] = [0, 0, 0];
      for (const p of strands) {
        const load = way.taken.ports.get(p.name) ?? noLoad;
        all += load.sensors;
        metres += load.metres;
        if (p.bus?.kind === 'daisy-chain') builtIn += p.bus.builtIn;
      }
      const own = d.plan.cable.metres;
      return on.sensors + chain.countsAs + bus.builtIn > bus.perStrand ||
        all + chain.countsAs + builtIn > bus.perUnit ||
        on.metres + own > bus.metresPerStrand ||
        metres + own > bus.metresInAll
        ? null
        : plain(null, null, null);
    }
    case 'i2c': {
      const data = [...way.at].find(([l]) => l.signal === 'data')?.[1].terminal.label ?? '';
      const here = (address: string) => `${data} ${address}`;
      const { addresses } = connectionAs(d, 'i2c')!;
      const address = d.plan.busAddress ?? addresses.map(hex).find((a) => !on.ids.includes(here(a))) ?? null;
      return address === null || on.ids.includes(here(address)) ? null : plain(here(address), null, address);
    }
    default:
      return plain(null, null, null);
  }
}

/** Ways to feed and earth it: the port's own terminals first. */
function* feedWays(
  c: PlanContext,
  open: readonly LeadUse[],
  { at, taken }: Partial,
  port: string | null,
): Generator<{ at: Map<LeadUse, TerminalUse>; drawn: (readonly [string, number])[] }> {
  const feeding = open.filter((l) => l.signal === 'supply+' || l.signal === 'excitation');
  const earthing = open.filter(
    (l) => l.signal === 'supply−' || l.signal === 'common' || l.signal === 'shield',
  );
  const near = [...c.terminals.values()].sort(
    (a, b) => Number(b.port.name === port) - Number(a.port.name === port),
  );
  const reference = [...at.values()].flatMap((t) =>
    t.terminal.abilities.flatMap((a) => (a.does === 'analog' || a.does === 'current' ? [a.reference] : [])),
  )[0];
  const earths = new Map<LeadUse, TerminalUse>();
  for (const l of earthing) {
    const able = near.filter((t) => fits(c, l, t.terminal));
    const isOf = (t: TerminalUse, does: string) => t.terminal.abilities.some((a) => a.does === does);
    const best =
      (l.signal === 'shield' ? able.find((t) => t.port.name === port && isOf(t, 'shield')) : undefined) ??
      able.find((t) =>
        t.terminal.abilities.some(
          (a) => a.does === 'ground' && reference !== undefined && a.reference === reference,
        ),
      ) ??
      able.find((t) => t.port.name === port && isOf(t, 'ground')) ??
      able.find((t) => isOf(t, 'ground'));
    if (best) earths.set(l, best);
    // A shield may stay open; whatever else has no earth has no place.
    else if (l.signal !== 'shield') return;
  }
  function* feed(
    leads: readonly LeadUse[],
    so: Map<LeadUse, TerminalUse>,
    drawn: (readonly [string, number])[],
  ): Generator<{ at: Map<LeadUse, TerminalUse>; drawn: (readonly [string, number])[] }> {
    const [lead, ...rest] = leads;
    if (!lead) {
      yield { at: new Map([...earths, ...so]), drawn };
      return;
    }
    const able = near.filter((t) => {
      const ability = fits(c, lead, t.terminal);
      if (!ability || (ability.does !== 'supply' && ability.does !== 'excitation')) return false;
      return (taken.drawn.get(t.terminal.label) ?? 0) + drawnBy(lead, ability) <= ability.most + 1e-12;
    });
    for (const t of distinct(able, taken)) {
      const ability = fits(c, lead, t.terminal)!;
      yield* feed(rest, new Map(so).set(lead, t), [...drawn, [t.terminal.label, drawnBy(lead, ability)]]);
    }
  }
  yield* feed(feeding, new Map(), []);
}
