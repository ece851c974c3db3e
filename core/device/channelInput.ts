import { connectionKinds, type Connection } from './connection';
import { refuseConversion, type ConversionStep } from './conversion';
import type { Ability, LoggerProfile } from './loggerProfile';
import { terminalsOf } from './loggerProfile';
import { registerOf, type SensorOutput, type SensorProfile } from './profile';
import { refuseField, type RegisterField } from './registerField';

/** What a logger measures at its terminals before it converts. */
export type Measure = 'V' | 'mA' | 'ratio' | 'Ω';

/**
 * What a logger is told of a channel's input: whom to ask or where to measure, and what to make of it. It
 * needs to know nothing else of the sensor.
 */
export type ChannelInput = { readonly conversion: readonly ConversionStep[] } & (
  | { readonly kind: 'modbus-rtu'; readonly busId: number; readonly field: RegisterField }
  | {
      readonly kind: 'sdi-12';
      readonly terminal: string;
      readonly address: string;
      readonly command: string;
      readonly index: number;
    }
  /** A sensor of a chain is known by its number. */
  | { readonly kind: 'chain'; readonly terminal: string; readonly unit: string; readonly slot: number }
  | {
      readonly kind: 'i2c';
      readonly terminal: string;
      readonly address: number;
      readonly register: number;
      readonly signed: boolean;
    }
  | { readonly kind: 'clocked'; readonly terminal: string; readonly slot: number }
  | {
      readonly kind: 'analog';
      readonly terminal: string;
      readonly measures: Measure;
      /** The other terminal of a differential measurement; null against ground. */
      readonly against: string | null;
      /** Terminal that feeds a bridge; null where nothing does. */
      readonly excitation: string | null;
    }
  | { readonly kind: 'pulse'; readonly terminal: string }
);
export type InputKind = ChannelInput['kind'];

/** Where a sensor hangs: its address on a bus, and which lead is on which terminal. */
export interface Hanging {
  readonly busId: number | null;
  /** SDI-12 address, or an I²C address as "0x29". */
  readonly busAddress: string | null;
  readonly serial: string;
  readonly leads: readonly { readonly colour: string; readonly terminal: string }[];
}

/**
 * What a logger has to be told so that a channel shows an output of a sensor as it hangs; null while a lead
 * it needs has no terminal, or its address is not known.
 *
 * @param profile the sensor's
 * @param output one of its outputs
 * @param at its address and leads
 */
export function channelInput(
  profile: Pick<SensorProfile, 'connection' | 'leads'>,
  output: Pick<SensorOutput, 'field' | 'conversion'>,
  at: Hanging,
): ChannelInput | null {
  const { conversion, field } = output;
  const landed = (colour: string | undefined) => at.leads.find((l) => l.colour === colour)?.terminal ?? null;
  const bySignal = (...signals: string[]) =>
    landed(profile.leads.find((l) => signals.includes(l.signal))?.colour);
  switch (field.kind) {
    case 'register':
      return at.busId === null
        ? null
        : { kind: 'modbus-rtu', busId: at.busId, field: registerOf({ field })!, conversion };
    case 'sdi-12': {
      const terminal = bySignal('data');
      return terminal === null || at.busAddress === null
        ? null
        : {
            kind: 'sdi-12',
            terminal,
            address: at.busAddress,
            command: field.command,
            index: field.index,
            conversion,
          };
    }
    case 'slot': {
      const terminal = bySignal('data');
      if (terminal === null) return null;
      return profile.connection.kind === 'clocked'
        ? { kind: 'clocked', terminal, slot: field.slot, conversion }
        : { kind: 'chain', terminal, unit: at.serial, slot: field.slot, conversion };
    }
    case 'i2c': {
      const terminal = bySignal('data');
      return terminal === null || at.busAddress === null
        ? null
        : {
            kind: 'i2c',
            terminal,
            address: Number(at.busAddress),
            register: field.register,
            signed: field.signed,
            conversion,
          };
    }
    case 'lead': {
      const terminal = landed(field.lead);
      if (terminal === null) return null;
      const { gives } = connectionKinds[profile.connection.kind];
      if (gives === 'register' || gives === 'value') return null;
      if (gives === 'pulses') return { kind: 'pulse', terminal, conversion };
      const signal = profile.leads.find((l) => l.colour === field.lead)?.signal;
      return {
        kind: 'analog',
        terminal,
        measures: gives,
        // A second lead that carries an output of its own is none to measure against.
        against: signal === 'signal+' && isDifferential(profile.connection) ? bySignal('signal−') : null,
        excitation: bySignal('excitation'),
        conversion,
      };
    }
  }
}

/**
 * Whether its signal lies between two leads, neither of which is ground.
 *
 * @example isDifferential({ kind: 'full-bridge', ohms: 350, sensitivity: 2, mostExcitation: 10 }) // true
 */
export const isDifferential = (c: Connection): boolean =>
  c.kind === 'full-bridge' ||
  c.kind === 'prt' ||
  c.kind === 'thermistor' ||
  (c.kind === 'voltage' && c.differential);

/** What ability of a terminal an input needs. */
const needs: Readonly<Record<InputKind, readonly Ability['does'][]>> = {
  'modbus-rtu': [],
  'sdi-12': ['sdi-12'],
  chain: ['chain'],
  i2c: ['data'],
  clocked: ['data'],
  analog: ['analog', 'current'],
  pulse: ['pulse'],
};

/**
 * Why a logger cannot do what it is told; null when it can.
 *
 * @param logger its own profile; null where nobody described it: then only the numbers are looked at
 */
export function refuseInput(input: ChannelInput, logger: LoggerProfile | null): string | null {
  const numbers =
    (input.kind === 'modbus-rtu' ? refuseField(input.field) : null) ?? refuseConversion(input.conversion);
  if (numbers || !logger || input.kind === 'modbus-rtu') return numbers;
  const terminal = terminalsOf(logger).find((t) => t.terminal.label === input.terminal)?.terminal;
  if (!terminal) return `there is no terminal ${input.terminal}`;
  return terminal.abilities.some((a) => needs[input.kind].includes(a.does))
    ? null
    : `terminal ${input.terminal} is no input for ${input.kind}`;
}
