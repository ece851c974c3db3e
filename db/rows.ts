/** One row of each table, in the field's words. Instants are Date, ids UUIDv7 text. */
import type { OwnCircuit } from '@/core/circuit/own';
import type { BenchSetup, Measured } from '@/core/circuit/session';
import type { Support } from '@/core/discharge/curve';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import type { RatingSegment } from '@/core/discharge/rating';
import type { SectionPoint } from '@/core/discharge/section';
import type { Cause, Level, WatchRule } from '@/core/watch/rule';
import type { WatchState } from '@/core/watch/watcher';
import type { OtherDatum } from '@/core/water/datum';
import type { LevelRead, LevelRevision } from '@/core/water/levelReading';
import type { LevellingSheet } from '@/core/water/levelling';
import type { PointKind } from '@/core/water/measuringPoint';
import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import type { StartsBy, WhenFull } from '@/core/device/loggerProfile';
import type { Unit } from '@/core/quantity/unit';
import type { HopKind } from '@/core/wiring/hop';
import type { OpenKind } from '@/core/visit/openMatter';
import type { Evidence } from '@/core/recovery/recovery';
import type { CheckPlan, PlannedPoint } from '@/core/check/plan';
import type { ReferenceRest } from '@/core/check/referenceRest';
import type { Settling } from '@/core/check/settling';
import type { Care } from '@/core/kit/care';
import type { CertifiedQuantity } from '@/schema/kit';
import type { InstrumentQuantity } from '@/schema/pieces';
import type { Dial } from './stored/bench';
import type { CheckResult } from './stored/check';
import type { Expected } from './stored/deploy';
import type { LayerParameters } from './stored/layer';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { OwnSettings } from '@/core/settings/ownSettings';
import type { ImportPlan } from '@/core/import/plan';
import type { QualityThresholds } from '@/core/quality/tests';
import type { ChannelSource } from '@/core/trust/stationFacts';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Plan } from '@/core/plan/plan';
import type { DeviceProfile } from '@/core/device/equipment';
import type { Signal } from '@/core/wiring/landing';

export type Role = 'viewer' | 'technician' | 'reviewer' | 'administrator';

