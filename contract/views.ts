import type { ExchangeFault } from '@/core/bus/faultAdvice';
import type { SerialSettings } from '@/core/bus/serial';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { FindingCode, StoneName, StoneState } from '@/core/trust/finding';
import type { ConnectionKind } from '@/core/device/connection';
import type { Landing, TerminalPlace } from '@/core/wiring/landing';
import type { HopKind } from '@/core/wiring/hop';
import type { Signal } from '@/core/wiring/landing';
import type { Role } from './permission';
import type { ChannelSettingsView, OwnView } from './settingViews';

/** What the application answers: plain data, instants as ISO text in UTC, values in base units. */

export interface PersonView {
  id: string;
  name: string;
  initials: string;
  role: Role;
}

export type Cairn = Record<StoneName, StoneState>;

export interface RoundStop {
  stationId: string;
  code: string;
  name: string;
  site: string;
  cautions: readonly string[];
  cairn: Cairn;
  /** The heaviest reasons, worst first. */
  findings: FindingView[];
  /** How many more there are. */
  more: number;
  bring: string[];
  lastContact: string | null;
}
/** What stands on top of a page of a station that is handed on. */
export interface StationHead {
  readonly stationId: string;
  readonly code: string;
  readonly name: string;
  readonly site: string;
  readonly zone: string;
  readonly cautions: readonly string[];
}
/** What every page of a station goes by. */
export interface StationBasics {
  /** Without one, no view of a device is offered. */
  logger: boolean;
  /** Something hangs there that a meter judges. */
  bench: boolean;
  /** Levels of water are read there. */
  water: boolean;
  /** The site's time zone. */
  zone: string;
  code: string;
}
/** One reason why a station needs someone, as it is said now. */
export interface FindingView {
  code: FindingCode;
  stone: StoneName;
  state: StoneState;
  text: string;
  next: string;
  /** The channel it is about, where it is about one. */
  channelId: string | null;
}
export interface RoundView {
  /** Stops in all, and of them those that need someone. */
  total: number;
  needing: number;
  page: number;
  pageSize: number;
  /** Stations that changed and are not derived anew yet. */
  pending: number;
  stops: RoundStop[];
}

export interface Hop {
  kind: HopKind;
  /** What is set there. */
  configured: string;
  /** What was last seen there, with its time. */
  seen: { text: string; at: string } | null;
  state: StoneState;
  /** Why it is not sound. */
  why: string | null;
  /** How many photographs show it. */
  pictures: number;
}
export interface SignalPathView {
  channelId: string;
  /** In the logger; null for what no logger logs. */
  number: number | null;
  name: string;
  zoneName: string;
  quantity: QuantityCode;
  unit: Unit;
  enabled: boolean;
  hops: Hop[];
}
/** What the hops of a station's paths show at this moment; hops that nothing is known of are left out. */
export interface StationLiveView {
  at: string;
  channels: { channelId: string; hops: Partial<Record<HopKind, string>> }[];
}
export interface FieldBookLineView {
  id: string;
  stationId: string;
  stationCode: string;
  /** The site's. */
  zone: string;
  visitId: string | null;
  occurredAt: string;
  recordedAt: string;
  /** By how much the person's device was ahead of the server, s, as far as it was taken off; null where no device said. */
  deviceAhead: number | null;
  initials: string;
  kind: string;
  text: string;
  sum: string | null;
}
export interface OpenActionView {
  id: string;
  kind: string;
  intendedAt: string;
  initials: string;
  says: string;
}
export interface StationSheet {
  id: string;
  code: string;
  name: string;
  site: string;
  zone: string;
  cautions: readonly string[];
  /** Null where everything comes from files or is typed. */
  logger: {
    model: string;
    serial: string;
    address: string;
    utcOffsetMinutes: number;
    supplyVoltage: number;
  } | null;
  ports: {
    id: string;
    name: string;
    /** Null for a row of terminals. */
    serial: SerialSettings | null;
    gatewayAddress: string | null;
    devices: { at: string; sensor: string; zoneName: string }[];
  }[];
  cairn: Cairn;
  findings: FindingView[];
  paths: SignalPathView[];
  happenings: FieldBookLineView[];
  unknownActions: OpenActionView[];
  clock: { at: string; difference: number; uncertainty: number } | null;
}

export interface ModelView {
  code: string;
  name: string;
  supply: { low: number; high: number; preferred: number };
  current: number;
  serial: SerialSettings;
  idSetBy: string;
  cautions: string[];
  leads: { colour: string; signal: Signal }[];
  /** What it measures, by name. */
  outputs: string[];
}
export interface InstallationView {
  id: string;
  sensorSerial: string;
  profileCode: string;
  cableLength: number;
  /** Ω/km of one conductor. */
  cableResistance: number;
  modelName: string;
  /** On RS-485; null for other kinds. */
  busId: number | null;
  /** "ID 3", "address a", "by its terminals". */
  at: string;
  kind: ConnectionKind;
  /** "4–20 mA, fed by its loop". */
  connection: string;
  zoneName: string;
  portName: string;
  leads: { colour: string; terminal: string; via: string | null; signal: Signal }[];
  leadsNeeded: number;
  /** Null for one that is not fed. */
  supply: { sum: string; atSensor: number; inRange: boolean } | null;
  channels: { id: string; number: number; quantity: QuantityCode }[];
  lastTalk: TalkView | null;
  offLineSince: string | null;
}
export interface TalkView {
  at: string;
  fault: ExchangeFault | null;
  detail: string;
  frames: readonly { direction: 'sent' | 'received' | 'too-late'; hex: string; after: number }[];
  decoded: readonly {
    output: string;
    quantity: QuantityCode;
    /** Of what is asked by register; null for what the logger measures. */
    register: number | null;
    raw: number | null;
    value: number | null;
  }[];
}
/** A logger's label, its log-in and firmware, as they are on file. */
export interface LoggerLabelView {
  readonly serial: string;
  readonly registrationCode: string;
  readonly registeredAt: string;
  /** Null while nobody said. */
  readonly logIn: 'none' | 'factory' | 'changed' | null;
  readonly firmware: {
    readonly version: string;
    readonly notedAt: string;
    readonly faults: readonly string[];
  } | null;
}

export interface ConnectView {
  stationId: string;
  code: string;
  name: string;
  cautions: readonly string[];
  /** Its logger is one that is launched and left alone. */
  launched: boolean;
  /** Null without a described logger. */
  own: OwnView | null;
  label: LoggerLabelView;
  ports: {
    id: string;
    name: string;
    serial: SerialSettings;
    supply: number;
    gatewayAddress: string;
    terminals: TerminalPlace[];
    taken: { id: number; by: string }[];
    proposedId: number | null;
    landings: Record<string, Landing[]>;
  }[];
  models: ModelView[];
  installations: InstallationView[];
  channels: ChannelSettingsView[];
  unknownActions: OpenActionView[];
}

export interface OperationView {
  id: string;
  kind: string;
  state: 'running' | 'done' | 'failed' | 'cancelled' | 'lost';
  progress: number;
  message: string;
  result: unknown;
}

/** What runs now, for the strip that stays visible on every view. */
export interface ClockStripView {
  openChecks: { id: string; stationId: string; stationCode: string; channelName: string; since: string }[];
  staged: { stationId: string; stationCode: string; count: number; since: string }[];
  offLine: { stationCode: string; channelName: string; since: string }[];
  /** Lines on which somebody talks in the logger's place. */
  held: { stationId: string; stationCode: string; lineName: string; since: string }[];
  unknown: { stationId: string; stationCode: string; count: number }[];
}
