import {
  readAsFound,
  readServiceLine,
  serviceLine,
  type AsFound,
  type ServiceChange,
} from '@/core/bus/serviceLine';
import type { SerialSettings } from '@/core/bus/serial';
import type { DeviceAddress } from './address';
import type { HalfDuplexLine } from '@/line/halfDuplexLine';
import { openLine } from './gatewayLine';

/** A device did not do in its service protocol what it was told. */
export class ServiceFault extends Error {}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

async function say(line: HalfDuplexLine, text: string, timeOut: number): Promise<string | null> {
  await line.quietFor(25);
  line.write(ascii(serviceLine(text)));
  const reply = await line.untilJudged(readServiceLine, Date.now() + timeOut);
  return reply.kind === 'text' ? reply.text : null;
}

/**
 * Works in the service protocol: the gateway is set to its speed and parity before, and back to the line's after,
 * whatever happens in between.
 *
 * @param serial of the service protocol; null where the gateway was set by hand
 * @param back of the line
 */
export async function inServiceProtocol<T>(
  at: DeviceAddress,
  serial: SerialSettings | null,
  back: SerialSettings,
  work: (line: HalfDuplexLine) => Promise<T>,
): Promise<T> {
  const line = await openLine(at, 2000, serial);
  try {
    return await work(line);
  } finally {
    if (serial) await line.setSerial(back).catch(() => {});
    line.close();
  }
}

/** Who is there; null for silence and for what makes no sense. An answer of 110 characters takes 250 ms at 4800 baud. */
export async function askService(line: HalfDuplexLine, timeOut: number): Promise<AsFound | null> {
  const text = await say(line, 'Q', timeOut);
  return text === null ? null : readAsFound(text);
}

/**
 * Sets the fields that have to be others, one after the other, each answered with what it holds now; keeps them
 * for good and sends the device back to work. ServiceFault says where it stopped: nothing is kept then.
 */
export async function changeByService(
  line: HalfDuplexLine,
  changes: readonly ServiceChange[],
  beforeEach: () => Promise<void>,
): Promise<void> {
  const order = async (text: string, due: string) => {
    await beforeEach();
    const answer = await say(line, text, 1000);
    if (answer !== due)
      throw new ServiceFault(`"${text}" was answered by ${answer === null ? 'nothing' : `"${answer}"`}`);
  };
  for (const { field, to } of changes) await order(`S ${field}=${to}`, `s ${field}=${to}`);
  await order('W', 'w');
  await order('E', 'e');
}
