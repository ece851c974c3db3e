import { readdirSync } from 'node:fs';
import path from 'node:path';
import { NextRequest } from 'next/server';
import { roles, type Role } from '@/contract/permission';
import { openDatabase, query } from '@/db/database';
import { signIn } from '@/server/account';
import { newId } from '@/server/id';
import { archiveSensor, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { recordRoutes, type RouteRow } from '@/test/recordRoutes';

const origin = 'http://cairn.test';
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
const tokens = {} as Record<Role, string>;
const held = globalThis as { outerCairnDatabase?: unknown };

onConnectedBench((made) => ({ test_, bench, ids } = made));
beforeAll(async () => {
  held.outerCairnDatabase = test_.db;
  process.env.PUBLIC_ORIGIN = origin;
  process.env.DEVICE_ALLOW = bench.at().deviceAllow;
  for (const role of roles)
    tokens[role] = (
      await signIn(test_.db, bench.people[role].name, 'long enough for tests', '10.0.0.1')
    ).token;
});
afterAll(async () => {
  held.outerCairnDatabase = undefined;
});

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';
interface Call {
  method: Method;
  path: string;
  params?: Record<string, string>;
  body?: unknown;
  role?: Role | null;
  headers?: Record<string, string>;
}

/** Calls a route handler as the framework would. */
async function call({ method, path: at, params = {}, body, role, headers = {} }: Call): Promise<Response> {
  const handlers = (await import(path.join(process.cwd(), 'app/api', at, 'route.ts'))) as Record<
    string,
    (r: NextRequest, c: { params: Promise<Record<string, string>> }) => Promise<Response>
  >;
  const request = new NextRequest(`${origin}/api/${at}`, {
    method,
    ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    headers: {
      origin,
      'idempotency-key': newId(),
      'content-type': 'application/json',
      ...(role && { cookie: `oc_session=${tokens[role]}` }),
      ...headers,
    },
  });
  return handlers[method]!(request, { params: Promise.resolve(params) });
}

const everyone: readonly Role[] = roles;
const measuring: readonly Role[] = ['technician', 'administrator'];
const noting: readonly Role[] = ['technician', 'reviewer', 'administrator'];
const S = 'v1/stations/[stationId]';
const now = () => new Date().toISOString();
const settings = {
  description: 'x',
  enabled: true,
  quantity: 'airTemperature',
  unit: '°C',
  measurementInterval: 60,
  storageInterval: 600,
  adjustIn: 'device',
};

/** Every handler: who may use it, and a body that passes its schema. */
const table: RouteRow[] = [
  { method: 'GET', path: 'health', may: 'anyone', succeeds: true },
  {
    method: 'POST',
    path: 'v1/session',
    may: 'anyone',
    body: () => ({ name: 'technician', password: 'long enough for tests' }),
    succeeds: true,
  },
  { method: 'DELETE', path: 'v1/session', may: 'anyone', body: () => ({}), succeeds: true },
  { method: 'GET', path: 'v1/round', may: everyone, succeeds: true },
  { method: 'GET', path: 'v1/clock-strip', may: everyone, succeeds: true },
  { method: 'GET', path: 'v1/kit', may: everyone, succeeds: true },
  {
    method: 'POST',
    path: 'v1/kit',
    may: measuring,
    succeeds: true,
    body: () => ({
      instrumentId: newId(),
      name: 'a',
      model: 'b',
      serial: newId(),
      calibratedOn: '2026-01-01',
      dueOn: '2027-01-01',
      quantities: [{ quantity: 'ph', tolerance: 0.1, resolution: 0.01, low: 0, high: 14 }],
    }),
  },
  { method: 'GET', path: 'v1/field-book', may: everyone, succeeds: true },
  {
    method: 'POST',
    path: 'v1/field-book',
    may: noting,
    succeeds: true,
    body: () => ({ lineId: newId(), stationId: bench.stationId, text: 'a word', occurredAt: now() }),
  },
  {
    method: 'GET',
    path: 'v1/operations/[operationId]',
    may: everyone,
    params: () => ({ operationId: newId() }),
  },
  {
    method: 'POST',
    path: 'v1/operations/[operationId]/cancel',
    may: measuring,
    params: () => ({ operationId: newId() }),
  },
  { method: 'GET', path: S, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/connect`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/transmitters`,
    may: measuring,
    succeeds: true,
    body: () => ({
      installationId: newId(),
      portId: bench.portId,
      ...archiveSensor,
      serial: newId(),
      busId: 10 + counter++,
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/talk`,
    may: measuring,
    succeeds: true,
    body: () => ({ actionId: newId(), installationId: ids.installationId }),
  },
  {
    method: 'PUT',
    path: `${S}/channels/[channelId]/staged-settings`,
    may: measuring,
    body: () => ({ revisionId: newId(), basedOn: 0, settings }),
  },
  { method: 'DELETE', path: `${S}/channels/[channelId]/staged-settings`, may: measuring, succeeds: true },
  {
    method: 'POST',
    path: `${S}/channels/[channelId]/write-settings`,
    may: measuring,
    body: () => ({ actionId: newId(), revisionId: newId() }),
  },
  { method: 'GET', path: `${S}/channels/[channelId]/trace`, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/channels/[channelId]/trace.csv`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/actions/[actionId]/settle`,
    may: measuring,
    params: () => ({ actionId: newId() }),
  },
  {
    method: 'POST',
    path: `${S}/installations/[installationId]/off-line`,
    may: measuring,
    body: () => ({ reason: 'leads off', occurredAt: now() }),
  },
  {
    method: 'DELETE',
    path: `${S}/installations/[installationId]/off-line`,
    may: measuring,
    body: () => ({ occurredAt: now() }),
  },
  { method: 'GET', path: `${S}/checks`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/checks`,
    may: measuring,
    body: () => ({
      checkId: newId(),
      channelId: ids.temperature,
      instrumentId: bench.instrumentId,
      zoneName: 'Lantern room',
      repeats: 3,
      school: 'sum',
      settleWindow: 60,
      occurredAt: now(),
    }),
  },
  { method: 'GET', path: `${S}/checks/[checkId]`, may: everyone, params: () => ({ checkId: newId() }) },
  { method: 'GET', path: `${S}/checks/[checkId]/live`, may: measuring, params: () => ({ checkId: newId() }) },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({
      readingId: newId(),
      reference: { value: 16, unit: '°C' },
      watched: [],
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings/[readingId]/exclude`,
    may: measuring,
    params: () => ({ checkId: newId(), readingId: newId() }),
    body: () => ({ reason: 'because' }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/adjustments`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({ actionId: newId(), adjustmentId: newId(), by: 1, mode: 'added', occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/close`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({ abandon: false, occurredAt: now() }),
  },
  { method: 'POST', path: `${S}/collect`, may: measuring, body: () => ({ operationId: newId() }) },
  ...recordRoutes,
];
let counter = 0;
const paramsOf = (row: (typeof table)[number]) => ({
  stationId: bench.stationId,
  channelId: ids.temperature,
  installationId: ids.installationId,
  ...row.params?.(),
});

test('the table knows every handler there is', () => {
  const found: string[] = [];
  const visit = (folder: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const full = path.join(folder, entry.name);
      if (entry.isDirectory()) visit(full);
      else if (entry.name === 'route.ts') found.push(path.relative('app/api', folder));
    }
  };
  visit('app/api');
  expect([...new Set(table.map((r) => r.path))].sort()).toEqual(found.sort());
});

describe.each(table.map((r) => [`${r.method} ${r.path}`, r] as const))('%s', (_, row) => {
  const body = () => (row.method === 'GET' ? undefined : (row.body?.() ?? {}));
  test('signed out', async () => {
    const response = await call({ ...row, params: paramsOf(row), body: body(), role: null });
    if (row.may === 'anyone') expect(response.status).toBeLessThan(400);
    else {
      expect(response.status).toBe(401);
      expect(await response.json()).toMatchObject({ code: 'signed-out' });
      expect(response.headers.get('content-type')).toBe('application/problem+json');
    }
  });
  if (row.may === 'anyone') return;
  test.each(roles)('as %s', async (role) => {
    const response = await call({ ...row, params: paramsOf(row), body: body(), role });
    if (!row.may.includes(role)) {
      expect(response.status).toBe(403);
      expect(await response.json()).toMatchObject({ code: 'not-allowed' });
    } else if (row.succeeds) expect(response.status).toBeLessThan(300);
    // Not the role but the made-up id or the state stands in the way here.
    else expect([200, 201, 202, 404, 409, 422]).toContain(response.status);
  });
  if (row.method === 'GET') return;
  test('from a foreign origin, or none', async () => {
    for (const foreign of ['http://evil.test', 'null', '']) {
      const response = await call({
        ...row,
        params: paramsOf(row),
        body: body(),
        role: 'administrator',
        headers: { origin: foreign },
      });
      expect(response.status).toBe(403);
      expect(await response.json()).toMatchObject({ code: 'foreign-origin' });
    }
  });
});

describe('the one way in', () => {
  const note = (more: Partial<Call> = {}) =>
    call({
      method: 'POST',
      path: 'v1/field-book',
      role: 'technician',
      body: { lineId: newId(), stationId: bench.stationId, text: 'x', occurredAt: now() },
      ...more,
    });
  const lines = async () =>
    (
      await query<{ n: number }>(test_.db, `select count(*)::int n from field_book_line where kind = 'note'`)
    )[0]!.n;

  test('the same form sent twice is answered, not repeated', async () => {
    const body = { lineId: newId(), stationId: bench.stationId, text: 'once', occurredAt: now() };
    const headers = { 'idempotency-key': newId() };
    const before = await lines();
    const [a, b] = [await note({ body, headers }), await note({ body, headers })];
    expect([a.status, b.status]).toEqual([201, 201]);
    expect(await a.json()).toEqual(await b.json());
    expect(await lines()).toBe(before + 1);
    const other = await note({ body: { ...body, text: 'twice' }, headers });
    expect(await other.json()).toMatchObject({ code: 'key-reused' });
  });
  test('twice at the very same moment: once', async () => {
    const body = { lineId: newId(), stationId: bench.stationId, text: 'at once', occurredAt: now() };
    const headers = { 'idempotency-key': newId() };
    const before = await lines();
    const statuses = (await Promise.all([note({ body, headers }), note({ body, headers })]))
      .map((r) => r.status)
      .sort();
    expect(statuses[0]).toBe(201);
    expect(await lines()).toBe(before + 1);
  });
  test('a key whose process was killed before it answered is taken over once it is forgotten', async () => {
    const body = { lineId: newId(), stationId: bench.stationId, text: 'after the kill', occurredAt: now() };
    const headers = { 'idempotency-key': newId() };
    expect((await note({ body, headers })).status).toBe(201);
    const setKey = (begun: string) =>
      test_.db.sequelize.query(
        `update idempotency set status = null, answer = null, begun_at = now() - interval '${begun}' where key = '${headers['idempotency-key']}'`,
      );
    await setKey('5 seconds');
    expect(await (await note({ body, headers })).json()).toMatchObject({ code: 'in-progress' });
    await setKey('5 minutes');
    // The line it left is found by its id: told, not left twice.
    const before = await lines();
    expect([201, 409]).toContain((await note({ body, headers })).status);
    expect(await lines()).toBe(before);
  });
  test.each([
    ['no key', { headers: { 'idempotency-key': '' } }, 'no-idempotency-key'],
    ['not JSON', { body: '{"a":' }, 'not-json'],
    ['a missing field', { body: { text: 'x' } }, 'missing'],
    [
      'too long',
      {
        body: {
          lineId: newId(),
          stationId: newId(),
          text: 'x'.repeat(3000),
          occurredAt: '2026-01-01T00:00:00Z',
        },
      },
      'invalid',
    ],
    ['half a megabyte', { body: `"${'x'.repeat(600_000)}"` }, 'too-large'],
    [
      'an id that is none',
      { body: { lineId: 'x', stationId: newId(), text: 'x', occurredAt: '2026-01-01T00:00:00Z' } },
      'invalid',
    ],
  ])('%s: refused with field and remedy', async (_, more, code) => {
    const before = await lines();
    const response = await note(more);
    const body = (await response.json()) as { code: string; field: string; remedy: string };
    expect(body.code).toBe(code);
    expect(body.field).toMatch(/\S/);
    expect(body.remedy).toMatch(/\S/);
    expect(await lines()).toBe(before);
  });
  test('1e400 in JSON is Infinity, and refused by name', async () => {
    const response = await call({
      method: 'POST',
      path: `${S}/checks/[checkId]/readings`,
      role: 'technician',
      params: { stationId: bench.stationId, checkId: newId() },
      body: `{"readingId":"${newId()}","reference":{"value":1e400,"unit":"°C"},"watched":[],"occurredAt":"${now()}"}`,
    });
    expect(await response.json()).toMatchObject({ code: 'invalid', field: 'reference.value' });
  });
  test('a session that was signed out is no more', async () => {
    const { token } = await signIn(test_.db, 'viewer', 'long enough for tests', '10.0.0.2');
    const ask = () => call({ method: 'GET', path: 'v1/round', headers: { cookie: `oc_session=${token}` } });
    expect((await ask()).status).toBe(200);
    await call({
      method: 'DELETE',
      path: 'v1/session',
      body: {},
      headers: { cookie: `oc_session=${token}` },
    });
    expect((await ask()).status).toBe(401);
  });
  test('the cookie: http only, strict, secure as PUBLIC_ORIGIN says', async () => {
    const signInAgain = () =>
      call({
        method: 'POST',
        path: 'v1/session',
        body: { name: 'reviewer', password: 'long enough for tests' },
      });
    expect((await signInAgain()).headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=strict/i);
    process.env.PUBLIC_ORIGIN = 'https://cairn.test';
    const secure = await call({
      method: 'POST',
      path: 'v1/session',
      body: { name: 'reviewer', password: 'long enough for tests' },
      headers: { origin: 'https://cairn.test' },
    });
    process.env.PUBLIC_ORIGIN = origin;
    expect(secure.headers.get('set-cookie')).toMatch(/Secure/);
  });
  test('the database away: 503 in plain words, and back again by itself', async () => {
    const away = openDatabase('postgres://outer_cairn_app:x@127.0.0.1:1/none');
    held.outerCairnDatabase = away;
    const response = await call({ method: 'GET', path: 'v1/round', role: 'viewer' });
    expect(response.status).toBe(503);
    expect(await response.json()).toMatchObject({ code: 'database-away' });
    expect((await call({ method: 'GET', path: 'health' })).status).toBe(503);
    held.outerCairnDatabase = test_.db;
    await away.sequelize.close();
    expect((await call({ method: 'GET', path: 'v1/round', role: 'viewer' })).status).toBe(200);
  });
});
