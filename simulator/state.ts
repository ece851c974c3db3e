import type { Habit } from '@/core/check/habits';
import type { LaunchOrder } from '@/core/deploy/launch';
import type { ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { OwnSettings } from '@/core/settings/ownSettings';
import type { SerialSettings } from '@/core/bus/serial';
import type { Climate } from './world';

/** What is physically out there, persisted by the simulator. Instants in ms since epoch, true time. */
/** A message that reached the end of the chain. */
export interface Received {
  readonly sink: 'mail' | 'webhook';
  /** ms since epoch, by the clock of the machine. */
  readonly at: number;
  readonly to: string;
  readonly delivery: string;
  readonly subject: string;
  readonly raw: string;
  readonly signature: string | null;
}
/** What a receiver does instead of taking a message: refuses it for good, or not now. */
export type SinkFault = 'refuses' | 'busy';

export interface SimState {
  /** What arrived by mail and by webhook, oldest first, and how the two fail. */
  received?: Received[];
  sinkFaults?: Partial<Record<Received['sink'], SinkFault | null>>;
  seed: string;
  clock: SimClock;
  places: Record<string, Partial<Record<QuantityCode, Climate>>>;
  loggers: SimLogger[];
  handhelds: SimHandheld[];
}

/** `ahead`: weeks go by while nobody waits, ms. */
export type SimClock = { mode: 'real' } | { mode: 'frozen'; at: number } | { mode: 'ahead'; by: number };

export interface SimLogger {
  serial: string;
  model: string;
  /** Code of its own description; null for one that nobody described. */
  profile: string | null;
  firmware: string;
  station: string;
  /** Where its own interface listens, whatever it speaks. */
  ownPort: number;
  busPort: number;
  /** An adapter of one of its data lines: where it listens, on which terminal it speaks, whether the logger's lead is off. */
  adapter?: { port: number; terminal: string; alone?: boolean };
  busSerial: SerialSettings;
  /** Speed and parity its gateway was last set to; as the line's where nobody set it. */
  gatewaySerial?: SerialSettings;
  /** Its polling of the serial line was held, oldest first, true time. */
  held?: { from: number; until: number }[];
  /** Serial numbers of those whose data leads are lifted from the line. */
  lifted?: string[];
  utcOffsetMinutes: number;
  /** Logger clock = true time + error + rate · (true time − since). */
  clock: SimLoggerClock;
  /** Clocks it ran on before it was set, oldest first, and until when, true time. */
  pastClocks?: { clock: SimLoggerClock; until: number }[];
  /** Nothing stored while one of these holds. */
  outages: { from: number; until: number }[];
  sensors: SimSensor[];
  channels: SimChannel[];
  busFault: BusFault | null;
  /** It keeps no more steps of a conversion than these, as its data sheet says nowhere. */
  keepsSteps?: number;
  /** What it was told of itself, oldest first. */
  own?: { from: number; settings: OwnSettings }[];
  /** What it comes up with after power-off, where something was told and not stored. */
  stored?: {
    own: OwnSettings;
    channels: { number: number; set: SimChannel['history'][number] | null; offset: number }[];
  };
  /** Wall clock until which it starts anew and answers nobody, ms. */
  startsUntil?: number;
  /** What it is made of, where it is one that is launched, and the launch it holds. */
  made?: SimMade;
  launch?: SimLaunch;
}

/** What nobody outside knows of a launched logger: its memory in pages, its cell. */
export interface SimMade {
  memoryBytes: number;
  pageBytes: number;
  headerBytes: number;
  stampBytes: number;
  valueBytes: number;
  cell: {
    ampereHours: number;
    volts: number;
    /** A asleep and awake, s awake for a row. */
    sleeps: number;
    works: number;
    busy: number;
    fitted: number;
    /** Whose air it has. */
    place: string;
  };
}

export interface SimLaunch extends LaunchOrder {
  /** True time it was launched and stopped; logger stamp of its first row, null while its button was not pressed. */
  at: number;
  stopped?: number;
  /** The clock run it was launched in. */
  run: number;
  began: number | null;
}

export interface SimLoggerClock {
  error: number;
  perDay: number;
  since: number;
}

export interface SimChannel {
  number: number;
  /** Every setting ever written, oldest first; the newest is in force. */
  history: { from: number; settings: ChannelSettings; source: ChannelInput | null }[];
  offsets: { from: number; offset: number }[];
  /** How much of an offset takes effect: 1 for an honest device, less for one that will not converge. */
  offsetResponse: number;
}

export interface SimSensor {
  serial: string;
  model: string;
  /** On RS-485; null for one that is not. */
  busId: number | null;
  /** SDI-12 address, or an I²C address as "0x29". */
  address?: string;
  /** Which lead is on which terminal, where that matters: not on RS-485, which the stand takes as wired. */
  wired?: Record<string, string>;
  /** Ω of its leads out and back, and of a shunt put across its input. */
  loopOhms?: number;
  shunt?: number;
  /** What was measured by the last SDI-12 command, until it is asked for. */
  sdiMeasured?: { command: string; at: number; crc?: boolean };
  serialSettings: SerialSettings;
  place: string;
  /** Where it was carried, oldest first; null: to its place. */
  carried?: { from: number; place: string | null }[];
  powered: boolean;
  /** V at its supply terminals, where it is not what the logger gives. */
  supplyVolts?: number | null;
  /** Its pair is the wrong way round; a lead of it is open; it never answers again. */
  swapped?: boolean;
  open?: boolean;
  /** V on its data leads that do not belong there. */
  pairVolts?: number | null;
  dead?: boolean;
  /** ° from the vertical, where it was knocked. */
  tilt?: number;
  /** Name of the protocol it works in; Modbus where nothing is said. */
  protocol?: string;
  /** What it comes up with after a power cycle, where something was set and not stored. */
  stored?: { busId: number | null; serialSettings: SerialSettings; protocol: string };
  /** Wall clock of its last power-up, ms, and whether it was spoken to in its service window. */
  poweredAt?: number;
  inService?: boolean;
  /** Words of the coefficients it was told, and would come up with; those of the part that is really in it. */
  part?: { told: number[]; stored: number[]; own: number[] };
  /** By output. */
  truths: Partial<Record<string, SensorTruth>>;
}

/** What is secretly wrong with one output of a sensor. */
export interface SensorTruth {
  bias?: number;
  /** It shows only so much of what lies away from a value: a worn electrode, a fouled window. */
  slope?: { share: number; about: number };
  drift?: { perDay: number; since: number };
  noise?: number;
  stuckSince?: number;
  /** A step that dies away: at, size, time constant s. */
  disturbed?: { at: number; size: number; tau: number };
}

export interface SimHandheld {
  serial: string;
  quantities: Partial<Record<QuantityCode, { error: number; resolution: number; noise: number }>>;
  /** How whoever holds it reads it; left out for as it should be. */
  habit?: Habit;
}

export type BusFaultKind = 'silent' | 'garbage' | 'half' | 'late' | 'crc' | 'exception' | 'wrong-id';
/** How the next `left` answers on a bus go wrong. */
export interface BusFault {
  kind: BusFaultKind;
  left: number;
  /** ms, for late answers. */
  delay?: number;
}
