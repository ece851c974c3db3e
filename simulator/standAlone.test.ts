import { demoState } from './scenario';
import {
  heldRows,
  launchState,
  launchText,
  orderLaunch,
  pressButton,
  changeBattery,
  batteryVolts,
} from './standAlone';
import type { SimLogger, SimState } from './state';

/** The stand's launched logger, by hand: pages of 256 bytes with 12 of header, 4 for a stamp, 2 for a value. */
const now = Date.UTC(2026, 2, 2, 10, 3, 20);
const day = 86_400_000;
let state: SimState;
let logger: SimLogger;
const channel = (number: number, every = 600) => ({
  number,
  offsets: [],
  offsetResponse: 1,
  history: [
    {
      from: now - day,
      source: { kind: 'pulse', terminal: 'PU', conversion: [] } as const,
      settings: {
        description: 'x',
        enabled: true,
        quantity: 'rain',
        unit: 'mm',
        measurementInterval: every,
        storageInterval: every,
        adjustIn: 'device',
      } as const,
    },
  ],
});
const at = (ms: number) => (state.clock = { mode: 'frozen', at: ms });
const order = (to: Record<string, string> = {}) =>
  orderLaunch(
    state,
    logger,
    Object.entries({ id: 'a', description: 'b', start: 'whole-interval', whenFull: 'stops', ...to })
      .map(([k, v]) => `${k}=${v}\n`)
      .join(''),
  );
beforeEach(() => {
  state = demoState(now, 9000);
  logger = state.loggers.find((l) => l.station === 'HUT-3')!;
  logger.channels = [channel(1), channel(2)];
  at(now);
});

test('its first row falls on the next whole interval; it waits until then', () => {
  expect(launchState(state, logger, now)).toBe('idle');
  expect(order()).toBeNull();
  expect(launchState(state, logger, now)).toBe('waiting');
  expect(logger.launch!.began).toBe(Date.UTC(2026, 2, 2, 10, 10));
  at(now + 20 * 60_000);
  expect(heldRows(state, logger, now + 20 * 60_000)).toMatchObject({ rows: 2, every: 600, full: false });
});

test('memory: 30 rows of 8 bytes in 244, 125 pages: 3 750 rows, then it stops', () => {
  order();
  const full = logger.launch!.began! + 3750 * 600_000;
  expect(heldRows(state, logger, full - 1)).toMatchObject({ rows: 3750, full: false });
  const held = heldRows(state, logger, full + 5 * day)!;
  expect(held).toMatchObject({ rows: 3750, full: true, last: full - 600_000 });
  expect(launchState(state, logger, full + 5 * day)).toBe('full');
});

test('overwriting gives the oldest page up whole', () => {
  order({ whenFull: 'overwrites' });
  const began = logger.launch!.began!;
  const rowsAt = (n: number) => heldRows(state, logger, began + (n - 1) * 600_000)!;
  expect(rowsAt(3750)).toMatchObject({ rows: 3750, first: began });
  expect(rowsAt(3751)).toMatchObject({ rows: 3721, first: began + 30 * 600_000 });
  expect(rowsAt(3780)).toMatchObject({ rows: 3750, first: began + 30 * 600_000 });
  expect(rowsAt(3781)).toMatchObject({ rows: 3721, first: began + 60 * 600_000 });
});

test('by its button: nothing before it is pressed', () => {
  order({ start: 'button' });
  at(now + day);
  expect(launchState(state, logger, now + day)).toBe('waiting');
  expect(heldRows(state, logger, now + day)).toBeNull();
  pressButton(state, logger);
  expect(launchState(state, logger, now + day + 1000)).toBe('recording');
});

test('stopped it keeps what it holds', () => {
  order({ start: 'now' });
  at(now + day);
  expect(orderLaunch(state, logger, 'stop=1\n')).toBeNull();
  expect(launchState(state, logger, now + day)).toBe('stopped');
  expect(heldRows(state, logger, now + 9 * day)!.rows).toBe(heldRows(state, logger, now + day)!.rows);
});

test('its cell ends sooner in the cold, shows less on the way, and a new one is full', () => {
  const endsAfter = (celsius: number) => {
    state.places['HUT-3/Logger box'] = { airTemperature: { base: celsius } };
    logger.made!.cell.fitted = now;
    for (let d = 1; d < 400; d++) if (launchState(state, logger, now + d * day) === 'flat') return d;
    return Infinity;
  };
  // 0.8 Ah ÷ 0.118 mA = 282 d at 20 °C; a cold of 10 K takes 8 % more an hour.
  expect(endsAfter(20)).toBe(283);
  expect(endsAfter(10)).toBe(Math.ceil(0.8 / 0.000118 / 24 / 1.08));
  const volts = (d: number) => batteryVolts(state, logger, now + d * day);
  expect(volts(200)).toBeLessThan(volts(10));
  at(now + 260 * day);
  changeBattery(state, logger);
  expect(volts(261)).toBeGreaterThan(3.5);
});

test.each([
  [{ start: 'soon' }, 'start is now, whole-interval, at or button'],
  [{ whenFull: 'x' }, 'whenFull is stops or overwrites'],
  [{ start: 'at', startAt: 'tomorrow' }, 'startAt must be YYYY-MM-DD HH:MM:SS'],
])('refuses %j', (to, why) => expect(order(to as Record<string, string>)).toBe(why));

test('refuses several intervals, no channel, a flat battery', () => {
  logger.channels = [channel(1), channel(2, 900)];
  expect(order()).toBe('all channels have one interval here');
  logger.channels = [];
  expect(order()).toBe('no channel is stored');
  logger.channels = [channel(1)];
  at(now + 400 * day);
  expect(order()).toBe('the battery is flat');
});

test('keeps 32 characters of a description, and says how it stands', () => {
  order({ description: 'y'.repeat(50) });
  expect(launchText(state, logger)).toContain(`description=${'y'.repeat(32)}\n`);
  expect(launchText(state, logger)).toMatch(/^state=waiting\n[^]*nextRow=2026-03-02 10:10:00\n/);
});
