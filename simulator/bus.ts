import net from 'node:net';
import {
  negotiate,
  serialHeld,
  serialParameter,
  telnetData,
  telnetOption,
  telnetReader,
} from '@/core/bus/rfc2217';
import { rtuFrame } from '@/core/bus/modbusRtu';
import { characterTime } from '@/core/bus/serial';
import { answerTo, gatewaySerial } from './serialLine';
import type { BusFault, SimLogger, SimState } from './state';

/** A sensor needs a moment to turn its driver round, ms. */
const turnaround = 8;
/** A transparent gateway cannot see 3.5 characters of silence through TCP: a short rest ends a frame, ms. */
const rest = 4;

/**
 * The logger's TCP serial gateway: every byte that arrives goes on the RS-485 line, and whatever a sensor answers
 * goes back to all who are connected. Who negotiates RFC 2217 sets its speed and parity, and it keeps them; who
 * does not gets bytes as they are.
 */
export function serveBus(state: SimState, logger: SimLogger, saved: () => void): net.Server {
  const clients = new Map<net.Socket, { telnet: boolean }>();
  const toAll = (answer: Uint8Array) => {
    for (const [socket, { telnet }] of clients)
      if (!socket.destroyed) socket.write(telnet ? telnetData(answer) : answer);
  };
  return net.createServer((socket) => {
    const client = { telnet: false };
    clients.set(socket, client);
    socket.setNoDelay(true);
    const read = telnetReader();
    let pending = Buffer.alloc(0);
    let silence: NodeJS.Timeout | undefined;
    socket.on('data', (bytes) => {
      // No Modbus frame begins with 255: an ID is at most 247.
      client.telnet ||= bytes[0] === 255;
      const data = client.telnet ? negotiated(logger, socket, read(bytes), saved) : bytes;
      if (data.length === 0) return;
      pending = Buffer.concat([pending, data]);
      clearTimeout(silence);
      silence = setTimeout(() => {
        const frame = pending;
        pending = Buffer.alloc(0);
        const onLine = frame.length * characterTime(gatewaySerial(logger)) - rest;
        setTimeout(() => reply(state, logger, frame, toAll, saved), Math.max(0, onLine));
      }, rest);
    });
    const forget = () => {
      clearTimeout(silence);
      clients.delete(socket);
    };
    socket.on('close', forget);
    socket.on('error', forget);
  });
}

/** Answers what is negotiated and set; gives the data that is left. */
function negotiated(
  logger: SimLogger,
  socket: net.Socket,
  { data, words }: ReturnType<ReturnType<typeof telnetReader>>,
  saved: () => void,
): Buffer {
  for (const word of words) {
    if (word.kind === 'com-port') {
      const set = serialParameter(word.command, word.value);
      if (set) {
        logger.gatewaySerial = { ...gatewaySerial(logger), ...set };
        saved();
      }
      // Flow control, purging and the like are answered too (RFC 2217, section 3): there is nothing to do for them.
      socket.write(serialHeld(word.command, word.value));
    } else if (word.kind === 'will' || word.kind === 'do') {
      const known = Object.values(telnetOption).includes(word.option as never);
      const yes = word.kind === 'will' ? 'do' : 'will';
      const no = word.kind === 'will' ? 'dont' : 'wont';
      socket.write(negotiate(known ? yes : no, word.option));
    }
  }
  return Buffer.from(data);
}

function reply(
  state: SimState,
  logger: SimLogger,
  frame: Buffer,
  send: (b: Uint8Array) => void,
  saved: () => void,
): void {
  const answer = answerTo(state, logger, frame);
  if (!answer) return;
  // What was set is kept by the stand as its devices would keep it.
  if (frame[1] === 6 || frame[1] === 16 || frame[0] === 0x7e) saved();
  const fault = takeFault(logger);
  const takes = turnaround + answer.length * characterTime(gatewaySerial(logger));
  const later = (bytes: Uint8Array, ms = takes) => setTimeout(() => send(bytes), ms);
  switch (fault?.kind) {
    case undefined:
      later(answer);
      return;
    case 'silent':
      return;
    case 'garbage':
      later(Uint8Array.from(answer, (b, i) => (b * 31 + i * 17) & 0xff));
      return;
    case 'half':
      later(answer.slice(0, Math.floor(answer.length / 2)));
      return;
    case 'crc':
      later(Uint8Array.from(answer, (b, i) => (i === answer.length - 1 ? b ^ 0xff : b)));
      return;
    case 'late':
      later(answer, fault.delay ?? 1500);
      return;
    case 'exception':
      later(rtuFrame(frame[0]!, Uint8Array.from([frame[1]! | 0x80, 4])));
      return;
    case 'wrong-id':
      later(rtuFrame((frame[0]! % 247) + 1, answer.subarray(1, -2)));
  }
}

function takeFault(logger: SimLogger): BusFault | null {
  const fault = logger.busFault;
  if (!fault) return null;
  fault.left -= 1;
  if (fault.left <= 0) logger.busFault = null;
  return fault;
}
