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
import { carriedLine, type HalfDuplexLine } from '@/line/halfDuplexLine';
import type { DeviceAddress } from './address';

/** The gateway was reached and does not do what was asked of it. */
export class GatewayFault extends Error {}

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
  /** What the gateway said that it holds; null where it refused to be set at all. */
  let held: Partial<SerialSettings> | null = {};
  const read = telnetReader();
  const carried = carriedLine({
    send: (sent) => void socket.write(telnet ? telnetData(sent) : sent),
    close: () => socket.destroy(),
    async setSerial(settings) {
      if (!telnet) throw new GatewayFault('this gateway is set by hand');
      held = held && {};
      for (const order of setSerial(settings)) socket.write(order);
      const deadline = Date.now() + timeOut;
      const isSet = () => held !== null && serialDifferences({ ...unset, ...held }, settings).length === 0;
      while (held && !isSet() && Date.now() < deadline) await carried.wait(deadline - Date.now());
      if (!isSet())
        throw new GatewayFault(
          held
            ? `the gateway did not say that it is set to ${serialText(settings)}`
            : 'the gateway does not let its serial port be set (RFC 2217)',
        );
    },
  });
  socket.on('data', (more: Buffer) => {
    if (!telnet) return carried.push(more);
    const got = read(more);
    for (const word of got.words)
      if (word.kind === 'com-port') held = held && { ...held, ...serialParameter(word.command, word.value) };
      else if (word.kind === 'dont' && word.option === telnetOption.comPort) held = null;
    carried.push(Uint8Array.from(got.data));
  });
  socket.on('error', (error) => carried.fail(error));
  socket.on('close', () => carried.fail(new Error('the gateway closed the connection')));
  if (telnet)
    for (const option of [telnetOption.binary, telnetOption.noGoAhead, telnetOption.comPort])
      socket.write(negotiate('will', option));
  return carried.line;
}

/** What no line is: a parameter the gateway said nothing of. */
const unset = { baud: 0, dataBits: 0, parity: '', stopBits: 0 } as unknown as SerialSettings;
