import Joi from 'joi';
import type { SerialSettings } from '@/core/bus/serial';
import type { School } from '@/core/check/budget';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { finite, id, occurredAt, quantity, serialSettings, unit, words } from './schema';

/** What the interface sends, journey by journey: a type and the schema that belongs to it. */

export interface SignIn {
  name: string;
  password: string;
}
export const signIn = Joi.object<SignIn>({
  name: Joi.string().trim().max(100).required(),
  password: Joi.string().max(500).required(),
});

export interface InstallTransmitter {
  installationId: string;
  portId: string;
  modelCode: string;
  serial: string;
  busId: number;
  zoneName: string;
  serialSettings: SerialSettings;
  cableLength: number;
  cableResistance: number;
  /** Colours of the leads that are on their terminals. */
  landedLeads: string[];
  occurredAt: string;
}
export const installTransmitter = Joi.object<InstallTransmitter>({
  installationId: id,
  portId: id,
  modelCode: Joi.string().required(),
  serial: Joi.string().trim().min(1).max(60).required(),
  busId: finite.required(),
  zoneName: Joi.string().trim().min(1).max(60).required(),
  serialSettings: serialSettings.required(),
  cableLength: finite.min(0).max(5000).required(),
  cableResistance: finite.min(0).max(1000).required(),
  landedLeads: Joi.array().items(Joi.string()).required(),
  occurredAt,
});

export interface Talk {
  actionId: string;
  installationId: string;
}
export const talk = Joi.object<Talk>({ actionId: id, installationId: id });

export interface StageSettings {
  revisionId: string;
  /** Number of the revision the person was looking at; 0 for none. */
  basedOn: number;
  settings: ChannelSettings;
}
export const stageSettings = Joi.object<StageSettings>({
  revisionId: id,
  basedOn: Joi.number().integer().min(0).required(),
  settings: Joi.object({
    description: Joi.string().trim().min(1).max(60).required(),
    enabled: Joi.boolean().required(),
    quantity: quantity.required(),
    unit: unit.required(),
    measurementInterval: finite.required(),
    storageInterval: finite.required(),
    adjustIn: Joi.string().valid('device', 'record').required(),
  }).required(),
});

export interface WriteSettings {
  actionId: string;
  revisionId: string;
}
export const writeSettings = Joi.object<WriteSettings>({ actionId: id, revisionId: id });

export interface OpenCheck {
  checkId: string;
  channelId: string;
  instrumentId: string;
  /** The person names the zone: the easy slip is the reference of one zone on another. */
  zoneName: string;
  outOfDateReason?: string;
  repeats: number;
  school: School;
  /** s */
  settleWindow: number;
  occurredAt: string;
}
export const openCheck = Joi.object<OpenCheck>({
  checkId: id,
  channelId: id,
  instrumentId: id,
  zoneName: Joi.string().trim().min(1).max(60).required(),
  outOfDateReason: words.allow(''),
  repeats: Joi.number().integer().min(1).max(10).required(),
  school: Joi.string().valid('sum', 'gum').required(),
  settleWindow: finite.min(5).max(3600).required(),
  occurredAt,
});

export interface EnteredValue {
  value: number;
  unit: Unit;
}
export interface CaptureReading {
  readingId: string;
  reference: EnteredValue;
  referenceTemperature?: EnteredValue;
  /** Live values watched before the capture: logger stamp in s, base unit. */
  watched: { t: number; value: number }[];
  /** Set when the person was asked about an odd value and stands by it. */
  confirmed?: boolean;
  occurredAt: string;
}
const entered = Joi.object({ value: finite.required(), unit: unit.required() });
export const captureReading = Joi.object<CaptureReading>({
  readingId: id,
  reference: entered.required(),
  referenceTemperature: entered,
  watched: Joi.array()
    .items(Joi.object({ t: finite.required(), value: finite.required() }))
    .max(2000)
    .required(),
  confirmed: Joi.boolean(),
  occurredAt,
});

export interface ExcludeReading {
  reason: string;
}
export const excludeReading = Joi.object<ExcludeReading>({ reason: words.min(3).required() });

export interface Adjust {
  actionId: string;
  adjustmentId: string;
  by: number;
  mode: 'absolute' | 'added';
  occurredAt: string;
}
export const adjust = Joi.object<Adjust>({
  actionId: id,
  adjustmentId: id,
  by: finite.required(),
  mode: Joi.string().valid('absolute', 'added').required(),
  occurredAt,
});

export interface CloseCheck {
  abandon: boolean;
  reason?: string;
  occurredAt: string;
}
export const closeCheck = Joi.object<CloseCheck>({
  abandon: Joi.boolean().required(),
  reason: words.allow(''),
  occurredAt,
});

export interface Collect {
  operationId: string;
}
export const collect = Joi.object<Collect>({ operationId: id });

export interface AddNote {
  lineId: string;
  stationId: string;
  text: string;
  occurredAt: string;
}
export const addNote = Joi.object<AddNote>({
  lineId: id,
  stationId: id,
  text: words.min(1).required(),
  occurredAt,
});

export interface InstrumentRequest {
  instrumentId: string;
  name: string;
  model: string;
  serial: string;
  calibratedOn: string;
  dueOn: string;
  quantities: { quantity: QuantityCode; tolerance: number; resolution: number; low: number; high: number }[];
}
export const instrument = Joi.object<InstrumentRequest>({
  instrumentId: id,
  name: Joi.string().trim().min(1).max(80).required(),
  model: Joi.string().trim().min(1).max(80).required(),
  serial: Joi.string().trim().min(1).max(60).required(),
  calibratedOn: Joi.string().isoDate().required(),
  dueOn: Joi.string().isoDate().required(),
  quantities: Joi.array()
    .min(1)
    .items(
      Joi.object({
        quantity: quantity.required(),
        tolerance: finite.greater(0).required(),
        resolution: finite.greater(0).required(),
        low: finite.required(),
        high: finite.greater(Joi.ref('low')).required(),
      }),
    )
    .required(),
});

export interface BeginOffLine {
  reason: string;
  occurredAt: string;
}
export const beginOffLine = Joi.object<BeginOffLine>({ reason: words.min(3).required(), occurredAt });
export interface EndOffLine {
  occurredAt: string;
}
export const endOffLine = Joi.object<EndOffLine>({ occurredAt });

export const nothing = Joi.object({});
