import type { Connection, ConnectionKind } from '../device/connection';
import type { AccessoryProfile, BoardProfile, DeviceProfile } from '../device/equipment';
import {
  terminalsOf,
  type Ability,
  type LoggerPort,
  type LoggerProfile,
  type Terminal,
} from '../device/loggerProfile';
import type { SensorProfile } from '../device/profile';
import type { Signal } from '../wiring/landing';
import { homeOf } from './fit';
import { pinName, type LeadPlace, type Pin, type Plan, type PlannedDevice } from './plan';

/** A lead of a planned device, and where it ends. */
export interface LeadUse {
  readonly device: DeviceUse;
  readonly colour: string;
  readonly signal: Signal;
  /** The terminal it comes to, through a splice too; null for none. */
  readonly terminal: TerminalUse | null;
  /** What it uses there; null where it is not at home. */
  readonly ability: Ability | null;
  /** Screw of another sensor; null for none. */
  readonly host: { readonly device: string; readonly screw: string } | null;
  /** A terminal or splice that it names and that is not there; null for none. */
  readonly lost: string | null;
}

export interface TerminalUse {
  readonly port: LoggerPort;
  readonly terminal: Terminal;
  readonly leads: LeadUse[];
}

/** A planned device with its description, where it is found. */
export interface DeviceUse {
  readonly plan: PlannedDevice;
  readonly sensor: SensorProfile | null;
  readonly board: BoardProfile | null;
  readonly kind: ConnectionKind | 'board' | null;
  readonly leads: LeadUse[];
  readonly accessories: readonly AccessoryProfile[];
  /** The port its signal leads end in; null while none does. */
  port: LoggerPort | null;
}

/** What reaches a device, with its sum. */
export interface SupplyReach {
  /** V at the terminal. */
  readonly from: number;
  /** V lost on the way. */
  readonly drop: number;
  readonly sum: string;
}

/** A plan with everything rules ask for, gathered once. */
export interface PlanContext {
  readonly plan: Plan;
  readonly logger: LoggerProfile | null;
  readonly devices: readonly DeviceUse[];
  readonly byId: ReadonlyMap<string, DeviceUse>;
  readonly terminals: ReadonlyMap<string, TerminalUse>;
  /** Devices by the name of the port their signal ends in. */
  readonly onPort: ReadonlyMap<string, readonly DeviceUse[]>;
  /** Pins whose profile is not there. */
  readonly missing: readonly { readonly pin: Pin; readonly device: string | null }[];
}

/** Profiles by `pinName`. */
export type Profiles = ReadonlyMap<string, DeviceProfile>;

/** The profiles of a list by `pinName`. */
export const profilesByPin = (profiles: readonly DeviceProfile[]): Profiles =>
  new Map(profiles.map((p) => [pinName(p), p]));

/**
 * Gathers what rules ask for.
 *
 * @param plan what is planned
 * @param profiles those it pins; one that is missing becomes a finding
 */