export interface PersonRow {
  id: string;
  name: string;
  initials: string;
  role: Role;
  disabledAt: Date | null;
  createdAt: Date;
  passwordSetAt: Date | null;
  hasPassword: boolean;
}
export interface IdempotencyRow {
  key: string;
  userId: string;
  route: string;
  requestHash: string;
  begunAt: Date;
  status: number | null;
  answer: unknown;
}
export interface SiteRow {
  id: string;
  name: string;
  zone: string;
  note: string;
  /** ° north and east; both or neither. */
  latitude: number | null;
  longitude: number | null;
  cautions: readonly string[];
}
export interface StationRow {
  id: string;
  key: number;
  siteId: string;
  code: string;
  name: string;
  cautions: readonly string[];
  retiredAt: Date | null;
}
export interface LoggerRow {
  stationId: string;
  id: string;
  model: string;
  serial: string;
  address: string;
  utcOffsetMinutes: number;
  supplyVoltage: number;
  /** Its own description; null for a model nobody described. */
  profileCode: string | null;
  profileRevision: number | null;
}
export interface PortRow {
  stationId: string;
  id: string;
  loggerId: string;
  name: string;
  /** A serial line with its gateway has all of these, a row of terminals none. */
  gatewayAddress: string | null;
  framing: 'rtu' | 'tcp' | 'sdi-12' | null;
  baud: number | null;
  dataBits: 7 | 8 | null;
  parity: 'none' | 'even' | 'odd' | null;
  stopBits: 1 | 2 | null;
  /** What the gateway is; null for one that nobody described. */
  gatewayProfileCode: string | null;
  gatewayProfileRevision: number | null;
}
export interface TerminalRow {
  stationId: string;
  id: string;
  portId: string;
  label: string;
  signal: Signal;
}
export interface DeviceProfileRow {
  code: string;
  revision: number;
  body: DeviceProfile;
  sha256: string;
  personId: string | null;
  addedAt: Date;
}
export interface SensorRow {
  id: string;
  profileCode: string;
  profileRevision: number;
  serial: string;
}
export interface InstallationRow {
  stationId: string;
  id: string;
  sensorId: string;
  portId: string;
  busId: number | null;
  /** SDI-12 address, or an I²C address as "0x29". */
  busAddress: string | null;
  zoneName: string;
  cableLength: number;
  cableResistance: number;
  /** The installation whose place it took. */
  replaces: string | null;
  fromAt: Date;
  untilAt: Date | null;
}
export interface LeadRow {
  stationId: string;
  id: string;
  installationId: string;
  terminalId: string;
  colour: string;
  signal: Signal;
  /** Splice or screw through which it comes to its terminal. */
  via: string | null;
}
export interface WiringPlanRow {
  stationId: string;
  revision: number;
  body: Plan;
  personId: string;
  savedAt: Date;
}
export interface PhotographRow {
  stationId: string;
  id: string;
  occasion: 'before' | 'after' | 'place';
  note: string;
  takenAt: Date;
  planRevision: number | null;
  width: number;
  height: number;
  /** JPEG. */
  picture: Buffer;
  small: Buffer;
  sha256: string;
  latitude: number | null;
  longitude: number | null;
  terminal: string | null;
  channelId: string | null;
  hop: HopKind | null;
  copyOf: string | null;
  personId: string;
  recordedAt: Date;
  takenBackAt: Date | null;
  takenBackBy: string | null;
  takenBackReason: string | null;
}
export interface ChannelRow {
  stationId: string;
  id: string;
  key: number;
  /** Only of what a logger logs. */
  loggerId: string | null;
  number: number | null;
  quantity: QuantityCode;
  zoneName: string;
  checkEveryDays: number;
  source: ChannelSource;
}
/** A channel that follows from others of its station. */
export interface DerivationRow {
  stationId: string;
  channelId: string;
  formula: string;
  /** Channels by the formula's names. */
  inputs: Readonly<Record<string, string>>;
  parameters: Readonly<Record<string, number>>;
  personId: string;
  setAt: Date;
}
export interface MappingRow {
  stationId: string;
  id: string;
  channelId: string;
  installationId: string;
  /** Which output of the sensor feeds the channel. */
  outputKey: string;
  fromAt: Date;
  untilAt: Date | null;
}
export interface SettingRevisionRow {
  stationId: string;
  id: string;
  channelId: string;
  revision: number;
  settings: ChannelSettings;
  stagedAt: Date;
  stagedBy: string;
  writtenAt: Date | null;
  readBack: Readonly<Record<string, unknown>> | null;
  discardedAt: Date | null;
}
export interface InstrumentRow {
  id: string;
  name: string;
  model: string;
  serial: string;
  quantities: readonly InstrumentQuantity[];
  calibratedOn: string;
  dueOn: string;
  link: string | null;
  retiredAt: Date | null;
}
export interface CheckRow {
  stationId: string;
  id: string;
  channelId: string;
  installationId: string;
  /** Null for one against standards, or what nature gives. */
  instrumentId: string | null;
  plan: CheckPlan;
  openedAt: Date;
  openedBy: string;
  recordedAt: Date;
  result: CheckResult | null;
  concludedAt: Date | null;
  outcome: CheckOutcome | null;
  closedAt: Date | null;
  closingDifference: number | null;
}
export type CheckOutcome =
  'agree' | 'adjusted' | 'left-outside' | 'does-not-converge' | 'not-settled' | 'abandoned';
