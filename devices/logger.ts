import Joi from 'joi';
import type { LaunchOrder, LaunchState } from '@/core/deploy/launch';
import type { ChannelInput } from '@/core/device/channelInput';
import { startsBy, type LoggerProfile } from '@/core/device/loggerProfile';
import type { OwnSettings } from '@/core/settings/ownSettings';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { DeviceAddress } from './address';

/** What went wrong with a logger: whether it may have acted on the request is the question that matters. */
export class LoggerFault extends Error {
  constructor(
    message: string,
    readonly mayHaveActed: boolean,
  ) {
    super(message);
  }
}

export interface ChannelState {
  readonly number: number;
  readonly settings: Partial<ChannelSettings> | null;
  readonly source: ChannelInput | null;
  readonly offset: number;
}

export interface LoggerStatus {
  readonly serial: string;
  readonly firmware: string;
  readonly clock: string;
  /** How often its clock was set: stamps of two runs may repeat. */
  readonly clockRun: number;
  /** Whether it would come up after power-off with what it holds now. */
  readonly stored: boolean;
}

/** A unit of a daisy chain as its logger found it, in the order in which they hang. */
export interface ChainUnit {
  /** The number on its label. */
  readonly unit: string;
  readonly model: string;
  /** As how many sensors it counts. */
  readonly counts: number;
  /** It sits in the logger itself. */
  readonly builtIn: boolean;
}

/** How a launched logger stands. Stamps at its own offset; null for none. */
export interface LaunchStatus {
  readonly state: LaunchState;
  /** What it was launched with, as it keeps it; null for one that never was. */
  readonly order: LaunchOrder | null;
  readonly rows: number;
  readonly firstRow: string | null;
  readonly lastRow: string | null;
  readonly nextRow: string | null;
  /** Share of 1. */
  readonly memoryUsed: number;
  readonly batteryVolts: number;
}

export interface LiveValues {
  readonly clock: string;
  readonly channels: readonly { readonly number: number; readonly value: number | null }[];
}

/**
 * A logger at an address, whatever its interface. Everything may throw a LoggerFault. Clock and stamps are
 * texts at the logger's own offset from UTC, "2026-03-01 09:30:00".
 */
export interface Logger {
  status(): Promise<LoggerStatus>;
  live(): Promise<LiveValues>;
  channel(number: number): Promise<ChannelState>;
  writeChannel(
    number: number,
    body: { settings: ChannelSettings; source: ChannelInput | null },
  ): Promise<void>;
  /** In the base unit of the channel's quantity. */
  writeOffset(number: number, offset: number): Promise<void>;
  /**
   * Says what a channel should read now, in the unit of its settings: the logger derives its offset from what it reads
   * at that instant. A LoggerFault where it does not do that.
   */
  tellTrueValue(number: number, value: number): Promise<void>;
  /** What it holds of itself. A LoggerFault where it takes nothing of the kind. */
  own(): Promise<OwnSettings>;
  writeOwn(own: OwnSettings): Promise<void>;
  /** Has it keep for good what it holds now. A LoggerFault where it keeps everything at once. */
  store(): Promise<void>;
  setClock(text: string): Promise<void>;
  /** For how many s more it leaves its serial line alone; 0 where it polls. */
  heldFor(): Promise<number>;
  /** Has it leave its serial line alone for so many s, after which it goes on by itself; 0 to go on at once. */
  holdPolling(seconds: number): Promise<void>;
  /**
   * Passes an SDI-12 command on to the sensors of one of its terminals, with break and marking of its own; null for
   * silence. A LoggerFault where it does not do that.
   */
  sdi12(terminal: string, command: string): Promise<string | null>;
  /** Looks anew who hangs on a chain; the longer, the more hang there. A LoggerFault where it has no such chain. */
  chain(port: string): Promise<readonly ChainUnit[]>;
  /** How it stands with its launch. A LoggerFault where it is not one that is launched. */
  launched(): Promise<LaunchStatus>;
  /** Launches it, which wipes what it holds; null stops it. A LoggerFault likewise. */
  launch(order: LaunchOrder | null): Promise<void>;
  /**
   * The stored record of one clock run from a stamp on, as CSV in pieces: "stamp,1,2" and a row a stamp.
   */
  record(run: number, from: string | null): Promise<ReadableStream<Uint8Array>>;
}

