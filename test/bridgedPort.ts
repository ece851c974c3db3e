import net from 'node:net';
import { negotiate, setSerial, telnetData, telnetOption, telnetReader } from '@/core/bus/rfc2217';
import type { PortLike } from '@/line/serialPortLine';

/**
 * A stand-in for a serial port as browsers give it: it bridges to the gateway of a simulated line, which it tells the
 * speed and parity it is opened with.
 */
export function bridgedPort(gateway: number): PortLike & { unplug(): void } {
  let socket: net.Socket | null = null;
  const port = {
    readable: null as ReadableStream<Uint8Array> | null,
    writable: null as WritableStream<Uint8Array> | null,
    async open({ baudRate, dataBits = 8, parity = 'none', stopBits = 1 }: Parameters<PortLike['open']>[0]) {
      const opened = net.connect({ host: '127.0.0.1', port: gateway, noDelay: true });
      socket = opened;
      await new Promise<void>((resolve, reject) => {
        opened.once('connect', () => resolve());
        opened.once('error', reject);
      });
      for (const option of [telnetOption.binary, telnetOption.noGoAhead, telnetOption.comPort])
        opened.write(negotiate('will', option));
      for (const order of setSerial({ baud: baudRate, dataBits, parity, stopBits })) opened.write(order);
      const read = telnetReader();
      port.readable = new ReadableStream<Uint8Array>({
        start(to) {
          opened.on('data', (more: Buffer) => {
            const { data } = read(more);
            if (data.length > 0) to.enqueue(Uint8Array.from(data));
          });
          opened.on('close', () => {
            try {
              to.close();
            } catch {
              // Cancelled by its reader before.
            }
          });
          opened.on('error', () => {});
        },
      });
      port.writable = new WritableStream<Uint8Array>({
        write: (bytes) => void opened.write(telnetData(bytes)),
      });
    },
    close() {
      socket?.destroy();
      socket = null;
      return Promise.resolve();
    },
    unplug: () => void socket?.destroy(),
  };
  return port;
}
