import type Joi from 'joi';
import type { DeviceAddress } from './address';
import { AnswerTooLong, boundedText } from './boundedAnswer';
import {
  chainSchema,
  channelSchema,
  clockSchema,
  largestAnswer,
  liveSchema,
  LoggerFault,
  ownSchema,
  storedSchema,
  parsed,
  pollingSchema,
  recordTimeOut,
  sdi12Schema,
  sound,
  statusSchema,
  usualTimeOut,
  type ChainUnit,
  type LoggerDriver,
} from './logger';

/** Asks a device's HTTP interface; redirects are not followed, answers are validated. */
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

/** What a device answers as JSON of a form. */
export async function askJson<T>(
  at: DeviceAddress,
  schema: Joi.Schema,
  method: 'GET' | 'PUT',
  path: string,
  body?: unknown,
): Promise<T> {
  const response = await ask(at, method, path, body);
  const acted = method === 'PUT';
  const text = await boundedText(response.body, largestAnswer).catch((error: unknown) => {
    throw new LoggerFault(
      error instanceof AnswerTooLong
        ? `the logger's answer is longer than ${largestAnswer / 1024} kB`
        : 'the logger answered something that is not JSON',
      acted,
    );
  });
  return sound<T>(parsed(text, acted), schema, acted);
}

const notLaunched = () =>
  new LoggerFault('this logger is not launched: it records from when it has settings', false);

/** A logger that is asked over its own HTTP interface. */
export const httpLogger: LoggerDriver = {
  name: 'http',
  at: (at) => ({
    status: () => askJson(at, statusSchema, 'GET', '/status'),
    live: () => askJson(at, liveSchema, 'GET', '/live'),
    channel: (number) => askJson(at, channelSchema, 'GET', `/channels/${number}`),
    async writeChannel(number, body) {
      await askJson(at, channelSchema, 'PUT', `/channels/${number}`, body);
    },
    async writeOffset(number, offset) {
      await askJson(at, channelSchema, 'PUT', `/channels/${number}/offset`, { offset });
    },
    async tellTrueValue(number, value) {
      await askJson(at, channelSchema, 'PUT', `/channels/${number}/true-value`, { value });
    },
    own: () => askJson(at, ownSchema, 'GET', '/own'),
    async writeOwn(own) {
      await askJson(at, ownSchema, 'PUT', '/own', own);
    },
    async store() {
      await askJson(at, storedSchema, 'PUT', '/store', {});
    },
    async setClock(text) {
      await askJson(at, clockSchema, 'PUT', '/clock', { clock: text });
    },
    async heldFor() {
      return (await askJson<{ heldFor: number }>(at, pollingSchema, 'GET', '/polling')).heldFor;
    },
    async holdPolling(seconds) {
      await askJson(at, pollingSchema, 'PUT', '/polling', { holdFor: seconds });
    },
    async sdi12(terminal, command) {
      return (
        await askJson<{ answer: string | null }>(at, sdi12Schema, 'PUT', '/sdi12', { terminal, command })
      ).answer;
    },
    launched: () => Promise.reject(notLaunched()),
    launch: () => Promise.reject(notLaunched()),
    async chain(port) {
      const path = `/chain?port=${encodeURIComponent(port)}`;
      return (await askJson<{ units: readonly ChainUnit[] }>(at, chainSchema, 'GET', path)).units;
    },
    async record(run, from) {
      const path = `/record.csv?run=${run}${from ? `&from=${encodeURIComponent(from)}` : ''}`;
      const response = await ask(at, 'GET', path, undefined, recordTimeOut);
      if (!response.body) throw new LoggerFault('the logger sent no record', false);
      return response.body;
    },
  }),
};