export interface CheckReadingRow {
  stationId: string;
  id: string;
  checkId: string;
  phase: 'as-found' | 'verification';
  round: number;
  occurredAt: Date;
  recordedAt: Date;
  recordedBy: string;
  /** Of the plan it was read at; null for a procedure without points. */
  point: string | null;
  settling: Settling;
  referenceRest: ReferenceRest | null;
  /** Read as found, but after the sensor was cleaned. */
  afterCleaning: boolean;
  excludedAt: Date | null;
  excludedReason: string | null;
}
/** One dated value of a reading: sensor, reference, or a companion by its key. */
export interface ObservationRow {
  stationId: string;
  id: string;
  readingId: string;
  role: string;
  value: number;
  since: Date | null;
  occurredAt: Date;
  recordedAt: Date;
  recordedBy: string;
  entered: Readonly<Record<string, unknown>>;
  excludedAt: Date | null;
  excludedReason: string | null;
}
export interface DeviceActionRow {
  stationId: string;
  id: string;
  line: string;
  kind: DeviceActionKind;
  channelId: string | null;
  installationId: string | null;
  intent: Readonly<Record<string, unknown>>;
  intendedAt: Date;
  personId: string;
  state: 'intent' | 'done' | 'failed' | 'unknown';
  outcome: Readonly<Record<string, unknown>> | null;
  settledAt: Date | null;
}
export type DeviceActionKind =
  | 'talk'
  | 'write-settings'
  | 'write-offset'
  | 'set-clock'
  | 'bus-read'
  | 'bus-write'
  | 'sdi-write'
  | 'hold-polling'
  | 'launch'
  | 'write-own'
  | 'store-settings';
