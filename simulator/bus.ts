import net from 'node:net';
import { crcFits, rtuFrame } from '@/core/bus/modbusRtu';
import { registerWord } from './inputs';
import { simNow } from './logger';
import { sensorAt } from './sensorValue';
import type { BusFault, SimLogger, SimState } from './state';

/**
 * The logger's TCP serial gateway: every byte that arrives goes on the RS-485 line, and whatever a
 * sensor answers goes back to all who are connected, as a transparent gateway does.
 */
export function serveBus(state: SimState, logger: SimLogger): net.Server {
  const clients = new Set<net.Socket>();
  return net.createServer((socket) => {
    clients.add(socket);
    socket.setNoDelay(true);
    let pending = Buffer.alloc(0);
    let silence: NodeJS.Timeout | undefined;
    socket.on('data', (bytes) => {
      pending = Buffer.concat([pending, bytes]);
      clearTimeout(silence);
      // A transparent gateway cannot see 3.5 characters of silence through TCP: a short rest ends a frame.
      silence = setTimeout(() => {
        const frame = pending;
        pending = Buffer.alloc(0);
        reply(state, logger, frame, (answer) => {
          for (const client of clients) if (!client.destroyed) client.write(answer);
        });
      }, 4);
    });
    const forget = () => {
      clearTimeout(silence);
      clients.delete(socket);
    };
    socket.on('close', forget);
    socket.on('error', forget);
  });
}

function reply(state: SimState, logger: SimLogger, frame: Buffer, send: (b: Uint8Array) => void): void {
  const answer = answerTo(state, logger, frame);
  if (!answer) return;
  const fault = takeFault(logger);
  // A sensor needs a moment to turn its driver round.
  const later = (bytes: Uint8Array, ms = 8) => setTimeout(() => send(bytes), ms);
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

/** The answer of whichever sensor is addressed; null when none hears it or the frame is unsound. */
export function answerTo(state: SimState, logger: SimLogger, frame: Uint8Array): Uint8Array | null {
  if (frame.length < 8 || !crcFits(frame)) return null;
  const unit = frame[0]!;
  const fn = frame[1]!;
  const sensor = sensorAt(logger, unit);
  if (!sensor) return null;
  const exception = (code: number) => rtuFrame(unit, Uint8Array.from([fn | 0x80, code]));
  const word = (i: number) => (frame[i]! << 8) | frame[i + 1]!;
  const address = word(2);
  if (fn === 6) {
    // Register 40 holds the ID of models without switches; the answer still carries the old one.
    if (address !== 40) return exception(2);
    const id = word(4);
    if (id < 1 || id > 247) return exception(3);
    sensor.busId = id;
    return frame.slice(0, 8);
  }
  if (fn !== 3 && fn !== 4) return exception(1);
  const count = word(4);
  if (count < 1 || count > 125) return exception(3);
  const words: number[] = [];
  for (let i = 0; i < count; i++) {
    const value =
      fn === 3 && address + i === 40
        ? sensor.busId
        : registerWord(state, logger, unit, fn, address + i, simNow(state));
    if (value === null) return exception(2);
    words.push(value >> 8, value & 0xff);
  }
  return rtuFrame(unit, Uint8Array.from([fn, words.length, ...words]));
}
