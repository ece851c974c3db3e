import net, { type AddressInfo } from 'node:net';
import { shippedProfile } from '@/catalogue/profiles';
import type { ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { driverFor } from '@/devices/driverFor';
import { fileLinkLogger } from '@/devices/fileLinkLogger';
import { LoggerFault, type Logger } from '@/devices/logger';
import { demoState } from '@/simulator/scenario';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimState } from '@/simulator/state';

/** One suite for every make of logger: what the application asks of one, each must do. */
const now = Date.UTC(2026, 2, 2, 10);
const base = 9_700 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;

const settings: ChannelSettings = {
  description: 'Peat, upper',
  enabled: true,
  quantity: 'soilTemperature',
  unit: '°C',
  measurementInterval: 60,
  storageInterval: 600,
  adjustIn: 'device',
};
const thermistor = shippedProfile('noust-t1')!;
const input = (terminal: string, excitation = 'EX'): ChannelInput => ({
  kind: 'analog',
  terminal,
  measures: 'ratio',
  against: null,
  excitation,
  conversion: thermistor.outputs[0]!.conversion,
});

/** Terminals where each make takes a thermistor; both are told the same thing about it. */
const makes = [
  ['a logger over HTTP', 'http', 'MOSS-3'],
  ['a stand-alone logger over its file link', 'file-link', 'HUT-2'],
] as const;