export function planContext(plan: Plan, profiles: Profiles): PlanContext {
  const missing: { pin: Pin; device: string | null }[] = [];
  const find = <K extends DeviceProfile['kind']>(pin: Pin, kinds: readonly K[], device: string | null) => {
    const found = profiles.get(pinName(pin));
    if (found && (kinds as readonly string[]).includes(found.kind))
      return found as Extract<DeviceProfile, { kind: K }>;
    missing.push({ pin, device });
    return null;
  };
  const logger = find(plan.logger, ['logger'], null);
  const terminals = new Map<string, TerminalUse>(
    (logger ? terminalsOf(logger) : []).map(({ port, terminal }) => [
      terminal.label,
      { port, terminal, leads: [] },
    ]),
  );
  const resolve = placeResolver(plan, profiles);
  const devices = plan.devices.map((planned): DeviceUse => {
    const profile = find(planned.profile, ['sensor', 'board'], planned.id);
    const sensor = profile?.kind === 'sensor' ? profile : null;
    const board = profile?.kind === 'board' ? profile : null;
    const use: DeviceUse = {
      plan: planned,
      sensor,
      board,
      kind: sensor ? sensor.connection.kind : board ? 'board' : null,
      leads: [],
      accessories: planned.accessories.flatMap((pin) => find(pin, ['accessory'], planned.id) ?? []),
      port: null,
    };
    for (const { colour, signal } of profile?.leads ?? []) {
      const place = Object.hasOwn(planned.landings, colour) ? planned.landings[colour]! : null;
      const { label, lost } = resolve(place, 0);
      const terminal = label === null ? null : (terminals.get(label) ?? null);
      const lead: LeadUse = {
        device: use,
        colour,
        signal,
        terminal,
        ability: terminal && use.kind ? homeOf(terminal.terminal, use.kind, signal) : null,
        host: place?.at === 'host' ? { device: place.device, screw: place.screw } : null,
        lost: lost ?? (label !== null && !terminal ? label : null),
      };
      use.leads.push(lead);
      // A spare lead is where another sensor's lead comes to the terminal: that one is counted there.
      if (terminal && signal !== 'spare') terminal.leads.push(lead);
      if (terminal && isSignal(signal)) use.port ??= terminal.port;
    }
    return use;
  });
  const onPort = new Map<string, DeviceUse[]>();
  for (const d of devices)
    if (d.port) {
      const there = onPort.get(d.port.name);
      if (there) there.push(d);
      else onPort.set(d.port.name, [d]);
    }
  return {
    plan,
    logger,
    devices,
    byId: new Map(devices.map((d) => [d.plan.id, d])),
    terminals,
    onPort,
    missing,
  };
}

const feeds: ReadonlySet<Signal> = new Set<Signal>([
  'supply+',
  'supply−',
  'common',
  'shield',
  'excitation',
  'spare',
]);
/** Whether a lead carries what is measured, rather than feeding or earthing. */
export const isSignal = (signal: Signal): boolean => !feeds.has(signal);

/** The connection of a device, where it is of a kind. */
export const connectionAs = <K extends ConnectionKind>(
  { sensor }: DeviceUse,
  ...kinds: readonly K[]
): Extract<Connection, { kind: K }> | null =>
  sensor && (kinds as readonly string[]).includes(sensor.connection.kind)
    ? (sensor.connection as Extract<Connection, { kind: K }>)
    : null;

/** "Well A (Ness P4 vented level transmitter)". */
export const deviceName = ({ plan, sensor, board }: DeviceUse): string =>
  `${plan.name} (${sensor?.name ?? board?.name ?? pinName(plan.profile)})`;

/** What it draws, A; 0 for one nobody knows. */
export const currentOf = ({ sensor, board }: DeviceUse): number => sensor?.current ?? board?.current ?? 0;

/** Hosts in hosts in hosts: deeper than this nobody wires. */
const deepest = 4;

/** Where a place comes to: the label of a terminal, through splices and hosts; or what it names that is not there. */
function placeResolver(plan: Plan, profiles: Profiles) {
  const splices = new Map(plan.splices.map((s) => [s.name, s.terminal]));
  const byId = new Map(plan.devices.map((d) => [d.id, d]));
  const none = { label: null, lost: null };
  return function resolve(
    place: LeadPlace | null,
    depth: number,
  ): { readonly label: string | null; readonly lost: string | null } {
    switch (place?.at) {
      case undefined:
        return none;
      case 'terminal':
        return { label: place.terminal, lost: null };
      case 'splice':
        return splices.has(place.splice)
          ? { label: splices.get(place.splice) ?? null, lost: null }
          : { label: null, lost: `splice ${place.splice}` };
      case 'host': {
        const host = byId.get(place.device);
        const profile = host && profiles.get(pinName(host.profile));
        const lead =
          profile?.kind === 'sensor'
            ? profile.hosts.flatMap((h) => h.screws).find((s) => s.mark === place.screw)?.lead
            : undefined;
        if (!host || lead === undefined) return { label: null, lost: `screw ${place.screw}` };
        const next = Object.hasOwn(host.landings, lead) ? host.landings[lead]! : null;
        return depth < deepest ? resolve(next, depth + 1) : none;
      }
    }
  };
}
