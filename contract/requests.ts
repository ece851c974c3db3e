import { adjustmentWays, type AdjustmentWay } from '@/core/device/adjustmentWay';
import type { SerialSettings } from '@/core/bus/serial';
import type { School } from '@/core/check/budget';
import { procedureCodes, type ProcedureCode } from '@/core/procedure/codes';
import type { Unit } from '@/core/quantity/unit';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { OwnSettings } from '@/core/settings/ownSettings';
import type { SettingsTemplate, TemplateChannel } from '@/core/settings/template';
import {
  channelSettings,
  day,
  finite,
  id,
  instrumentQuantity,
  maybeId,
  name,
  occurredAt,
  ownSettings,
  quantity,
  serialSettings,
  unit,
  words,
  type InstrumentQuantity,
} from '@/schema/pieces';
import { listOf, mapOf, must, number, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';

/** What the interface sends, journey by journey: a type and the schema that belongs to it. */

export interface SignIn {
  name: string;
  password: string;
}
export const signIn = shape<SignIn>({
  name: must(text((s) => s.trim().max(100))),
  password: must(text((s) => s.max(500))),
});

/** A sensor as it hangs on a serial line; ID and settings are null where it hangs on terminals alone. */
export interface PlaceSensor {
  installationId: string;
  profileCode: string;
  serial: string;
  busId: number | null;
  serialSettings: SerialSettings | null;
  cableLength: number;
  cableResistance: number;
  /** Colours of the leads that are on their terminals. */
  landedLeads: string[];
  occurredAt: string;
}
const placed = {
  installationId: id,
  profileCode: must(text()),
  serial: must(name(60)),
  busId: must(orNull(finite())),
  serialSettings: must(orNull(serialSettings)),
  cableLength: must(finite((n) => n.min(0).max(5000))),
  cableResistance: must(finite((n) => n.min(0).max(1000))),
  landedLeads: must(listOf(text())),
  occurredAt,
};

export interface InstallTransmitter extends PlaceSensor {
  portId: string;
  zoneName: string;
}
export const installTransmitter = shape<InstallTransmitter>({
  ...placed,
  portId: id,
  zoneName: must(name(60)),
});

/** Another sensor in the place of one: the same port, zone and channels. */
export interface SwapSensor extends PlaceSensor {
  reason: string;
}
export const swapSensor = shape<SwapSensor>({ ...placed, reason: must(words(1)) });

export interface TakeOut {
  reason: string;
  occurredAt: string;
}
export const takeOut = shape<TakeOut>({ reason: must(words(1)), occurredAt });

export interface Talk {
  actionId: string;
  installationId: string;
}
export const talk = shape<Talk>({ actionId: id, installationId: id });

export interface StageSettings {
  revisionId: string;
  /** Number of the revision the person was looking at; 0 for none. */
  basedOn: number;
  settings: ChannelSettings;
}
export const stageSettings = shape<StageSettings>({
  revisionId: id,
  basedOn: must(number((n) => n.integer().min(0))),
  settings: must(channelSettings),
});

/** Stages from where on a leaf counts as wet, by what its sensor reads now. */
export interface StageWetThreshold {
  revisionId: string;
  basedOn: number;
  /** Somebody looked: it is dry. */
  isDry: boolean;
  /** Why it is dry although something speaks against it; empty where nothing does. */
  despite: string;
}
export const stageWetThreshold = shape<StageWetThreshold>({
  revisionId: id,
  basedOn: must(number((n) => n.integer().min(0))),
  isDry: must(yesNo()),
  despite: must(words()),
});

export interface WriteSettings {
  actionId: string;
  revisionId: string;
}
export const writeSettings = shape<WriteSettings>({ actionId: id, revisionId: id });

export interface OpenCheck {
  checkId: string;
  channelId: string;
  procedure: ProcedureCode;
  /** What is read beside the sensor; null for a procedure against standards, or what nature gives. */
  instrumentId: string | null;
  /** The standards it is brought to, in the order in which they are read; none for other procedures. */
  standardIds: readonly string[];
  /** The person names the zone: the easy slip is the reference of one zone on another. */
  zoneName: string;
  outOfDateReason?: string;
  /** What the goods are, where the procedure asks. */
  material?: string;
  repeats: number;
  school: School;
  /** s */
  settleWindow: number;
  occurredAt: string;
}
export const openCheck = shape<OpenCheck>({
  checkId: id,
  channelId: id,
  procedure: must(oneOf<ProcedureCode>()(...procedureCodes)),
  instrumentId: must(orNull(maybeId)),
  standardIds: must(listOf(maybeId, (a) => a.max(6).unique())),
  zoneName: must(name(60)),
  outOfDateReason: words(),
  material: name(60),
  repeats: must(number((n) => n.integer().min(1).max(10))),
  school: must(oneOf<School>()('sum', 'gum')),
  settleWindow: must(finite((n) => n.min(5).max(3600))),
  occurredAt,
});

export interface EnteredValue {
  value: number;
  unit: Unit;
}
export interface CaptureReading {
  readingId: string;
  /** The point it was read at; left out for a procedure without points. */
  point?: string;
  /** Left out where the reference follows from point and companions, or comes later. */
  reference?: EnteredValue;
  /** What was read beside both, by the keys of the check's procedure; what the logger shows may be left out. */
  companions?: Readonly<Record<string, EnteredValue>>;
  /** Live values watched before the capture: logger stamp in s, base unit. */
  watched: { t: number; value: number }[];
  /** When the sensor was placed or something round it changed, logger stamp in s; left out where it hangs as it hung. */
  placedAt?: number;
  /** What a linked reference showed meanwhile, by the same stamps, base unit; left out for one that is typed. */
  referenceWatched?: { t: number; value: number }[];
  /** The sensor was cleaned before it. */
  afterCleaning?: boolean;
  /** The person watched the reference's display over the settling window, and it stood still. */
  referenceStoodStill?: boolean;
  /** What the logger's own display said, where it was read off there instead of asked for. */
  typed?: TypedSensor;
  /** Set when the person was asked about an odd value and stands by it. */
  confirmed?: boolean;
  occurredAt: string;
}
/** The sensor's side of a check as a person read it off the logger's display. */
export interface TypedSensor {
  sensor: EnteredValue;
  /** The person watched the display over the settling window, and it stood still. */
  stoodStill: boolean;
}
const entered = shape<EnteredValue>({ value: must(finite()), unit: must(unit) });
const watched = listOf(
  shape<CaptureReading['watched'][number]>({ t: must(finite()), value: must(finite()) }),
  (a) => a.max(2000),
);
export const captureReading = shape<CaptureReading>({
  readingId: id,
  point: text((s) => s.max(60)),
  reference: entered,
  companions: mapOf(entered),
  watched: must(watched),
  placedAt: finite(),
  referenceWatched: watched,
  referenceStoodStill: yesNo(),
  afterCleaning: yesNo(),
  typed: shape<TypedSensor>({
    sensor: must(entered),
    stoodStill: must(yesNo()),
  }),
  confirmed: yesNo(),
  occurredAt,
});

/** What came after the sensor was read: a test of its sample, a mass from the oven. */
export interface ObserveLater {
  observationId: string;
  /** `reference`, or the key of a companion of the check's procedure. */
  role: string;
  entered: EnteredValue;
  /** Set when the person was asked about it and stands by it. */
  confirmed?: boolean;
  occurredAt: string;
}
export const observeLater = shape<ObserveLater>({
  observationId: id,
  role: must(text((s) => s.max(60))),
  entered: must(entered),
  confirmed: yesNo(),
  occurredAt,
});

export interface ExcludeReading {
  reason: string;
}
export const excludeReading = shape<ExcludeReading>({ reason: must(words(3)) });

export interface Adjust {
  actionId: string;
  adjustmentId: string;
  by: number;
  mode: AdjustmentWay;
  /** What a person entered at the device, and what it held before and holds now where it says so; only for those ways. */
  byHand?: {
    entered: number;
    before: number | null;
    after: number | null;
    /** How long the device works on itself from then on, s; left out where it is done at once. */
    runsFor?: number;
  };
  /** Why more than the guard is true at once; only where its procedure knows such reasons. */
  guardReason?: string;
  occurredAt: string;
}
export const adjust = shape<Adjust>({
  actionId: id,
  adjustmentId: id,
  by: must(finite()),
  mode: must(oneOf<AdjustmentWay>()(...(adjustmentWays as [AdjustmentWay]))),
  byHand: shape<NonNullable<Adjust['byHand']>>({
    entered: must(finite()),
    before: must(orNull(finite())),
    after: must(orNull(finite())),
    runsFor: finite((n) => n.min(0).max(7200)),
  }),
  guardReason: words(3),
  occurredAt,
});

/** Puts back the offset that was there before the last adjustment of a check. */
export interface UndoAdjustment {
  actionId: string;
  adjustmentId: string;
  /** The adjustment that is taken back. */
  undoes: string;
  occurredAt: string;
}
export const undoAdjustment = shape<UndoAdjustment>({
  actionId: id,
  adjustmentId: id,
  undoes: id,
  occurredAt,
});

export interface CloseCheck {
  abandon: boolean;
  reason?: string;
  occurredAt: string;
}
export const closeCheck = shape<CloseCheck>({
  abandon: must(yesNo()),
  reason: words(),
  occurredAt,
});

/** Begins long work under an id of the caller's. */
export interface BeginWork {
  operationId: string;
}
export const beginWork = shape<BeginWork>({ operationId: id });

/** Stages what a logger is to hold of itself. */
export interface StageOwn {
  revisionId: string;
  /** Number of the revision the person was looking at; 0 for none. */
  basedOn: number;
  settings: OwnSettings;
}
export const stageOwn = shape<StageOwn>({
  revisionId: id,
  basedOn: must(number((n) => n.integer().min(0))),
  settings: must(ownSettings),
});

/** Writes all that is staged; `keep`: and has the logger store it for good, where it has to be told. */
export interface WriteAll extends BeginWork {
  keep: boolean;
}
export const writeAll = shape<WriteAll>({ operationId: id, keep: must(yesNo()) });

export interface StoreSettings {
  actionId: string;
}
export const storeSettings = shape<StoreSettings>({ actionId: id });

/** Asks the sensor of a channel several times. */
export interface BeginLiveTest {
  operationId: string;
  tries: number;
}
export const beginLiveTest = shape<BeginLiveTest>({
  operationId: id,
  tries: must(number((n) => n.integer().min(1).max(60))),
});

/** Stages what is proposed for every channel that has no settings yet. */
export interface StageProposed {
  storageInterval: number;
}
export const stageProposed = shape<StageProposed>({ storageInterval: must(finite()) });

/** Stages another storage interval, s, for every channel that has settings. */
export interface StageInterval {
  storageInterval: number;
}
export const stageInterval = shape<StageInterval>({ storageInterval: must(finite()) });

/** Stages the settings of a template wherever they fit. */
export interface StageTemplate {
  template: SettingsTemplate;
}
const templateChannel = shape<TemplateChannel>({
  sensor: must(name(40)),
  output: must(name(60)),
  settings: must(
    shape<TemplateChannel['settings']>({
      enabled: must(yesNo()),
      quantity: must(quantity),
      unit: must(unit),
      measurementInterval: must(finite()),
      storageInterval: must(finite()),
      adjustIn: must(oneOf<'device' | 'record'>()('device', 'record')),
      reportingInterval: orNull(finite()),
      farLow: orNull(finite()),
      low: orNull(finite()),
      high: orNull(finite()),
      farHigh: orNull(finite()),
    }),
  ),
});
export const stageTemplate = shape<StageTemplate>({
  template: must(
    shape<SettingsTemplate>({
      format: must(oneOf<'outer-cairn-settings'>()('outer-cairn-settings')),
      version: must(oneOf<1>()(1)),
      from: must(name(120)),
      channels: must(listOf(templateChannel, (a) => a.max(64))),
    }),
  ),
});

export interface SayLabel {
  labelId: string;
  registrationCode: string;
  /** Where it is registered upstream, in words; empty for nowhere. */
  registeredAt: string;
  logIn: 'none' | 'factory' | 'changed';
}
export const sayLabel = shape<SayLabel>({
  labelId: id,
  registrationCode: must(text((s) => s.trim().max(80).allow(''))),
  registeredAt: must(text((s) => s.trim().max(120).allow(''))),
  logIn: must(oneOf<SayLabel['logIn']>()('none', 'factory', 'changed')),
});

export interface AddNote {
  lineId: string;
  /** The page of the field book it is an addition to. */
  visitId?: string;
  stationId: string;
  text: string;
  occurredAt: string;
}
export const addNote = shape<AddNote>({
  lineId: id,
  stationId: id,
  text: must(words(1)),
  visitId: text((s) => s.uuid({ version: 'uuidv7' })),
  occurredAt,
});

export interface InstrumentRequest {
  instrumentId: string;
  name: string;
  model: string;
  serial: string;
  calibratedOn: string;
  dueOn: string;
  quantities: InstrumentQuantity[];
}
export const instrument = shape<InstrumentRequest>({
  instrumentId: id,
  name: must(name(80)),
  model: must(name(80)),
  serial: must(name(60)),
  calibratedOn: day,
  dueOn: day,
  quantities: must(listOf(instrumentQuantity, (a) => a.min(1))),
});

export interface BeginOffLine {
  reason: string;
  occurredAt: string;
}
export const beginOffLine = shape<BeginOffLine>({ reason: must(words(3)), occurredAt });
export interface EndOffLine {
  occurredAt: string;
}
export const endOffLine = shape<EndOffLine>({ occurredAt });

export const nothing = shape<object>({});