describe.each(makes)('%s', (_, driver, station) => {
  let stand: Stand | undefined;
  let state: SimState;
  let logger: Logger;
  let wired: ChannelInput;
  beforeAll(async () => {
    state = demoState(now, base);
    state.clock = { mode: 'frozen', at: now };
    state.loggers = state.loggers
      .filter((l) => l.station === station)
      .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2, utcOffsetMinutes: 60 }));
    const thermistorThere = state.loggers[0]!.sensors.find((s) => s.model === 'noust-t1')!;
    wired = input(thermistorThere.wired!.ivory!, thermistorThere.wired!.copper!);
    state.loggers[0]!.clock = { error: 7, perDay: 0, since: now };
    stand = await startStand(state, base);
    logger = driverFor({ driver }).at({ host: '127.0.0.1', port: base + 1 });
  });
  afterAll(() => stand?.close());

  test('says who it is, and its clock at its own offset', async () => {
    expect(await logger.status()).toMatchObject({
      serial: state.loggers[0]!.serial,
      clock: '2026-03-02 11:00:07',
      clockRun: 0,
    });
  });
  test('one that is not launched refuses to be, and changed nothing', async () => {
    const order = {
      id: 'x',
      description: 'x',
      start: 'now',
      startAt: null,
      whenFull: 'stops',
      storesBattery: false,
    } as const;
    for (const work of [logger.launched(), logger.launch(order), logger.launch(null)])
      expect(await work.catch((e: unknown) => e)).toMatchObject({ mayHaveActed: false });
  });
  test('a channel nobody configured is a refusal that changed nothing', async () => {
    const error = await logger.channel(3).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(LoggerFault);
    expect(error).toMatchObject({
      mayHaveActed: false,
      message: expect.stringMatching(/channel 3 is not configured/) as string,
    });
  });
  test('takes settings and input, gives them back, and measures by them', async () => {
    await logger.writeChannel(1, { settings, source: wired });
    expect(await logger.channel(1)).toEqual({
      number: 1,
      settings,
      source: wired,
      offset: 0,
    });
    const shown = (await logger.live()).channels;
    expect(shown.map((c) => c.number)).toEqual([1]);
    expect(shown[0]!.value).toBeGreaterThan(-10);
    expect(shown[0]!.value).toBeLessThan(25);
  });
  test('keeps what it can, which the read-back shows: a description of 24 characters', async () => {
    const long = { ...settings, description: 'Peat below the third board from the path' };
    await logger.writeChannel(2, { settings: long, source: null });
    expect((await logger.channel(2)).settings!.description).toBe('Peat below the third boa');
    expect((await logger.live()).channels).toEqual([
      { number: 1, value: expect.any(Number) as number },
      { number: 2, value: null },
    ]);
  });
  test('takes what it is told of itself, gives it back, and refuses what it cannot keep', async () => {
    expect(await logger.own()).toMatchObject({ stationId: '', name: '', activated: [] });
    const own = { stationId: 'BOG-7', name: 'Hut', activated: [] };
    await logger.writeOwn(own);
    expect(await logger.own()).toEqual(own);
    const error = await logger.writeOwn({ ...own, name: 'x'.repeat(40) }).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(LoggerFault);
    expect(await logger.own()).toEqual(own);
  });
  test('keeps what it is told at once, and says so', async () => {
    expect((await logger.status()).stored).toBe(true);
    expect(await logger.store().catch((e: unknown) => e)).toMatchObject({
      mayHaveActed: false,
      message: expect.stringMatching(/keeps what it is told at once/) as string,
    });
  });
  test('leaves its line alone for as long as it is told, and goes on when it is told or the time is over', async () => {
    expect(await logger.heldFor()).toBe(0);
    await logger.holdPolling(600);
    expect(await logger.heldFor()).toBe(600);
    state.clock = { mode: 'frozen', at: now + 200_000 };
    expect(await logger.heldFor()).toBe(400);
    await logger.holdPolling(0);
    expect(await logger.heldFor()).toBe(0);
    await logger.holdPolling(60);
    state.clock = { mode: 'frozen', at: now + 300_000 };
    expect(await logger.heldFor()).toBe(0);
    state.clock = { mode: 'frozen', at: now };
    state.loggers[0]!.held = [];
    const error = await logger.holdPolling(90_000).catch((e: unknown) => e);
    expect(error).toMatchObject({
      mayHaveActed: false,
      message: expect.stringMatching(/holdFor is 0 to 7200 s/) as string,
    });
  });
  test('what it does not do is a refusal that changed nothing', async () => {
    for (const asked of [logger.chain('Line 1'), logger.sdi12('', '0!')]) {
      const answer = await asked.catch((e: unknown) => e);
      if (answer instanceof LoggerFault) expect(answer.mayHaveActed).toBe(false);
      else expect(answer).toBeNull();
    }
  });
  test('an offset shows at once, and another channel keeps its own', async () => {
    const before = (await logger.live()).channels[0]!.value!;
    await logger.writeOffset(1, 0.4);
    expect((await logger.live()).channels[0]!.value).toBeCloseTo(before + 0.4, 3);
    expect((await logger.channel(1)).offset).toBe(0.4);
    await logger.writeChannel(2, { settings, source: null });
    expect((await logger.channel(1)).offset).toBe(0.4);
  });
  test.each([
    ['a unit it does not know', { ...settings, unit: 'furlong' }, /unit furlong is not known/],
    ['a unit of another quantity', { ...settings, unit: 'hPa' }, /not measured in hPa/],
  ])('%s is refused, and nothing is half taken', async (__, wrong, sentence) => {
    const held = await logger.channel(1);
    const error = await logger
      .writeChannel(1, { settings: wrong as ChannelSettings, source: wired })
      .catch((e: unknown) => e);
    expect(error).toMatchObject({
      mayHaveActed: false,
      message: expect.stringMatching(sentence) as string,
    });
    expect(await logger.channel(1)).toEqual(held);
  });
  test('an input it does not have is refused', async () => {
    const error = await logger.writeChannel(1, { settings, source: input('99 X') }).catch((e: unknown) => e);
    expect(error).toMatchObject({ mayHaveActed: false });
  });

  const record = async (run: number, from: string | null) => {
    const rows: string[] = [];
    let text = '';
    for await (const piece of await logger.record(run, from)) text += Buffer.from(piece).toString('utf8');
    rows.push(...text.split('\n').filter((r) => r !== ''));
    return rows;
  };
  test('its record from a stamp on, by one form whatever its own is', async () => {
    state.clock = { mode: 'frozen', at: now + 40 * 60_000 };
    const all = await record(0, null);
    expect(all[0]).toBe('stamp,1,2');
    expect(all.slice(1).map((r) => r.split(',')[0])).toEqual([
      '2026-03-02 11:10:00',
      '2026-03-02 11:20:00',
      '2026-03-02 11:30:00',
      '2026-03-02 11:40:00',
    ]);
    expect(all[1]).toMatch(/^2026-03-02 11:10:00,-?\d+(\.\d+)?,$/);
    expect(await record(0, '2026-03-02 11:30:00')).toEqual([all[0], all[3], all[4]]);
    expect(await record(0, '2026-03-02 12:30:00')).toEqual([all[0]]);
  });
  test('its clock is set, and a new run begins; the old one is still there', async () => {
    await logger.setClock('2026-03-02 11:40:00');
    expect(await logger.status()).toMatchObject({ clock: '2026-03-02 11:40:00', clockRun: 1 });
    expect((await record(0, null)).length).toBe(5);
    expect(await record(1, null)).toEqual(['stamp,1,2', expect.stringMatching(/^2026-03-02 11:40:00,/)]);
    await expect(logger.record(7, null)).rejects.toThrow(LoggerFault);
    await expect(logger.setClock('noon')).rejects.toMatchObject({ mayHaveActed: false });
  });
  test('nobody there is said, and that nothing was done', async () => {
    const nobody = driverFor({ driver }).at({ host: '127.0.0.1', port: base + 3 });
    for (const work of [nobody.status(), nobody.record(0, null), nobody.writeOffset(1, 1)])
      expect(await work.catch((e: unknown) => e)).toMatchObject({
        mayHaveActed: false,
        message: `nothing listens at 127.0.0.1:${base + 3}`,
      });
  });
});

