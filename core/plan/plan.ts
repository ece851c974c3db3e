import type { SerialSettings } from '../bus/serial';
import type { Disturbance } from '../device/profile';

/** A profile by code and revision. */
export interface Pin {
  readonly code: string;
  readonly revision: number;
}

/** Where a lead ends: on a terminal, in a splice of the cabinet, or on a screw of another sensor. */
export type LeadPlace =
  | { readonly at: 'terminal'; readonly terminal: string }
  | { readonly at: 'splice'; readonly splice: string }
  | { readonly at: 'host'; readonly device: string; readonly screw: string };

/** A sensor or board as it is planned. */
export interface PlannedDevice {
  readonly id: string;
  readonly profile: Pin;
  /** Where it hangs, in words: "Well A". */
  readonly name: string;
  /** Null until somebody has it in the hand. */
  readonly serial: string | null;
  /** RS-485 ID; null for other kinds, or not yet chosen. */
  readonly busId: number | null;
  /** SDI-12 address, or an I²C address as "0x29". */
  readonly busAddress: string | null;
  /** What its end of a serial line is set to; null for other kinds. */
  readonly line: SerialSettings | null;
  readonly cable: {
    /** m, one way; in a chain from the one before it. */
    readonly metres: number;
    /** Ω/km of one conductor. */
    readonly ohmsPerKm: number;
    /** Name of the shared run its cable joins; null where it goes to the logger alone. */
    readonly run: string | null;
  };
  /** By the colour of the lead. */
  readonly landings: Readonly<Record<string, LeadPlace>>;
  /** What is put onto it or its leads. */
  readonly accessories: readonly Pin[];
  /** Whether its shield is earthed at its own end too. */
  readonly earthedAtSensor: boolean;
  /** m above ground, below it negative; null where nobody said. */
  readonly height: number | null;
  /** ° from the vertical; null where nobody measured. */
  readonly tilt: number | null;
  readonly near: readonly { readonly of: Disturbance; readonly metres: number }[];
  /** Keys of the outputs that get a channel. */
  readonly mapped: readonly string[];
  /** What one pulse is set to in software, base unit; null: as its mechanics say. */
  readonly perPulse: number | null;
  /** Full scale set in software, base unit; null: as its profile says. */
  readonly fullScale: number | null;
  /** Who isolated and proved it dead, where its logic may sit at mains potential; null for nobody. */
  readonly isolatedBy: string | null;
}

/** A cable that several sensors share on the way to the logger. */
export interface SharedRun {
  readonly name: string;
  readonly metres: number;
  readonly ohmsPerKm: number;
}

export interface PlannedPort {
  /** As the logger's profile names it. */
  readonly name: string;
  /** What the logger's end is set to; null where it has no serial line. */
  readonly line: SerialSettings | null;
  /** Terminating resistors put in, beside those built in. */
  readonly terminators: number;
}

/** A finding that somebody looked at and lets stand. */
export interface Accepted {
  /** `findingKey` of it. */
  readonly key: string;
  readonly reason: string;
  readonly by: string;
}

/** What goes on which terminal of one logger: the plan of a station's wiring. */
export interface Plan {
  readonly logger: Pin;
  readonly supply: {
    /** V at the logger's terminals. */
    readonly volts: number;
    /** A the source gives at most. */
    readonly most: number;
    /** Ah; null where mains feed it. */
    readonly batteryAh: number | null;
    /** Wh a day of the darkest month; null without a panel. */
    readonly solarWh: number | null;
    /** Days it has to live without sun or visit. */
    readonly daysWanted: number;
  };
  /** s */
  readonly measureEvery: number;
  readonly storeEvery: number;
  /** Days between read-outs. */
  readonly visitEvery: number;
  readonly ports: readonly PlannedPort[];
  readonly runs: readonly SharedRun[];
  /** Splices of the cabinet and the terminal each leads on to; null for none yet. */
  readonly splices: readonly { readonly name: string; readonly terminal: string | null }[];
  readonly devices: readonly PlannedDevice[];
  readonly accepted: readonly Accepted[];
}

/**
 * A pin in words.
 *
 * @example pinName({ code: 'ness-p4', revision: 1 }) // 'ness-p4 1'
 */
export const pinName = ({ code, revision }: Pin): string => `${code} ${revision}`;
