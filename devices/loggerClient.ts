import Joi from 'joi';
import type { ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { DeviceAddress } from './address';
import { AnswerTooLong, boundedText } from './boundedAnswer';

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
}

export interface LiveValues {
  readonly clock: string;
  readonly channels: readonly { readonly number: number; readonly value: number | null }[];
}

const clock = Joi.string()
  .pattern(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/)
  .required();
const statusSchema = Joi.object({
  serial: Joi.string().required(),
  firmware: Joi.string().required(),
  clock,
  clockRun: Joi.number().integer().min(0).max(32_000).default(0),
}).unknown();
const liveSchema = Joi.object({
  clock,
  channels: Joi.array()
    .items(
      Joi.object({ number: Joi.number().integer().required(), value: Joi.number().allow(null).required() }),
    )
    .required(),
});
const channelSchema = Joi.object({
  number: Joi.number().integer().required(),
  settings: Joi.object().unknown().allow(null).required(),
  source: Joi.object().unknown().allow(null).required(),
  offset: Joi.number().required(),
});

/** The longest answer that is no record, and the longest record at one collection, bytes. */
const largestAnswer = 256 * 1024;
export const largestRecord = 256 * 1024 * 1024;

const usualTimeOut = 4000;
/** A long record takes a slow logger a while. */
const recordTimeOut = 120_000;

/** Asks the logger's HTTP interface; redirects are not followed, answers are validated. */
async function ask(
  at: DeviceAddress,
  method: 'GET' | 'PUT',
  path: string,
  body?: unknown,
  timeOut = usualTimeOut,
): Promise<Response> {
  const host = at.host.includes(':') ? `[${at.host}]` : at.host;
  let response: Response;
  try {
    response = await fetch(`http://${host}:${at.port}${path}`, {
      method,
      redirect: 'error',
      signal: AbortSignal.timeout(timeOut),
      ...(body !== undefined && {
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }),
    });
  } catch (error) {
    const cause = (error as { cause?: { code?: string } }).cause?.code;
    const refused = cause === 'ECONNREFUSED' || cause === 'EHOSTUNREACH' || cause === 'ENETUNREACH';
    throw new LoggerFault(
      refused
        ? `nothing listens at ${at.host}:${at.port}`
        : `no answer from ${at.host}:${at.port} within ${timeOut / 1000} s`,
      method === 'PUT' && !refused,
    );
  }
  if (!response.ok) {
    const text = (await boundedText(response.body, 4096).catch(() => '')).slice(0, 200);
    throw new LoggerFault(
      `the logger refused: ${response.status} ${text}`,
      response.status >= 500 && method === 'PUT',
    );
  }
  return response;
}

async function json<T>(response: Response, schema: Joi.Schema, mayHaveActed = false): Promise<T> {
  let body: unknown;
  try {
    body = JSON.parse(await boundedText(response.body, largestAnswer));
  } catch (error) {
    throw new LoggerFault(
      error instanceof AnswerTooLong
        ? `the logger's answer is longer than ${largestAnswer / 1024} kB`
        : 'the logger answered something that is not JSON',
      mayHaveActed,
    );
  }
  const { error, value } = schema.validate(body, { convert: false });
  if (error) throw new LoggerFault(`the logger's answer makes no sense: ${error.message}`, mayHaveActed);
  return value as T;
}

export const readStatus = async (at: DeviceAddress): Promise<LoggerStatus> =>
  json(await ask(at, 'GET', '/status'), statusSchema);

export const readLive = async (at: DeviceAddress): Promise<LiveValues> =>
  json(await ask(at, 'GET', '/live'), liveSchema);

export const readChannel = async (at: DeviceAddress, number: number): Promise<ChannelState> =>
  json(await ask(at, 'GET', `/channels/${number}`), channelSchema);

export async function writeChannel(
  at: DeviceAddress,
  number: number,
  body: { settings: ChannelSettings; source: ChannelInput | null },
): Promise<void> {
  await json(await ask(at, 'PUT', `/channels/${number}`, body), channelSchema, true);
}

export async function writeOffset(at: DeviceAddress, number: number, offset: number): Promise<void> {
  await json(await ask(at, 'PUT', `/channels/${number}/offset`, { offset }), channelSchema, true);
}

/** Sets the logger's clock; the text is at its own offset, "2026-03-01 09:30:00". */
export async function writeClock(at: DeviceAddress, text: string): Promise<void> {
  await json(await ask(at, 'PUT', '/clock', { clock: text }), Joi.object({ clock }).unknown(), true);
}

/** The stored record of one clock run as CSV text in pieces; stamps in the logger's own offset. */
export async function readRecord(
  at: DeviceAddress,
  run: number,
  from: string | null,
): Promise<ReadableStream<Uint8Array>> {
  const path = `/record.csv?run=${run}${from ? `&from=${encodeURIComponent(from)}` : ''}`;
  const response = await ask(at, 'GET', path, undefined, recordTimeOut);
  if (!response.body) throw new LoggerFault('the logger sent no record', false);
  return response.body;
}

/** What a linked reference instrument shows, by quantity, base units. */
export async function readInstrument(at: DeviceAddress, path: string): Promise<Record<string, number>> {
  return json(await ask(at, 'GET', path), Joi.object().pattern(Joi.string(), Joi.number()));
}