describe('a file link that misbehaves', () => {
  const servers: net.Server[] = [];
  const sockets = new Set<net.Socket>();
  afterEach(() => {
    for (const s of sockets) s.destroy();
    for (const s of servers.splice(0)) s.close();
  });
  /** A line on whose other end the test speaks. */
  async function line(talk: (socket: net.Socket, said: string) => void): Promise<Logger> {
    const server = net.createServer((socket) => {
      sockets.add(socket);
      socket.on('error', () => {});
      socket.on('data', (d) => talk(socket, d.toString('latin1')));
    });
    servers.push(server);
    await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
    return fileLinkLogger.at({ host: '127.0.0.1', port: (server.address() as AddressInfo).port });
  }
  const fault = async (work: Promise<unknown>) => {
    const error = await work.catch((e: unknown) => e);
    expect(error).toBeInstanceOf(LoggerFault);
    return error as LoggerFault;
  };
  test('says nothing: given up after four seconds', async () => {
    expect((await fault((await line(() => {})).status())).message).toMatch(/no answer .* within 4 s/);
  }, 240_000);
  test.each([
    ['hangs up', (s: net.Socket) => s.destroy(), /closed|broke off/],
    ['talks of something else', (s: net.Socket) => s.write('LOGIN: \r\n'), /said "LOGIN: " where OK was due/],
    ['announces no length', (s: net.Socket) => s.write('OK soon\r\n'), /how long STATUS.TXT is/],
    ['announces too much', (s: net.Socket) => s.write('OK 999999999\r\n'), /longer than 256 kB/],
    ['never ends a line', (s: net.Socket) => s.write('x'.repeat(900)), /longer than 200 characters/],
    ['floods', (s: net.Socket) => s.write(Buffer.alloc(4 << 20, 'O')), /came unasked|longer than 200/],
    ['cancels', (s: net.Socket) => s.write('OK 10\r\n\x18'), /sender cancelled/],
  ])('%s', async (_, talk, sentence) => {
    expect((await fault((await line(talk)).status())).message).toMatch(sentence);
  });
  test('a line that breaks before the end of a file left it as it was; after it, nobody knows', async () => {
    const early = await line((s, said) => (said.startsWith('PUT') ? s.write('OK\r\nC') : s.destroy()));
    expect(await fault(early.setClock('2026-03-02 11:40:00'))).toMatchObject({ mayHaveActed: false });
    const late = await line((s, said) => {
      if (said.startsWith('PUT')) s.write('OK\r\nC');
      else if (said === '\x04') s.destroy();
      else s.write('\x06');
    });
    expect(await fault(late.setClock('2026-03-02 11:40:00'))).toMatchObject({ mayHaveActed: true });
  });
});
