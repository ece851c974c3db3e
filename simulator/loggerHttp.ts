import http from 'node:http';
import type { ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { chainUnits } from './chain';
import { sdi12Answer } from './sdi12Sensor';
import { channelValue, clockRun, loggerTime, simNow, stampText, storedRecord } from './logger';
import {
  describeChannel,
  heldFor,
  instantOf,
  newChannel,
  orderHold,
  orderChannel,
  orderClock,
  orderOffset,
  orderTrueValue,
  refuseChannel,
} from './orders';
import { isStarting, isStored, orderOwn, orderStore, ownNow } from './ownSettings';
import type { SimLogger, SimState } from './state';

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
  if (isStarting(logger)) return send(503, { error: 'it starts anew' });
  if (method === 'GET' && path === '/status')
    return send(200, {
      serial: logger.serial,
      model: logger.model,
      firmware: logger.firmware,
      clock,
      utcOffsetMinutes: logger.utcOffsetMinutes,
      clockRun: clockRun(logger),
      stored: isStored(logger),
    });
  if (path === '/own') {
    const refused = method === 'PUT' ? orderOwn(logger, body, now) : null;
    if (refused) return send(422, { error: refused });
    if (method === 'PUT') saved();
    return send(200, ownNow(logger, now));
  }
  if (method === 'PUT' && path === '/store') {
    const refused = orderStore(logger);
    if (refused) return send(422, { error: refused });
    saved();
    return send(200, { stored: isStored(logger) });
  }
  if (method === 'PUT' && path === '/clock') {
    const text = String((body as { clock?: unknown } | null)?.clock ?? '');
    const refused = orderClock(logger, text, now);
    if (refused) return send(422, { error: refused });
    saved();
    return send(200, { clock: stampText(logger, loggerTime(logger, now)), clockRun: clockRun(logger) });
  }
  if (path === '/polling') {
    if (method === 'PUT') {
      const refused = orderHold(logger, (body as { holdFor?: unknown } | null)?.holdFor, now);
      if (refused) return send(422, { error: refused });
      saved();
    }
    return send(200, { heldFor: heldFor(logger, now) });
  }
  if (method === 'PUT' && path === '/sdi12') {
    const { terminal, command } = (body ?? {}) as { terminal?: unknown; command?: unknown };
    if (typeof terminal !== 'string' || typeof command !== 'string')
      return send(422, { error: 'terminal and command are texts' });
    const answer = sdi12Answer(state, logger, terminal, command, now);
    saved();
    return send(200, { answer });
  }
  if (method === 'GET' && path === '/chain') {
    const units = chainUnits(logger, url.searchParams.get('port') ?? '');
    if (!units) return send(404, { error: 'no such chain' });
    // Each is called in turn.
    setTimeout(() => send(200, { units }), 100 + 60 * units.length);
    return;
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
  const match = /^\/channels\/(\d+)(\/offset|\/true-value)?$/.exec(path);
  if (!match) return send(404, { error: 'no such resource' });
  const number = Number(match[1]);
  const channel = logger.channels.find((c) => c.number === number);
  if (method === 'PUT' && !match[2]) {
    const order = body as { settings: ChannelSettings; source: ChannelInput | null };
    const refused = refuseChannel(logger, order);
    if (refused) return send(422, { error: refused });
    const set = channel ?? newChannel(number);
    orderChannel(logger, set, order, now);
    saved();
    return send(200, describeChannel(set, now));
  }
  if (!channel) return send(404, { error: `channel ${number} is not configured` });
  if (method === 'GET') return send(200, describeChannel(channel, now));
  if (method !== 'PUT') return send(405, { error: 'GET or PUT' });
  if (match[2] === '/true-value') {
    const refused = orderTrueValue(state, logger, channel, (body as { value?: unknown } | null)?.value, now);
    if (refused) return send(422, { error: refused });
    saved();
    return send(200, describeChannel(channel, now));
  }
  const offset = (body as { offset?: unknown } | null)?.offset;
  if (typeof offset !== 'number' || !Number.isFinite(offset))
    return send(422, { error: 'offset must be a number' });
  const beyond = orderOffset(logger, channel, offset, now);
  if (beyond) return send(422, { error: beyond });
  saved();
  send(200, describeChannel(channel, now));
}
