import net from 'node:net';
import { expect, test } from '@playwright/test';
import { negotiate, setSerial, telnetData, telnetOption, telnetReader } from '@/core/bus/rfc2217';
import { expectTidy } from './layout';
import { signIn, stack, standHost, stationId, visit } from './steps';

/**
 * A serial adapter of the browser's own computer: headless Chromium has no chooser for one, so a stand-in port object
 * bridges to the stand's line. What is said on it, and the drivers, are those of the page.
 */
test('asked, written and scanned through an adapter of this computer; without one the page says so', async ({
  page,
}) => {
  await signIn(page);
  const station = await stationId(page, 'KELP-3');
  await page.addInitScript(() => Reflect.deleteProperty(Navigator.prototype, 'serial'));
  await visit(page, `/stations/${station}/connect/direct`);
  await expect(page.getByText('This browser has no serial interface.')).toBeVisible();

  const described = (await (await fetch(`${stack().lab}/lab`)).json()) as {
    loggers: { station: string; bus: number }[];
  };
  const gateway = described.loggers.find((l) => l.station === 'KELP-3')!.bus;
  let socket: net.Socket | null = null;
  await page.exposeFunction(
    'bridgeOpen',
    async (baud: number, dataBits: 7 | 8, parity: 'even', stopBits: 1 | 2) => {
      const opened = net.connect(gateway, standHost());
      socket = opened;
      await new Promise((resolve) => opened.once('connect', resolve));
      for (const option of [telnetOption.binary, telnetOption.noGoAhead, telnetOption.comPort])
        opened.write(negotiate('will', option));
      for (const order of setSerial({ baud, dataBits, parity, stopBits } as never)) opened.write(order);
      const read = telnetReader();
      opened.on('data', (more: Buffer) => {
        const { data } = read(more);
        if (data.length > 0)
          void page
            .evaluate(
              (bytes) => (globalThis as unknown as { fromBridge(b: number[]): void }).fromBridge(bytes),
              [...data],
            )
            .catch(() => {});
      });
    },
  );
  await page.exposeFunction('bridgeWrite', (bytes: number[]) => {
    socket?.write(telnetData(Uint8Array.from(bytes)));
  });
  await page.exposeFunction('bridgeClose', () => void socket?.destroy());
  await page.addInitScript(() => {
    const bridge = globalThis as unknown as {
      bridgeOpen(...of: unknown[]): Promise<void>;
      bridgeWrite(bytes: number[]): Promise<void>;
      bridgeClose(): Promise<void>;
      fromBridge(bytes: number[]): void;
    };
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: null as WritableStream<Uint8Array> | null,
      async open(o: { baudRate: number; dataBits: number; parity: string; stopBits: number }) {
        await bridge.bridgeOpen(o.baudRate, o.dataBits, o.parity, o.stopBits);
        port.readable = new ReadableStream({
          start(to) {
            bridge.fromBridge = (bytes) => to.enqueue(Uint8Array.from(bytes));
          },
        });
        port.writable = new WritableStream({ write: (bytes) => bridge.bridgeWrite([...bytes]) });
      },
      close: () => bridge.bridgeClose(),
    };
    Object.defineProperty(navigator, 'serial', { value: { requestPort: () => Promise.resolve(port) } });
  });
  await visit(page, `/stations/${station}/connect/direct`);
  // On the station's line its logger has to be quiet first.
  await page.getByLabel(/^On RS-485 port 1 of this station/).check();
  await expect(page.getByRole('button', { name: 'Choose the adapter' })).toHaveCount(0);
  await page.getByLabel('Nothing acts on them').check();
  await page.getByRole('button', { name: 'Hold the line' }).click();
  await page.getByRole('button', { name: 'Choose the adapter' }).click();
  await expect(page.getByText('The adapter is open')).toBeVisible();
  const talk = page.getByRole('region', { name: 'Ask or write' });
  await talk.getByLabel('ID', { exact: true }).fill('2');
  await talk.getByLabel('How many, or value').fill('2');
  await talk.getByRole('button', { name: 'Ask' }).click();
  await expect(talk.getByText(/^ID 2, 2 input registers from 0: \d+, \d+$/)).toBeVisible();
  const scan = page.getByRole('region', { name: 'Scan' });
  await scan.getByLabel('To ID').fill('6');
  await scan.getByRole('button', { name: 'Scan' }).click();
  await expect(
    scan.getByText('IDs 1 to 6: ID 1 answers, ID 2 answers, ID 3 answers, ID 4 answers'),
  ).toBeVisible();
  await expectTidy(page, 'direct line');
  await page.getByRole('button', { name: 'Close it' }).click();
  await page.getByRole('button', { name: 'Give the line back' }).click();
  await expect(page.getByText('The logger polls RS-485 port 1.')).toBeVisible();
  await visit(page, `/field-book?station=${station}`);
  await expect(
    page.getByText(/^Scanned over a serial port of their own computer: 19200 8E1; IDs 1 to 6/),
  ).toBeVisible();
});
