import { serialText, type SerialSettings } from '../bus/serial';

/**
 * How a sensor is connected, with what a plan has to know of it. What its numbers mean is the conversion's
 * affair: an input hands it a register's number, V, mA, a ratio of voltages, Ω or a count of pulses.
 */
/** How a device on RS-485 is set and asked beyond its measured values. */
export interface BusManagement {
  /** Holding register of its ID. */
  readonly idRegister: number;
  /** Holding register of its speed and parity (`serialWord`); null where they are set otherwise. */
  readonly serialRegister: number | null;
  /** Holding register that keeps everything when 1 is written to it; null where it is kept at once. */
  readonly storeRegister: number | null;
  /** Reserved address, 248–255, at which any of this model answers with its own ID; alone on the line only. */
  readonly anyId: number | null;
  /** Its service protocol: the line it speaks, for how many s after power-up it listens. */
  readonly service: { readonly serial: SerialSettings; readonly window: number } | null;
  /** What its light does when it has power; null for none. */
  readonly light: string | null;
}

export type Connection =
  | {
      readonly kind: 'modbus-rtu';
      readonly serial: SerialSettings;
      /** How its ID is set, in words. */
      readonly idSetBy: string;
      /** Share of one TIA-485 unit load, above 0. */
      readonly unitLoad: number;
      /** Whether a terminating resistor is built in. */
      readonly termination: 'none' | 'switched' | 'fixed';
      /** How it is set over the line; left out where only its switches set it. */
      readonly management?: BusManagement;
    }
  | {
      readonly kind: 'sdi-12';
      /** The address it leaves the maker with. */
      readonly address: string;
      /** s from the command to the data, at most. */
      readonly longest: number;
    }
  | {
      readonly kind: 'daisy-chain';
      /** Name of the chain bus; only its own kind may hang on it. */
      readonly system: string;
      /** As how many sensors it counts, 1 or more. */
      readonly countsAs: number;
    }
  | {
      readonly kind: 'i2c';
      /** 7-bit addresses it can be set to, the first as delivered; one only: it is fixed. */
      readonly addresses: readonly number[];
      /** V of its logic. */
      readonly logic: number;
      /** Ω of the pull-ups it brings; null for none. */
      readonly pullUp: number | null;
    }
  | { readonly kind: 'clocked'; readonly logic: number; readonly pullUp: number | null }
  | {
      readonly kind: 'voltage';
      /** V it gives over its range. */
      readonly low: number;
      readonly high: number;
      /** Ω it gives them through. */
      readonly sourceResistance: number;
      /** Whether both its leads carry signal, so that the input has to be differential. */
      readonly differential: boolean;
    }
  | {
      readonly kind: 'current';
      /** Whether the loop also feeds it (two wires). */
      readonly loopPowered: boolean;
      /** The least V it needs across itself. */
      readonly least: number;
    }
  | {
      readonly kind: 'half-bridge';
      /** Where the fixed resistor is, Ω. */
      readonly fixed: { readonly in: 'sensor' | 'logger'; readonly ohms: number };
      /** Ω of the sensing arm over its range. */
      readonly ohms: readonly [low: number, high: number];
      /** The most V of excitation. */
      readonly mostExcitation: number;
    }
  | {
      readonly kind: 'full-bridge';
      /** Ω of one arm. */
      readonly ohms: number;
      /** mV per V of excitation at full scale. */
      readonly sensitivity: number;
      readonly mostExcitation: number;
    }
  | { readonly kind: 'prt'; readonly wires: 2 | 3 | 4; readonly at0: number }
  | { readonly kind: 'thermistor'; readonly ohms: readonly [low: number, high: number] }
  | { readonly kind: 'potentiometer'; readonly ohms: number; readonly mostExcitation: number }
  | {
      readonly kind: 'pulse';
      readonly gives: 'contact' | 'open-collector' | 'logic';
      /** Most pulses in a second. */
      readonly mostHz: number;
      /** What one pulse is by its mechanics, base unit of its quantity. */
      readonly perPulse: number;
    };
export type ConnectionKind = Connection['kind'];
export type ConnectionOf<K extends ConnectionKind> = Extract<Connection, { kind: K }>;

interface KindRule<C> {
  readonly name: string;
  /** What the input hands to the conversion. */
  readonly gives: 'register' | 'value' | 'V' | 'mA' | 'ratio' | 'Ω' | 'pulses';
  /** What is wrong with its numbers; null for nothing. */
  refuse(connection: C): string | null;
  /** In a few words: "9600 8N1", "0–5 V, differential". */
  says(connection: C): string;
}
type Kinds = { readonly [K in ConnectionKind]: KindRule<ConnectionOf<K>> };

const fine = () => null;
const excited = ({ mostExcitation }: { mostExcitation: number }) =>
  mostExcitation > 0 ? null : 'the most excitation must be above 0 V';

