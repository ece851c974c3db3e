import { shippedProfile } from '@/catalogue/profiles';
import { registerOf } from '@/core/device/profile';
import { demoState } from './scenario';
import { startStand, type Stand } from './stand';

/** The simulated logger's own HTTP interface, asked as our client or anybody else would. */
const now = Date.UTC(2026, 2, 2, 10);
const base = 10_200 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;
let stand: Stand;
let saved = 0;
beforeAll(async () => {
  const state = demoState(now, base);
  state.clock = { mode: 'frozen', at: now };
  state.loggers = state.loggers
    .filter((l) => l.station === 'ARCH-1')
    .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2, utcOffsetMinutes: 60 }));
  stand = await startStand(state, base, () => saved++);
});
afterAll(() => stand.close());

const settings = {
  description: 'Lantern room humidity',
  enabled: true,
  quantity: 'humidity',
  unit: '%RH',
  measurementInterval: 60,
  storageInterval: 600,
  adjustIn: 'device',
};
const ask = async (path: string, method = 'GET', body?: unknown, port = base + 1) => {
  const response = await fetch(`http://127.0.0.1:${port}${path}`, {
    method,
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return {
    status: response.status,
    type: response.headers.get('content-type'),
    text,
    json: () => JSON.parse(text) as Record<string, unknown>,
  };
};

test('tells who it is and what its clock says, at its own fixed offset', async () => {
  expect((await ask('/status')).json()).toMatchObject({
    serial: 'BR4-1903',
    clock: '2026-03-02 11:00:00',
    utcOffsetMinutes: 60,
  });
});
test('a channel nobody configured is not there; writing configures it, reading gives it back', async () => {
  expect((await ask('/channels/2')).status).toBe(404);
  const output = shippedProfile('quern-th3')!.outputs.find((o) => o.key === 'humidity')!;
  const { conversion } = output;
  const field = registerOf(output)!;
  const source = { kind: 'modbus-rtu', busId: 1, field, conversion };
  const cannot = { ...source, field: { ...field, address: 70_000 } };
  expect(await ask('/channels/2', 'PUT', { settings, source: cannot })).toMatchObject({ status: 422 });
  expect((await ask('/channels/2', 'PUT', { settings, source })).json()).toEqual({
    number: 2,
    settings,
    source,
    offset: 0,
  });
  expect((await ask('/channels/2')).json()).toMatchObject({ settings, source });
  expect(saved).toBe(1);
});
test('keeps 24 characters of a description: what was read back is not what was written', async () => {
  await ask('/channels/3', 'PUT', {
    settings: { ...settings, description: 'a description far too long for it' },
    source: null,
  });
  expect(((await ask('/channels/3')).json().settings as { description: string }).description).toBe(
    'a description far too lo',
  );
});
test('live values: a number where a sensor answers, null where none does', async () => {
  const live = (await ask('/live')).json() as { channels: { number: number; value: number | null }[] };
  expect(live.channels.find((c) => c.number === 2)!.value).toBeGreaterThan(20);
  expect(live.channels.find((c) => c.number === 3)!.value).toBeNull();
});
test('an offset is absolute, takes effect at once, and nonsense is refused', async () => {
  const value = async () =>
    ((await ask('/live')).json() as { channels: { number: number; value: number }[] }).channels.find(
      (c) => c.number === 2,
    )!.value;
  const before = await value();
  expect((await ask('/channels/2/offset', 'PUT', { offset: -2.5 })).json()).toMatchObject({ offset: -2.5 });
  expect((await value()) - before).toBeCloseTo(-2.5, 3);
  expect((await ask('/channels/2/offset', 'PUT', { offset: 1 })).json()).toMatchObject({ offset: 1 });
  for (const offset of ['1', null, undefined])
    expect((await ask('/channels/2/offset', 'PUT', { offset })).status).toBe(422);
  expect((await ask('/channels/9/offset', 'PUT', { offset: 1 })).status).toBe(404);
});
test('the record as CSV: a header, round stamps at its own offset, from where one asks', async () => {
  stand.state.clock = { mode: 'frozen', at: now + 3 * 3_600_000 };
  const all = await ask('/record.csv');
  expect(all.type).toMatch(/text\/csv/);
  const lines = all.text.trim().split('\n');
  expect(lines[0]).toBe('stamp,2,3');
  expect(lines[1]).toMatch(/^2026-03-02 11:00:00,\d+(\.\d+)?,$/);
  expect(lines).toHaveLength(1 + 19);
  const later = (await ask(`/record.csv?from=${encodeURIComponent('2026-03-02 13:00:00')}`)).text
    .trim()
    .split('\n');
  expect(later[1]).toMatch(/^2026-03-02 13:00:00,/);
});
test.each([
  ['/nothing', 'GET', 404],
  ['/channels/2', 'DELETE', 405],
  ['/channels/x', 'GET', 404],
])('%s %s answers %d', async (path, method, status) => {
  expect((await ask(path, method)).status).toBe(status);
});
test('broken JSON and unknown units do not bring it down', async () => {
  expect(
    (await fetch(`http://127.0.0.1:${base + 1}/channels/2`, { method: 'PUT', body: '{"a":' })).status,
  ).toBe(400);
  expect(
    (await ask('/channels/2', 'PUT', { settings: { ...settings, unit: 'furlong' }, source: null })).status,
  ).toBe(422);
  expect((await ask('/status')).status).toBe(200);
});
test('the practice stand: orders are obeyed or refused in words; handhelds and hidden truth can be read', async () => {
  expect((await ask('/lab', 'POST', { bus: { station: 'NOWHERE', fault: null } }, base)).json()).toEqual({
    error: 'no logger at NOWHERE',
  });
  expect(
    (
      await ask(
        '/lab',
        'POST',
        { sensor: { serial: 'TH3-1188', quantity: 'humidity', truth: { bias: 4, noise: 0 } } },
        base,
      )
    ).status,
  ).toBe(200);
  const { value, truth } = (
    await ask('/lab/sensor?serial=TH3-1188&quantity=humidity', 'GET', undefined, base)
  ).json() as { value: number; truth: number };
  expect(value - truth).toBeCloseTo(4, 1);
  const shown = (
    await ask(`/handheld/HX-771?place=${encodeURIComponent('ARCH-1/Lantern room')}`, 'GET', undefined, base)
  ).json() as { humidity: number };
  expect(Math.abs(shown.humidity - truth)).toBeLessThan(1);
  expect((await ask('/handheld/NONE', 'GET', undefined, base)).status).toBe(404);
  expect((await ask('/lab', 'GET', undefined, base)).json()).toMatchObject({
    loggers: [{ station: 'ARCH-1' }],
  });
});
