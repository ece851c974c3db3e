import http from 'node:http';
import type net from 'node:net';
import { SMTPServer } from 'smtp-server';
import type { Received, SimState, SinkFault } from './state';

/** So many messages are kept. */
const mostKept = 500;

/** Where the stand receives mail, and what is posted to an address of the web. */
export const sinkPorts = (basePort: number) => ({ mail: basePort + 35, webhook: basePort + 36 });

function keep(state: SimState, received: Received): void {
  state.received = [...(state.received ?? []), received].slice(-mostKept);
}

const faultOf = (state: SimState, sink: Received['sink']): SinkFault | null =>
  state.sinkFaults?.[sink] ?? null;

/** A mail server that takes everything for everybody, unless it is told to fail. */
export function serveMail(state: SimState, saved: () => void): net.Server {
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    disableReverseLookup: true,
    onRcptTo: (_address, _session, callback) => {
      const fault = faultOf(state, 'mail');
      if (!fault) return callback();
      const [code, says] = fault === 'refuses' ? [550, 'no such mailbox'] : [451, 'try again later'];
      callback(Object.assign(new Error(says), { responseCode: code }));
    },
    onData: (stream, session, callback) => {
      const parts: Buffer[] = [];
      stream.on('data', (p: Buffer) => parts.push(p));
      stream.on('end', () => {
        const raw = Buffer.concat(parts).toString('utf8');
        const header = (name: string) => new RegExp(`^${name}: (.*)$`, 'im').exec(raw)?.[1]?.trim() ?? '';
        keep(state, {
          sink: 'mail',
          at: Date.now(),
          to: session.envelope.rcptTo.map((r) => r.address).join(', '),
          delivery: header('Outer-Cairn-Delivery'),
          subject: header('Subject'),
          raw,
          signature: null,
        });
        saved();
        callback();
      });
    },
  });
  return smtp.server;
}

/** Takes whatever is posted to it, unless it is told to fail. */
export function serveWebhook(state: SimState, saved: () => void): http.Server {
  return http.createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on('data', (p: Buffer) => parts.push(p));
    request.on('end', () => {
      const fault = faultOf(state, 'webhook');
      if (fault) {
        response.writeHead(fault === 'refuses' ? 410 : 503).end();
        return;
      }
      const header = (name: string) => String(request.headers[name] ?? '');
      const raw = Buffer.concat(parts).toString('utf8');
      keep(state, {
        sink: 'webhook',
        at: Date.now(),
        to: request.url ?? '/',
        delivery: header('outer-cairn-delivery'),
        subject: '',
        raw,
        signature: header('outer-cairn-signature'),
      });
      saved();
      response.writeHead(204).end();
    });
  });
}
