import http from 'node:http';
import { quantityOf } from '@/core/quantity/quantity';
import { convertible, isUnit } from '@/core/quantity/unit';
import { refuseInput, type ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import {
  channelValue,
  clockRun,
  inForce,
  loggerTime,
  setClock,
  simNow,
  stampText,
  storedRecord,
} from './logger';
import { loggerProfile } from './inputs';
import type { SimChannel, SimLogger, SimState } from './state';

/** The logger's own small HTTP interface: clock, live values, channel settings, offsets, record as CSV. */
export function serveLogger(state: SimState, logger: SimLogger, saved: () => void): http.Server {
  return http.createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://logger');
    const send = (status: number, body: unknown) => {
      response.writeHead(status, { 'content-type': 'application/json' });
      response.end(JSON.stringify(body));
    };
    readBody(request)
      .then((body) => route(state, logger, request.method ?? 'GET', url, body, response, send, saved))
      .catch((error: unknown) => send(400, { error: String(error) }));
  });
}

async function readBody(request: http.IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  for await (const part of request) parts.push(part as Buffer);
  return parts.length ? JSON.parse(Buffer.concat(parts).toString('utf8')) : null;
}

function route(
  state: SimState,
  logger: SimLogger,
  method: string,
  url: URL,
  body: unknown,
  response: http.ServerResponse,
  send: (status: number, body: unknown) => void,
  saved: () => void,
): void {
  const now = simNow(state);
  const clock = stampText(logger, loggerTime(logger, now));
  const path = url.pathname;
  if (method === 'GET' && path === '/status')
    return send(200, {
      serial: logger.serial,
      model: logger.model,
      firmware: logger.firmware,
      clock,
      utcOffsetMinutes: logger.utcOffsetMinutes,
      clockRun: clockRun(logger),
    });
  if (method === 'PUT' && path === '/clock') {
    const text = String((body as { clock?: unknown } | null)?.clock ?? '');
    const wanted = /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/.test(text) ? instantOf(logger, text) : Number.NaN;
    if (!Number.isFinite(wanted)) return send(422, { error: 'clock must be YYYY-MM-DD HH:MM:SS' });
    setClock(logger, wanted, now);
    saved();
    return send(200, { clock: stampText(logger, loggerTime(logger, now)), clockRun: clockRun(logger) });
  }
  if (method === 'GET' && path === '/live')
    return send(200, {
      clock,
      channels: logger.channels.map((c) => ({
        number: c.number,
        value: channelValue(state, logger, c, now),
      })),
    });
  if (method === 'GET' && path === '/record.csv') {
    const stamp = (name: string, otherwise: number) => {
      const text = url.searchParams.get(name);
      if (!text) return otherwise;
      return instantOf(logger, text);
    };
    const run = Number(url.searchParams.get('run') ?? clockRun(logger));
    if (!(run >= 0 && run <= clockRun(logger))) return send(404, { error: `no clock run ${run}` });
    response.writeHead(200, { 'content-type': 'text/csv; charset=utf-8' });
    response.write(`stamp,${logger.channels.map((c) => c.number).join(',')}\n`);
    let lines: string[] = [];
    for (const row of storedRecord(state, logger, stamp('from', 0), stamp('until', Infinity), run)) {
      lines.push(`${stampText(logger, row.stamp)},${row.values.map((v) => v ?? '').join(',')}\n`);
      if (lines.length === 1000) {
        response.write(lines.join(''));
        lines = [];
      }
    }
    response.end(lines.join(''));
    return;
  }
  const match = /^\/channels\/(\d+)(\/offset)?$/.exec(path);
  if (!match) return send(404, { error: 'no such resource' });
  const number = Number(match[1]);
  let channel = logger.channels.find((c) => c.number === number);
  if (method === 'PUT' && !channel && !match[2]) {
    channel = { number, history: [], offsets: [], offsetResponse: 1 };
    logger.channels.push(channel);
    logger.channels.sort((a, b) => a.number - b.number);
  }
  if (!channel) return send(404, { error: `channel ${number} is not configured` });
  if (method === 'GET') return send(200, describe(channel, now));
  if (method !== 'PUT') return send(405, { error: 'GET or PUT' });
  if (match[2]) {
    const offset = (body as { offset?: unknown } | null)?.offset;
    if (typeof offset !== 'number' || !Number.isFinite(offset))
      return send(422, { error: 'offset must be a number' });
    channel.offsets.push({ from: now, offset });
  } else {
    const { settings, source } = body as {
      settings: ChannelSettings;
      source: ChannelInput | null;
    };
    if (!isUnit(settings.unit)) return send(422, { error: `unit ${String(settings.unit)} is not known` });
    if (!convertible(settings.unit, quantityOf(settings.quantity).unit))
      return send(422, { error: `${settings.quantity} is not measured in ${settings.unit}` });
    const refused = source && refuseInput(source, loggerProfile(logger));
    if (refused) return send(422, { error: refused });
    // This logger keeps 24 characters of a description, as its data sheet says nowhere.
    channel.history.push({
      from: now,
      settings: { ...settings, description: settings.description.slice(0, 24) },
      source,
    });
  }
  saved();
  send(200, describe(channel, now));
}

/** A stamp text at the logger's own offset, ms since epoch. */
const instantOf = (logger: SimLogger, text: string): number =>
  Date.parse(`${text.replace(' ', 'T')}Z`) - logger.utcOffsetMinutes * 60_000;

function describe(channel: SimChannel, now: number) {
  const set = inForce(channel.history, now);
  return {
    number: channel.number,
    settings: set?.settings ?? null,
    source: set?.source ?? null,
    offset: inForce(channel.offsets, now)?.offset ?? 0,
  };
}
