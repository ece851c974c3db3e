import Joi from 'joi';
import type { SerialSettings } from '@/core/bus/serial';
import type { Habit } from '@/core/check/habits';
import type { DeviceAddress } from './address';
import { askJson } from './httpLogger';

/** A sensor as the practice stand says it: only what hangs on serial lines matters here. */
export interface StandSensor {
  readonly serial: string;
  readonly busId: number | null;
  readonly serialSettings: SerialSettings;
  readonly powered: boolean;
  readonly supplyVolts?: number | null;
  readonly swapped?: boolean;
  readonly open?: boolean;
  readonly pairVolts?: number | null;
  readonly dead?: boolean;
  readonly tilt?: number;
  readonly protocol?: string;
  /** What it can be put into to be checked, and what it is in now; null where it hangs. */
  readonly media?: readonly string[];
  readonly medium?: string | null;
}
export interface StandLogger {
  readonly station: string;
  readonly serial: string;
  readonly busSerial: SerialSettings;
  readonly lifted?: readonly string[];
  readonly sensors: readonly StandSensor[];
  /** Where it is, for one that is launched: null for where it hangs. */
  readonly launched?: { readonly where: string | null } | null;
  /** For one that has to be told to keep what it holds: whether it would lose something now. */
  readonly forgetful?: { readonly loses: boolean } | null;
}

/** What a meter and a look show at a sensor. */
export interface AtSensor {
  readonly supply: number;
  readonly idle: number;
  readonly light: 'on' | 'off' | null;
  readonly label: readonly number[] | null;
}

/** A handheld of the stand, and how it is read; null for as it should be. */
export interface StandHandheld {
  readonly serial: string;
  readonly habit: Habit | null;
}

const things = Joi.array().items(Joi.object().unknown()).required();
const loggers = Joi.object({ loggers: things }).unknown();
const handhelds = Joi.object({ handhelds: things }).unknown();
const atSensor = Joi.object({
  supply: Joi.number().required(),
  idle: Joi.number().required(),
  light: Joi.valid('on', 'off', null).required(),
  label: Joi.array().items(Joi.number()).allow(null).default(null),
});
const done = Joi.object({ done: Joi.valid(true).required() });

/** The practice stand at an address: what hangs there, what a meter shows, and its hidden screws. */
export const practiceStand = (at: DeviceAddress) => ({
  async loggers(): Promise<readonly StandLogger[]> {
    return (await askJson<{ loggers: StandLogger[] }>(at, loggers, 'GET', '/lab')).loggers;
  },
  async handhelds(): Promise<readonly StandHandheld[]> {
    return (await askJson<{ handhelds: StandHandheld[] }>(at, handhelds, 'GET', '/lab')).handhelds;
  },
  atSensor: (serial: string) =>
    askJson<AtSensor>(at, atSensor, 'GET', `/lab/at-sensor?serial=${encodeURIComponent(serial)}`),
  obey: (order: unknown) => askJson(at, done, 'PUT', '/lab', order),
});
