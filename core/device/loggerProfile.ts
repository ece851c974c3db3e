import type { OwnAbilities } from '../settings/ownSettings';
import type { LoggerWay } from './adjustmentWay';
import type { ConnectionOf } from './connection';
import type { OffsetTaken } from './offsetTaken';
import { repeated, type Refusal } from './profile';

/** What a terminal of a logger can do. One terminal may do several. */
export type Ability =
  /** Feeds sensors; null: the logger's own supply comes through. `most`: A in all. */
  | {
      readonly does: 'supply';
      readonly volts: number | null;
      readonly most: number;
      /** On only while it measures. */
      readonly switched: boolean;
    }
  /** Terminals of one `reference` are joined inside. */
  | { readonly does: 'ground'; readonly reference: string }
  | { readonly does: 'shield' }
  | { readonly does: 'excitation'; readonly volts: number; readonly most: number }
  /** Reads a voltage, alone against `reference` or, with `pair`, against that terminal. */
  | {
      readonly does: 'analog';
      readonly ranges: readonly (readonly [low: number, high: number])[];
      readonly bits: number;
      /** Ω */
      readonly inputResistance: number;
      readonly pair: string | null;
      readonly reference: string;
    }
  /** Reads a current through a resistor of its own, Ω. */
  | { readonly does: 'current'; readonly shunt: number; readonly bits: number; readonly reference: string }
  | {
      readonly does: 'pulse';
      readonly takes: readonly ConnectionOf<'pulse'>['gives'][];
      readonly mostHz: number;
    }
  | { readonly does: 'data+' }
  | { readonly does: 'data−' }
  | { readonly does: 'sdi-12' }
  | { readonly does: 'chain' }
  /** Digital pins; Ω of a pull-up, null for none. */
  | { readonly does: 'data'; readonly logic: number; readonly pullUp: number | null }
  | { readonly does: 'clock'; readonly logic: number; readonly pullUp: number | null };
export type AbilityName = Ability['does'];

export interface Terminal {
  readonly label: string;
  readonly abilities: readonly Ability[];
}

/** What holds for a port as a whole; null for a row of terminals. */
export type PortBus =
  | {
      readonly kind: 'modbus-rtu';
      /** TIA-485 unit loads it drives. */
      readonly unitLoads: number;
      readonly biased: boolean;
      readonly terminated: boolean;
    }
  | { readonly kind: 'sdi-12'; readonly sensors: number; readonly metres: number }
  | {
      readonly kind: 'daisy-chain';
      readonly system: string;
      /** Sensors on one port, on all of the logger, and m of cable on one port and on all. */
      readonly perStrand: number;
      readonly perUnit: number;
      readonly metresPerStrand: number;
      readonly metresInAll: number;
      /** Slots its built-in sensor takes. */
      readonly builtIn: number;
    }
  | { readonly kind: 'i2c'; readonly metres: number };

export interface LoggerPort {
  readonly name: string;
  readonly bus: PortBus | null;
  /** A socket for plugs, where it has one. */
  readonly socket: { readonly type: string; readonly keyed: boolean } | null;
  readonly terminals: readonly Terminal[];
}

/** What a stand-alone logger may do when its memory is full. */
export type WhenFull = 'stops' | 'overwrites';
/** How the recording of a launched logger begins. */
export type StartsBy = 'now' | 'whole-interval' | 'at' | 'button';
export const startsBy: readonly StartsBy[] = ['now', 'whole-interval', 'at', 'button'];

/** What a logger does that is launched, left alone, and read out later. */
export interface StandAlone {
  /** What it can be told to do when its memory is full. */
  readonly whenFull: readonly WhenFull[];
  readonly starts: readonly StartsBy[];
  /** Readings that the stamp of a row takes beside its values. */
  readonly perStamp: number;
  /** What headers and pages may take of its memory, share of 1. */
  readonly overhead: number;
  /** Its own battery: Ah, V when new, V at which it is to be changed, and what cold may take, share of 1. */
  readonly battery: {
    readonly ampereHours: number;
    readonly volts: number;
    readonly change: number;
    readonly coldTakes: number;
  };
  /** It can store the voltage of its own battery too: one more reading a row. */
  readonly storesBattery: boolean;
}

