import { characterTime, type SerialSettings } from '@/core/bus/serial';
import { busSerial, demoState } from '@/simulator/scenario';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimState } from '@/simulator/state';
import { bridgedPort } from './bridgedPort';
import { exchangeOn, usualLine } from '@/line/modbusExchange';
import { scanOn, type ScanHit } from '@/line/scanIds';
import { serialPortLine } from '@/line/serialPortLine';

/** A serial port that bridges to the stand's line: what is said on it is what goes through a gateway. */
const now = Date.UTC(2026, 2, 2, 10);
const base = 8_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;
let stand: Stand;
let state: SimState;
beforeAll(async () => {
  state = demoState(now, base);
  state.clock = { mode: 'frozen', at: now };
  state.loggers = state.loggers
    .filter((l) => l.station === 'KELP-3')
    .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2 }));
  stand = await startStand(state, base);
});
afterAll(() => stand.close());
const other: SerialSettings = { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };
const ask = { fn: 4, address: 0, count: 2 } as const;

test('a question and its answer, frame by frame', async () => {
  const line = await serialPortLine(bridgedPort(base + 2), busSerial);
  const done = await exchangeOn(line, 1, ask, usualLine);
  line.close();
  expect(done).toMatchObject({ ok: true });
  expect(done.frames.map((f) => f.direction)).toEqual(['sent', 'received']);
});

test('at another speed it hears nothing sound; set right on the same port it does', async () => {
  const line = await serialPortLine(bridgedPort(base + 2), other);
  expect((await exchangeOn(line, 1, ask, { ...usualLine, timeOut: 200, quarantine: 50 })).ok).toBe(false);
  await line.setSerial(busSerial);
  expect((await exchangeOn(line, 1, ask, usualLine)).ok).toBe(true);
  line.close();
});

test('a scan finds who is there', async () => {
  const line = await serialPortLine(bridgedPort(base + 2), busSerial);
  const hits: ScanHit[] = [];
  await scanOn(
    line,
    [1, 2, 3, 4, 5, 6],
    { character: characterTime(busSerial) * 1000, timeOut: 80, beforeEach: async () => {} },
    (hit) => hits.push(hit),
  );
  line.close();
  expect(hits.map((h) => h.id)).toEqual([1, 2, 3, 4]);
});

test('a port that is unplugged, and one that cannot be opened, are said', async () => {
  const port = bridgedPort(base + 2);
  const line = await serialPortLine(port, busSerial);
  port.unplug();
  expect(await exchangeOn(line, 1, ask, { ...usualLine, timeOut: 200, quarantine: 50 })).toMatchObject({
    ok: false,
    fault: 'no-connection',
  });
  line.close();
  const taken = {
    ...bridgedPort(base + 2),
    open: () => Promise.reject(new Error('The port is already open.')),
  };
  await expect(serialPortLine(taken, busSerial)).rejects.toThrow('already open');
});
