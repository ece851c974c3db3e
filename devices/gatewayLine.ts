import net from 'node:net';
import {
  negotiate,
  serialParameter,
  setSerial,
  telnetData,
  telnetOption,
  telnetReader,
} from '@/core/bus/rfc2217';
import { serialDifferences, serialText, type SerialSettings } from '@/core/bus/serial';
import type { DeviceAddress } from './address';

/** The gateway was reached and does not do what was asked of it. */
export class GatewayFault extends Error {}

/**
 * A half-duplex line behind a gateway: what is written goes on it, what comes is gathered until it is judged.
 * What carries it is its own matter; who speaks on it does not know the difference.
 */
export interface HalfDuplexLine {
  write(bytes: Uint8Array): void;
  /** What came since it was last forgotten. */
  readonly bytes: Uint8Array;
  forget(): void;
  /** Waits until nothing has come for so many ms (at most forty times as long), and forgets what came. */
  quietFor(ms: number): Promise<void>;
  /** Listens on until an instant, ms. */
  until(deadline: number): Promise<void>;
  /** Waits until the bytes can be judged, or the deadline passes. */
  untilJudged<T extends { readonly kind: string }>(
    judge: (bytes: Uint8Array) => T,
    deadline: number,
  ): Promise<T>;
  /** Sets the gateway's speed and parity; throws GatewayFault where it does not say that it did. */
  setSerial(settings: SerialSettings): Promise<void>;
  close(): void;
}

/** What a line may gather unread, bytes. */
const mostGathered = 4096;

/**
 * Opens the line at a gateway. Where `serial` is given the gateway is told by RFC 2217 which speed and parity the
 * line has, each time: whoever used it before may have left others.
 *
 * @param timeOut ms to connect, and for each of the gateway's answers
 */
export async function openLine(
  at: DeviceAddress,
  timeOut: number,
  serial: SerialSettings | null,
): Promise<HalfDuplexLine> {
  const socket = await connect(at, timeOut);
  const line = gathered(socket, timeOut, serial !== null);
  if (!serial) return line;
  try {
    await line.setSerial(serial);
  } catch (error) {
    line.close();
    throw error;
  }
  return line;
}

function connect(at: DeviceAddress, timeOut: number): Promise<net.Socket> {
  return new Promise((resolve, reject) => {
    const socket = net.connect({ host: at.host, port: at.port, noDelay: true });
    const timer = setTimeout(() => {
      socket.destroy();
      reject(new Error(`no connection to ${at.host}:${at.port} within ${timeOut} ms`));
    }, timeOut);
    socket.once('connect', () => {
      clearTimeout(timer);
      resolve(socket);
    });
    socket.once('error', (error) => {
      clearTimeout(timer);
      reject(error);
    });
  });
}

function gathered(socket: net.Socket, timeOut: number, telnet: boolean): HalfDuplexLine {
  let bytes: Uint8Array = new Uint8Array();
  let lost: Error | null = null;
  let wake = () => {};
  /** What the gateway said that it holds; null where it refused to be set at all. */
  let held: Partial<SerialSettings> | null = {};
  const read = telnetReader();
  socket.on('data', (more: Buffer) => {
    let data: Uint8Array = more;
    if (telnet) {
      const got = read(more);
      data = Uint8Array.from(got.data);
      for (const word of got.words)
        if (word.kind === 'com-port')
          held = held && { ...held, ...serialParameter(word.command, word.value) };
        else if (word.kind === 'dont' && word.option === telnetOption.comPort) held = null;
    }
    bytes = Buffer.concat([bytes, data]).subarray(0, mostGathered);
    wake();
  });
  socket.on('error', (error) => {
    lost = error;
    wake();
  });
  socket.on('close', () => {
    lost ??= new Error('the gateway closed the connection');
    wake();
  });
  const pause = (ms: number): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, Math.max(0, ms));
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const failIfLost = () => {
    if (lost) throw lost;
  };
  if (telnet)
    for (const option of [telnetOption.binary, telnetOption.noGoAhead, telnetOption.comPort])
      socket.write(negotiate('will', option));
  return {
    write: (sent) => void socket.write(telnet ? telnetData(sent) : sent),
    get bytes() {
      return bytes;
    },
    forget() {
      bytes = new Uint8Array();
    },
    async quietFor(ms) {
      for (let i = 0; i < 40; i++) {
        const before = bytes.length;
        await pause(ms);
        failIfLost();
        if (bytes.length === before) break;
        bytes = new Uint8Array();
      }
      bytes = new Uint8Array();
    },
    async until(deadline) {
      while (!lost && Date.now() < deadline) await pause(deadline - Date.now());
    },
    async untilJudged(judge, deadline) {
      for (;;) {
        const verdict = judge(bytes);
        if (verdict.kind !== 'incomplete') {
          // One answer per question: anything that trails in right behind it makes it unsound.
          const before = bytes.length;
          await pause(10);
          if (bytes.length === before) return verdict;
          continue;
        }
        failIfLost();
        if (Date.now() >= deadline) return verdict;
        await pause(deadline - Date.now());
      }
    },
    async setSerial(settings) {
      if (!telnet) throw new GatewayFault('this gateway is set by hand');
      held = held && {};
      for (const order of setSerial(settings)) socket.write(order);
      const deadline = Date.now() + timeOut;
      const isSet = () => held !== null && serialDifferences({ ...unset, ...held }, settings).length === 0;
      while (held && !isSet() && Date.now() < deadline) {
        failIfLost();
        await pause(deadline - Date.now());
      }
      failIfLost();
      if (!isSet())
        throw new GatewayFault(
          held
            ? `the gateway did not say that it is set to ${serialText(settings)}`
            : 'the gateway does not let its serial port be set (RFC 2217)',
        );
    },
    close: () => socket.destroy(),
  };
}

/** What no line is: a parameter the gateway said nothing of. */
const unset = { baud: 0, dataBits: 0, parity: '', stopBits: 0 } as unknown as SerialSettings;