/** What a write of settings does to a logger that starts anew with them. */
export interface Restarts {
  /** s until it measures and answers again, at most. */
  readonly seconds: number;
  /** What its outputs do meanwhile. */
  readonly outputs: 'none' | 'hold' | 'off';
}
export const outputsMeanwhile: Readonly<Record<Restarts['outputs'], string>> = {
  none: 'it has no outputs',
  hold: 'its outputs stay as they are',
  off: 'its outputs go off: what it heats, ventilates or irrigates stands still',
};

/** A logger or controller as data. */
export interface LoggerProfile {
  readonly kind: 'logger';
  readonly code: string;
  readonly revision: number;
  readonly name: string;
  /** How it is spoken to: asked over its HTTP interface, or read out over a file link. */
  readonly driver: 'http' | 'file-link';
  readonly supply: { readonly low: number; readonly high: number; readonly preferred: number };
  /** A, asleep and while it measures. */
  readonly sleeps: number;
  readonly works: number;
  /** Channels, and readings it keeps. */
  readonly channels: number;
  readonly memory: number;
  /** Where it is launched and left alone; left out for one that records from when it has settings. */
  readonly standAlone?: StandAlone;
  /** What of itself it can be told; left out for one that takes nothing. */
  readonly own?: OwnAbilities;
  /** Left out: it keeps what it is told at once. Else until power-off, unless it is told to store. */
  readonly keeps?: 'when told';
  /** How it takes an adjustment; left out: an offset, absolute or added. */
  readonly takes?: readonly LoggerWay[];
  /** In which steps it takes an offset, and how far, quantity by quantity; left out: every digit, any. */
  readonly offsets?: readonly OffsetTaken[];
  /** Left out: it goes on measuring. */
  readonly restarts?: Restarts;
  readonly ports: readonly LoggerPort[];
  readonly cautions: readonly string[];
}

/** All its terminals with their ports, in order. */
export const terminalsOf = (
  profile: Pick<LoggerProfile, 'ports'>,
): readonly { readonly port: LoggerPort; readonly terminal: Terminal }[] =>
  profile.ports.flatMap((port) => port.terminals.map((terminal) => ({ port, terminal })));

/** What is wrong with it beyond its form; null for nothing. */
export function refuseLogger(profile: LoggerProfile): Refusal | null {
  const refuse = (field: string, value: unknown, detail: string) => ({
    field,
    value,
    detail,
    remedy: 'Correct it.',
  });
  const { supply, ports } = profile;
  if (!(supply.low <= supply.preferred && supply.preferred <= supply.high))
    return refuse('supply', supply.preferred, 'The preferred voltage lies outside its supply range.');
  const own = profile.standAlone?.battery;
  if (own && own.change >= own.volts)
    return refuse('standAlone.battery.change', own.change, 'Its battery would have to be changed when new.');
  const deaf = profile.own?.activates.find(
    (t) => !terminalsOf(profile).some(({ terminal }) => terminal.label === t),
  );
  if (deaf !== undefined) return refuse('own.activates', deaf, `It has no terminal ${deaf}.`);
  const twice = repeated((profile.offsets ?? []).map((o) => o.quantity));
  if (twice) return refuse('offsets', twice, `Two rules are given for offsets of ${twice}.`);
  const coarse = profile.offsets?.find((o) => o.step > o.most);
  if (coarse)
    return refuse(
      'offsets',
      coarse.step,
      `A step of ${coarse.step} is more than the most it takes, ${coarse.most}.`,
    );
  const port = repeated(ports.map((p) => p.name));
  if (port) return refuse('ports', port, `Two ports are called ${port}.`);
  const all = terminalsOf(profile);
  const label = repeated(all.map((t) => t.terminal.label));
  if (label) return refuse('ports', label, `Two terminals are called ${label}.`);
  for (const { terminal } of all)
    for (const a of terminal.abilities) {
      if (a.does === 'analog') {
        if (a.pair !== null && !all.some((t) => t.terminal.label === a.pair))
          return refuse(
            'ports',
            a.pair,
            `Terminal ${terminal.label} pairs with ${a.pair}, which is not there.`,
          );
        if (!a.ranges.every(([low, high]) => low < high))
          return refuse('ports', terminal.label, `A range of terminal ${terminal.label} does not rise.`);
      }
    }
  return null;
}