/** Every kind of connection as one object; a new one is a member of the union and its row here. */
export const connectionKinds: Kinds = {
  'modbus-rtu': {
    name: 'Modbus RTU',
    gives: 'register',
    refuse: ({ unitLoad, management }) => {
      if (!(unitLoad > 0 && unitLoad <= 1)) return 'the unit load lies above 0, at most 1';
      const anyId = management?.anyId ?? null;
      return anyId === null || (anyId >= 248 && anyId <= 255)
        ? null
        : 'an address that all of a model answer is one of the reserved 248–255';
    },
    says: ({ serial }) => serialText(serial),
  },
  'sdi-12': {
    name: 'SDI-12',
    gives: 'value',
    refuse: ({ address }) => (/^[0-9a-zA-Z]$/.test(address) ? null : 'an address is one of 0–9, a–z, A–Z'),
    says: ({ address }) => `address ${address} as delivered`,
  },
  'daisy-chain': {
    name: 'daisy chain',
    gives: 'value',
    refuse: ({ countsAs }) =>
      Number.isInteger(countsAs) && countsAs > 0 ? null : 'it counts as 1 sensor or more',
    says: ({ system, countsAs }) => `${system}${countsAs > 1 ? `, counts as ${countsAs}` : ''}`,
  },
  i2c: {
    name: 'I²C',
    gives: 'value',
    refuse: ({ addresses }) =>
      addresses.length > 0 && addresses.every((a) => Number.isInteger(a) && a >= 8 && a <= 0x77)
        ? null
        : 'addresses are whole numbers 8–119',
    says: ({ addresses, logic }) => `${addresses.map(hex).join(', ')}, ${logic} V logic`,
  },
  clocked: {
    name: 'clock and data',
    gives: 'value',
    refuse: fine,
    says: ({ logic }) => `${logic} V logic`,
  },
  voltage: {
    name: 'voltage',
    gives: 'V',
    refuse: ({ low, high }) => (low < high ? null : 'its voltages must rise'),
    says: ({ low, high, differential }) =>
      `${Math.max(Math.abs(low), Math.abs(high)) < 1 ? `${low * 1000}–${high * 1000} mV` : `${low}–${high} V`}${differential ? ', differential' : ''}`,
  },
  current: {
    name: '4–20 mA',
    gives: 'mA',
    refuse: fine,
    says: ({ loopPowered, least }) => `${loopPowered ? 'fed by its loop' : 'fed apart'}, ${least} V at least`,
  },
  'half-bridge': {
    name: 'half bridge',
    gives: 'ratio',
    refuse: (c) => (c.ohms[0] < c.ohms[1] ? excited(c) : 'the resistance of the sensing arm must rise'),
    says: ({ fixed }) => `${fixed.ohms} Ω fixed in the ${fixed.in}`,
  },
  'full-bridge': {
    name: 'full bridge',
    gives: 'ratio',
    refuse: excited,
    says: ({ ohms, sensitivity }) => `${ohms} Ω, ${sensitivity} mV/V`,
  },
  prt: {
    name: 'PRT',
    gives: 'Ω',
    refuse: fine,
    says: ({ wires, at0 }) => `${at0} Ω at 0 °C, ${wires} wires`,
  },
  thermistor: {
    name: 'thermistor',
    gives: 'Ω',
    refuse: ({ ohms }) => (ohms[0] < ohms[1] ? null : 'its resistances must rise'),
    says: ({ ohms }) => `${ohms[0]}–${ohms[1]} Ω`,
  },
  potentiometer: {
    name: 'potentiometer',
    gives: 'ratio',
    refuse: excited,
    says: ({ ohms }) => `${ohms} Ω`,
  },
  pulse: {
    name: 'pulse',
    gives: 'pulses',
    refuse: fine,
    says: ({ gives, perPulse }) => `${gives.replace('-', ' ')}, ${perPulse} a pulse`,
  },
};
export const connectionKindNames = Object.keys(connectionKinds) as readonly ConnectionKind[];

const rule = (c: Connection) => connectionKinds[c.kind] as KindRule<Connection>;

/** What is wrong with a connection's numbers; null for nothing. */
export const refuseConnection = (c: Connection): string | null => rule(c).refuse(c);

/**
 * A connection in words.
 *
 * @example connectionText({ kind: 'prt', wires: 3, at0: 100 }) // 'PRT, 100 Ω at 0 °C, 3 wires'
 */
export const connectionText = (c: Connection): string => `${rule(c).name}, ${rule(c).says(c)}`;

/**
 * An I²C address as makers write it.
 *
 * @param address 7 bits, 0–127
 * @example hex(68) // '0x44'
 */
export const hex = (address: number): string => `0x${address.toString(16).padStart(2, '0')}`;
