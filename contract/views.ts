import type { ExchangeFault } from '@/core/bus/faultAdvice';
import type { SerialSettings } from '@/core/bus/serial';
import type { Budget } from '@/core/check/budget';
import type { Crossed } from '@/core/check/consequences';
import type { CheckPlan } from '@/core/check/plan';
import type { ReferenceRest } from '@/core/check/referenceRest';
import type { Fouling } from '@/core/check/fouling';
import type { Repeatability } from '@/core/check/repeatability';
import type { Settling } from '@/core/check/settling';
import type { Taken } from '@/core/check/taken';
import type { Convergence, Verdict } from '@/core/check/verdict';
import type { JudgedPoint } from '@/core/check/evaluate';
import type { Coefficients } from '@/core/procedure/line';
import type { Compared, Health } from '@/core/procedure/procedure';
import type { Care } from '@/core/kit/care';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import type { FindingCode, StoneName, StoneState } from '@/core/trust/finding';
import type { ConnectionKind } from '@/core/device/connection';
import type { Landing, TerminalPlace } from '@/core/wiring/landing';
import type { HopKind } from '@/core/wiring/hop';
import type { Signal } from '@/core/wiring/landing';
import type { CertifiedQuantity } from '@/schema/kit';
import type { Role } from './permission';
import type { StandardView } from './standards';
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

export interface InstrumentView {
  id: string;
  name: string;
  model: string;
  serial: string;
  calibratedOn: string;
  dueOn: string;
  overdueDays: number;
  linked: boolean;
  quantities: readonly {
    quantity: QuantityCode;
    tolerance: number;
    resolution: number;
    low: number;
    high: number;
  }[];
  /** What its newest certificate says, by quantity; a quantity that it says nothing of is as good as its tolerance. */
  certified: readonly CertifiedQuantity[];
  care: Care;
  /** Found to show so much too much, base unit, and not calibrated since; newest first. */
  foundOff: readonly { quantity: QuantityCode; by: number; foundOn: string }[];
}

export interface CheckReadingView {
  id: string;
  phase: 'as-found' | 'verification';
  round: number;
  occurredAt: string;
  /** Of the plan it was read at. */
  point: string | null;
  sensorValue: number;
  /** As the reference read; several where it was read again for one value of the sensor. */
  references: readonly { id: string; value: number; at: string; excludedReason: string | null }[];
  /** What was read beside both, base units. */
  companions: readonly { key: string; value: number }[];
  /** Null while something of it is still to come. */
  compared: (Compared & { sum: string }) | null;
  settling: Settling;
  /** Whether the reference stood still; null where nothing says so. */
  reference: ReferenceRest | null;
  /** Read as found, but after the sensor was cleaned. */
  afterCleaning: boolean;
  excludedReason: string | null;
}
export interface CheckView {
  id: string;
  stationId: string;
  stationCode: string;
  channelId: string;
  channelNumber: number;
  channelName: string;
  unit: Unit;
  /** Null for one against standards, or what nature gives. */
  instrument: InstrumentView | null;
  plan: CheckPlan;
  accuracyRatioText: string;
  openedAt: string;
  readings: CheckReadingView[];
  budget: Budget | null;
  verdict: Verdict | null;
  /** How its logger takes an adjustment; none where it lies over the record. */
  ways: AdjustmentWay[];
  adjustments: {
    id: string;
    round: number;
    place: 'device' | 'record';
    mode: AdjustmentWay;
    entered: number;
    previous: number | null;
    resulting: number | null;
    readAtEntry: number;
    byHand: boolean;
    at: string;
    sum: string;
    guardReason: string | null;
    /** Until when the device calibrates itself; null where it does not. */
    runsUntil: string | null;
    /** It was taken back; it takes another back. */
    undone: boolean;
    undoes: boolean;
  }[];
  pendingAction: OpenActionView | null;
  convergence: Convergence | null;
  /** What to add to the sensor's value now, if anything is proposed. */
  proposed: number | null;
  /** What would take out a difference beyond the guard, for an honest reason; null where there is none. */
  beyond: number | null;
  /** What the steps of its device will leave of the difference; null where it takes every digit. */
  remainder: number | null;
  /** How far its differences scattered in earlier checks; null where its own alone count. */
  earlier: Repeatability | null;
  /** What lies over the record of the sensor now, base unit: it belongs to what is read off a display, too. */
  correction: number;
  /** What its site knows of what is read beside it, by key, base unit. */
  ofSite: Readonly<Record<string, number>>;
  /** What else changes with what is proposed: derived channels by name, limits the value passes; null where nothing is proposed. */
  consequences: { readonly derived: readonly string[]; readonly crossed: readonly Crossed[] } | null;
  /** Every point that was read; names of those still to be read. */
  points: readonly JudgedPoint[];
  missing: readonly string[];
  /** What brings the readings at several points to their references. */
  coefficients: Coefficients | null;
  /** Whether an offset alone brings every point within its limit. */
  offsetServes: boolean;
  /** Between which readings of the sensor it was proved. */
  proved: { readonly low: number; readonly high: number } | null;
  /** What of the sensor itself came to light. */
  health: readonly Health[];
  /** What cleaning changed; null where it was not cleaned. */
  fouling: Fouling | null;
  /** Whether the device took the offset it was given last; null where that cannot be told. */
  taken: Taken | null;
  /** How many of the repeats tell something of their own. */
  telling: number;
  asFound: number | null;
  asLeft: number | null;
  limit: number | null;
  outcome: string | null;
  closedAt: string | null;
}
export interface LiveView {
  /** Logger's stamp, s since epoch. */
  t: number;
  value: number | null;
  /** What the sensor's other channels show of what is read beside it, by key; base units. */
  companions: Readonly<Record<string, number | null>>;
  /** A linked reference's display. */
  instrument: { value: number | null; companions: Readonly<Record<string, number | null>> } | null;
}
export interface CheckStartView {
  stationId: string;
  code: string;
  name: string;
  channels: {
    id: string;
    number: number;
    name: string;
    zoneName: string;
    quantity: QuantityCode;
    openCheckId: string | null;
    settleWindow: number;
    tolerance: number;
    /** The check of it that was begun last. */
    last: { openedAt: string; outcome: string | null; material: string | null } | null;
  }[];
  instruments: InstrumentView[];
  standards: StandardView[];
  recent: {
    id: string;
    channelName: string;
    openedAt: string;
    outcome: string | null;
    difference: number | null;
    unit: Unit;
    decimals: number;
  }[];
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