export interface LineSessionRow {
  stationId: string;
  id: string;
  portId: string;
  master: 'held' | 'lifted';
  outputsInHand: boolean;
  layers: readonly string[];
  begunAt: Date;
  untilAt: Date;
  personId: string;
  endedAt: Date | null;
  endedBy: string | null;
}
export interface LoggerLabelRow {
  stationId: string;
  id: string;
  loggerId: string;
  registrationCode: string;
  registeredAt: string;
  logIn: 'none' | 'factory' | 'changed';
  saidAt: Date;
  personId: string;
}
export interface OwnSettingRow {
  stationId: string;
  id: string;
  loggerId: string;
  revision: number;
  settings: OwnSettings;
  stagedAt: Date;
  stagedBy: string;
  writtenAt: Date | null;
  readBack: OwnSettings | null;
  discardedAt: Date | null;
}
export interface LoggerKeepingRow {
  stationId: string;
  id: string;
  loggerId: string;
  kept: boolean;
  notedAt: Date;
  personId: string;
}
export interface PartChangeRow {
  stationId: string;
  id: string;
  installationId: string;
  part: string;
  serial: string;
  coefficients: readonly number[];
  previous: readonly number[] | null;
  deviceActionId: string;
  changedAt: Date;
  personId: string;
}
export interface LoggerFirmwareRow {
  stationId: string;
  id: string;
  loggerId: string;
  version: string;
  notedAt: Date;
  personId: string;
}
export interface DeploymentRow {
  stationId: string;
  id: string;
  loggerId: string;
  description: string;
  start: StartsBy;
  startAt: Date | null;
  whenFull: WhenFull;
  storesBattery: boolean;
  channels: number;
  storeEvery: number;
  expected: Expected;
  launchedAt: Date;
  personId: string;
  endedAt: Date | null;
  endedBy: string | null;
}
export interface DeploymentStampRow {
  stationId: string;
  id: string;
  deploymentId: string;
  what: 'hung' | 'taken-down';
  at: Date;
  recordedAt: Date;
  personId: string;
}
export interface RecoveryRow {
  stationId: string;
  id: string;
  installationId: string;
  begunAt: Date;
  personId: string;
  endedAt: Date | null;
  endedBy: string | null;
}
export interface RecoveryStepRow {
  stationId: string;
  recoveryId: string;
  number: number;
  evidence: Evidence;
  at: Date;
  personId: string;
}
export interface AdjustmentRow {
  stationId: string;
  id: string;
  checkId: string;
  channelId: string;
  installationId: string;
  place: 'device' | 'record';
  round: number;
  mode: AdjustmentWay;
  entered: number;
  /** Null where a device that was adjusted by hand does not say. */
  previous: number | null;
  resulting: number | null;
  readAtEntry: number;
  /** A person entered it at the device. */
  byHand: boolean;
  deviceActionId: string | null;
  effectiveAt: Date;
  personId: string;
  /** The adjustment it takes back. */
  undoes: string | null;
  /** Why it went beyond the guard; null where it did not. */
  guardReason: string | null;
  /** Until when the device calibrates itself; null where it does not. */
  runsUntil: Date | null;
}
export interface LayerRow {
  stationId: string;
  id: string;
  channelId: string;
  kind: 'flag' | 'off-line' | 'correction' | 'approval' | 'clock' | 'withdrawal';
  fromAt: Date;
  untilAt: Date | null;
  parameters: LayerParameters;
  reason: string;
  personId: string;
  recordedAt: Date;
  revokes: string | null;
}
export interface VisitRow {
  stationId: string;
  id: string;
  openedAt: Date;
  openedBy: string;
  closedAt: Date | null;
}
export interface ArrivalRow {
  stationId: string;
  id: string;
  visitId: string;
  arrivedAt: Date;
  personId: string;
  /** Who else came, as it was said. */
  others: string;
  recordedAt: Date;
}
export interface HazardAcknowledgedRow {
  stationId: string;
  arrivalId: string;
  number: number;
  caution: string;
}
export interface DepartureRow {
  stationId: string;
  id: string;
  visitId: string;
  leftAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface LeftOpenRow {
  stationId: string;
  departureId: string;
  kind: OpenKind;
  subject: string;
  who: string;
  since: Date;
  reason: string;
}
export interface ChecklistLineRow {
  stationId: string;
  id: string;
  kind: 'to-do' | 'put-back';
  says: string;
  addedAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface ChecklistTickRow {
  stationId: string;
  id: string;
  item: string;
  says: string;
  done: boolean;
  tickedAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface VisitSignatureRow {
  stationId: string;
  visitId: string;
  personId: string;
  signedAt: Date;
  lines: number;
  sha256: string;
}
export interface MeterRow {
  id: string;
  name: string;
  model: string;
  serial: string;
  ranges: Dial;
  dueOn: string | null;
  personId: string;
  addedAt: Date;
  retiredAt: Date | null;
}
/** A reference that was found off, or the line that takes that back. */
export interface InstrumentFindingRow {
  id: string;
  instrumentId: string;
  quantity: QuantityCode;
  /** What it shows too much, base unit. */
  offBy: number;
  goodUntil: Date;
  foundAt: Date;
  why: string;
  personId: string;
  recordedAt: Date;
  revokes: string | null;
}
export interface CalibrationRow {
  id: string;
  instrumentId: string;
  doneOn: string;
  dueOn: string;
  certificate: string;
  says: readonly CertifiedQuantity[];
  personId: string;
  recordedAt: Date;
}
export interface InstrumentCareRow {
  id: string;
  instrumentId: string;
  care: Care;
  personId: string;
  recordedAt: Date;
}
export interface CrossCheckRow {
  id: string;
  instrumentId: string;
  otherId: string;
  quantity: QuantityCode;
  /** What each showed, base unit: this one first. */
  pairs: readonly { readonly one: number; readonly other: number }[];
  place: string;
  comparedAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface StandardRow {
  id: string;
  name: string;
  quantity: QuantityCode;
  lot: string;
  label: { readonly values: PlannedPoint['values'] };
  /** ± of it, base unit. */
  tolerance: number;
  openedOn: string | null;
  expiresOn: string;
  personId: string;
  addedAt: Date;
  retiredAt: Date | null;
}
export interface OwnCircuitRow {
  id: string;
  revision: number;
  body: OwnCircuit;
  isAway: boolean;
  personId: string;
  savedAt: Date;
}
export interface BenchSessionRow {
  stationId: string;
  id: string;
  installationId: string;
  channelId: string;
  meterId: string;
  setup: BenchSetup;
  openedAt: Date;
  personId: string;
  recordedAt: Date;
  endedAt: Date | null;
  endedBy: string | null;
  outcome: string | null;
  says: string | null;
  likelihood: number | null;
}
export interface BenchReadingRow {
  stationId: string;
  id: string;
  sessionId: string;
  measured: Measured;
  shows: number | null;
  typed: string;
  occurredAt: Date;
  personId: string;
  recordedAt: Date;
}
/** Who took something back, when and why; null while it holds. */
interface TakenBack {
  takenBackAt: Date | null;
  takenBackBy: string | null;
  takenBackReason: string | null;
}
export interface StationDatumRow {
  stationId: string;
  id: string;
  name: string;
  others: readonly OtherDatum[];
  personId: string;
  recordedAt: Date;
}
export interface WatchRuleRow {
  stationId: string;
  id: string;
  channelId: string;
  number: number;
  rule: WatchRule;
  armed: boolean;
  note: string;
  personId: string;
  setAt: Date;
}
export interface WatchStateRow {
  stationId: string;
  channelId: string;
  ruleId: string;
  run: number;
  lastMs: number;
  arrivedMs: number;
  state: WatchState | null;
  silentAt: Date | null;
}
export interface AlarmRow {
  stationId: string;
  id: string;
  channelId: string;
  ruleId: string;
  groupId: string;
  cause: Cause;
  beganAt: Date;
  stamp: Date;
  value: number | null;
  raisedAt: Date;
  recordedAt: Date;
  level: Level;
  worst: Level;
  peak: number | null;
  returnedAt: Date | null;
  overStamp: Date | null;
  ended: 'back' | 'hours' | 'gate' | 'rule' | null;
  acknowledgedAt: Date | null;
  acknowledgedBy: string | null;
  acknowledgedReason: string | null;
}
export interface AlarmEventRow {
  stationId: string;
  alarmId: string;
  number: number;
  kind: 'raised' | 'worse' | 'eased' | 'returned' | 'acknowledged' | 'ended';
  at: Date;
  actor: 'person' | 'rule' | 'system';
  personId: string | null;
  says: string;
}
export interface AlarmShelfRow {
  stationId: string;
  id: string;
  channelId: string;
  fromAt: Date;
  untilAt: Date;
  reason: string;
  personId: string;
  endedAt: Date | null;
  endedBy: string | null;
}
export interface AlarmReceiverRow {
  id: string;
  kind: 'mail' | 'webhook';
  name: string;
  address: string;
  secret: string | null;
  least: 1 | 2;
  afterSeconds: number;
  personId: string;
  addedAt: Date;
  retiredAt: Date | null;
  retiredBy: string | null;
}
export interface AlarmMessageRow {
  stationId: string;
  id: string;
  alarmId: string;
  receiverId: string;
  turn: 'raised' | 'worse' | 'returned';
  says: string;
  dueAt: Date;
  state: 'waiting' | 'sent' | 'failed' | 'not needed';
  attempts: number;
  settledAt: Date | null;
  note: string;
}
export interface AlarmProofRow {
  stationId: string;
  id: string;
  channelId: string;
  ruleId: string;
  tightenedId: string | null;
  told: string;
  personId: string;
  begunAt: Date;
  restoreBy: Date;
  restoredAt: Date | null;
  restoredBy: string | null;
  alarmId: string | null;
  receivedAt: Date | null;
  receivedBy: string | null;
  endedAt: Date | null;
  outcome: 'proved' | 'broken off' | null;
  note: string | null;
}
export interface CollectScheduleRow {
  stationId: string;
  id: string;
  everySeconds: number | null;
  personId: string;
  setAt: Date;
}
export interface MeasuringPointRow {
  stationId: string;
  id: string;
  code: string;
  name: string;
  kind: PointKind;
  channelId: string | null;
  personId: string;
  addedAt: Date;
  retiredAt: Date | null;
}
export interface LevelSurveyRow extends TakenBack {
  stationId: string;
  id: string;
  surveyedAt: Date;
  surveyedBy: string;
  note: string;
  sheet: LevellingSheet | null;
  personId: string;
  recordedAt: Date;
}
export interface PointElevationRow {
  stationId: string;
  surveyId: string;
  pointId: string;
  elevation: number;
  accuracy: number;
}
export interface LevelReadingRow extends TakenBack {
  stationId: string;
  id: string;
  pointId: string | null;
  read: LevelRead;
  accuracy: number;
  surveyId: string | null;
  elevation: number | null;
  elevationAccuracy: number | null;
  lookedAgain: boolean;
  readAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface LevelRevisionRow extends TakenBack {
  stationId: string;
  id: string;
  readingId: string;
  because: LevelRevision['because'];
  adds: number;
  surveyId: string | null;
  reason: string;
  personId: string;
  recordedAt: Date;
}
export interface CrossSectionRow extends TakenBack {
  stationId: string;
  id: string;
  holdsFrom: Date;
  points: readonly SectionPoint[];
  uncertainty: number;
  note: string;
  personId: string;
  recordedAt: Date;
}
export interface GaugingRow extends TakenBack {
  stationId: string;
  id: string;
  begunAt: Date;
  endedAt: Date;
  sheet: GaugingSheet;
  level: number;
  levelChange: number;
  velocity: number | null;
  velocityUncertainty: number;
  note: string;
  personId: string;
  recordedAt: Date;
}
export interface KCurveRow extends TakenBack {
  stationId: string;
  id: string;
  number: number;
  holdsFrom: Date;
  forward: readonly Support[];
  reverse: readonly Support[] | null;
  uncertainty: number;
  gaugings: readonly string[];
  note: string;
  personId: string;
  recordedAt: Date;
}
export interface LevelRatingRow extends TakenBack {
  stationId: string;
  id: string;
  number: number;
  holdsFrom: Date;
  segments: readonly RatingSegment[];
  shift: number;
  gaugings: readonly string[];
  note: string;
  personId: string;
  recordedAt: Date;
}
export interface HandheldReadingRow {
  id: string;
  listId: string;
  fileName: string;
  instrumentId: string | null;
  quantity: QuantityCode;
  entered: number;
  unit: Unit;
  value: number;
  readAt: Date;
  label: string;
  personId: string;
  recordedAt: Date;
}
export interface HandheldAssignmentRow extends TakenBack {
  stationId: string;
  id: string;
  readingId: string;
  channelId: string | null;
  assignedAt: Date;
  personId: string;
  recordedAt: Date;
}
export interface FieldBookRow {
  stationId: string;
  id: string;
  visitId: string | null;
  channelId: string | null;
  occurredAt: Date;
  recordedAt: Date;
  personId: string;
  kind: string;
  text: string;
  sum: string | null;
  /** When it was done by the person's own device, where that says so. */
  deviceAt: Date | null;
  /** What was taken off the device's time, s. */
  deviceAhead: number | null;
  /** Key of the field write that left it. */
  actKey: string | null;
}
export interface OperationRow {
  id: string;
  stationId: string;
  kind: string;
  personId: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  progress: number;
  message: string;
  result: unknown;
  begunAt: Date;
  beatAt: Date;
  cancelAskedAt: Date | null;
  endedAt: Date | null;
}
export interface ClockComparisonRow {
  stationId: string;
  id: string;
  loggerId: string;
  clockRun: number;
  comparedAt: Date;
  loggerTime: Date;
  difference: number;
  uncertainty: number;
}
export interface CollectionRow {
  stationId: string;
  id: string;
  loggerId: string;
  clockRun: number;
  collectedAt: Date;
  fromStamp: Date | null;
  untilStamp: Date | null;
  stored: number;
  known: number;
  conflicting: number;
}
export interface ImportRow {
  stationId: string;
  id: string;
  /** What its readings are known by. */
  key: number;
  personId: string;
  fileName: string;
  bytes: number;
  /** What files of one origin share: their header and shape. */
  signature: string;
  plan: ImportPlan;
  confirmed: boolean;
  declaredAt: Date;
  state: 'waiting' | 'running' | 'complete' | 'absent';
  endedAt: Date | null;
  message: string;
  dataRows: number | null;
  stored: number | null;
  known: number | null;
  conflicting: number | null;
  refused: number | null;
  missing: number | null;
  fromAt: Date | null;
  untilAt: Date | null;
}
export interface ClockRunRow {
  stationId: string;
  loggerId: string;
  run: number;
  setAt: Date;
  stampBefore: Date;
  stampAfter: Date;
  deviceActionId: string;
  personId: string;
}
export interface QualitySettingRow {
  stationId: string;
  id: string;
  channelId: string;
  thresholds: QualityThresholds;
  personId: string;
  setAt: Date;
}
export interface TwinRow {
  stationId: string;
  id: string;
  channelId: string;
  otherStationId: string;
  otherChannelId: string;
  tolerance: number;
  personId: string;
  setAt: Date;
  endedAt: Date | null;
}
export interface AuditRow {
  id: number;
  at: Date;
  personId: string | null;
  action: string;
  stationId: string | null;
  subject: unknown;
}