/** How one kind of interface is spoken. */
export interface LoggerDriver {
  readonly name: LoggerProfile['driver'];
  readonly at: (address: DeviceAddress) => Logger;
}

/** The longest answer that is no record, and the longest record at one collection, bytes. */
export const largestAnswer = 256 * 1024;
export const largestRecord = 256 * 1024 * 1024;

/** A file that does not end, or an answer that does not, is given up after so long, ms. */
export const usualTimeOut = 4000;
/** A long record takes a slow logger a while, ms. */
export const recordTimeOut = 120_000;

const clock = Joi.string()
  .pattern(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/)
  .required();
export const clockSchema = Joi.object({ clock }).unknown();
export const statusSchema = Joi.object({
  serial: Joi.string().required(),
  firmware: Joi.string().required(),
  clock,
  clockRun: Joi.number().integer().min(0).max(32_000).default(0),
  stored: Joi.boolean().default(true),
}).unknown();
export const ownSchema = Joi.object({
  stationId: Joi.string().max(64).allow('').required(),
  name: Joi.string().max(64).allow('').required(),
  activated: Joi.array().items(Joi.string().max(12)).max(32).required(),
}).unknown();
export const storedSchema = Joi.object({ stored: Joi.boolean().required() }).unknown();
export const pollingSchema = Joi.object({ heldFor: Joi.number().min(0).max(86_400).required() }).unknown();
export const sdi12Schema = Joi.object({ answer: Joi.string().max(100).allow(null, '').required() }).unknown();
export const chainSchema = Joi.object({
  units: Joi.array()
    .items(
      Joi.object({
        unit: Joi.string().max(60).required(),
        model: Joi.string().max(80).required(),
        counts: Joi.number().integer().min(1).max(64).required(),
        builtIn: Joi.boolean().required(),
      }).unknown(),
    )
    .max(250)
    .required(),
}).unknown();
const stamp = Joi.string()
  .pattern(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/)
  .allow(null)
  .required();
export const launchedSchema = Joi.object({
  state: Joi.valid('idle', 'waiting', 'recording', 'full', 'flat', 'stopped').required(),
  order: Joi.object({
    id: Joi.string().max(60).allow('').required(),
    description: Joi.string().max(200).allow('').required(),
    start: Joi.valid(...startsBy).required(),
    startAt: stamp,
    whenFull: Joi.valid('stops', 'overwrites').required(),
    storesBattery: Joi.boolean().required(),
  })
    .allow(null)
    .required(),
  rows: Joi.number().integer().min(0).required(),
  firstRow: stamp,
  lastRow: stamp,
  nextRow: stamp,
  memoryUsed: Joi.number().min(0).max(1).required(),
  batteryVolts: Joi.number().min(0).max(100).required(),
});
export const liveSchema = Joi.object({
  clock,
  channels: Joi.array()
    .items(
      Joi.object({ number: Joi.number().integer().required(), value: Joi.number().allow(null).required() }),
    )
    .required(),
});
export const channelSchema = Joi.object({
  number: Joi.number().integer().required(),
  settings: Joi.object().unknown().allow(null).required(),
  source: Joi.object().unknown().allow(null).required(),
  offset: Joi.number().required(),
});

/** An answer that is what it should be; anything else is a fault, and never guessed at. */
export function sound<T>(body: unknown, schema: Joi.Schema, mayHaveActed = false): T {
  const { error, value } = schema.validate(body, { convert: false });
  if (error) throw new LoggerFault(`the logger's answer makes no sense: ${error.message}`, mayHaveActed);
  return value as T;
}

/** JSON that a logger sent. */
export function parsed(text: string, mayHaveActed = false): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new LoggerFault('the logger answered something that is not JSON', mayHaveActed);
  }
}
