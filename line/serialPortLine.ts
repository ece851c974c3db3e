import type { SerialSettings } from '@/core/bus/serial';
import { carriedLine, type HalfDuplexLine } from './halfDuplexLine';

/** What is used of a serial port as browsers give it (Web Serial API, W3C community draft). */
export interface PortLike {
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
  open(options: {
    baudRate: number;
    dataBits?: 7 | 8;
    parity?: 'none' | 'even' | 'odd';
    stopBits?: 1 | 2;
    bufferSize?: number;
  }): Promise<void>;
  close(): Promise<void>;
}

const optionsOf = (s: SerialSettings) => ({
  baudRate: s.baud,
  dataBits: s.dataBits,
  parity: s.parity,
  stopBits: s.stopBits,
});

/**
 * A line on a serial port of this computer. Its speed and parity are those it is opened with: to set others it is
 * closed and opened anew. Rejects with what the port says where it cannot be opened.
 */
export async function serialPortLine(port: PortLike, serial: SerialSettings): Promise<HalfDuplexLine> {
  await port.open(optionsOf(serial));
  let held = listen(port);
  const release = async () => {
    await held.stop();
    await port.close();
  };
  let closed = false;
  const carried = carriedLine({
    send(bytes) {
      held.write(bytes).catch((error: unknown) => carried.fail(asError(error)));
    },
    async setSerial(settings) {
      await release();
      await port.open(optionsOf(settings));
      held = listen(port);
      void held.feed(carried.push, carried.fail, () => closed);
    },
    close() {
      closed = true;
      void release().catch(() => {});
    },
  });
  void held.feed(carried.push, carried.fail, () => closed);
  return carried.line;
}

const asError = (error: unknown): Error => (error instanceof Error ? error : new Error(String(error)));

/** Reader and writer of an open port, until they are given back. */
function listen({ readable, writable }: PortLike) {
  if (!readable || !writable) throw new Error('the serial port is open and gives no streams');
  const reader = readable.getReader();
  const writer = writable.getWriter();
  let stopped = false;
  return {
    write: (bytes: Uint8Array) => writer.write(bytes),
    async feed(push: (bytes: Uint8Array) => void, fail: (error: Error) => void, closed: () => boolean) {
      try {
        for (;;) {
          const { value, done } = await reader.read();
          if (done) break;
          push(value);
        }
        if (!stopped && !closed()) fail(new Error('the serial port was unplugged'));
      } catch (error) {
        if (!stopped && !closed()) fail(asError(error));
      }
    },
    async stop() {
      stopped = true;
      await reader.cancel().catch(() => {});
      reader.releaseLock();
      await writer.close().catch(() => {});
      writer.releaseLock();
    },
  };
}
