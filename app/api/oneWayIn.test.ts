import { openDatabase, query } from '@/db/database';
import { signIn } from '@/server/account/signIn';
import { newId } from '@/server/id';
import type { TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { newInstrument } from '@/test/instrument';
import { call, held, onRoutes, origin, type Call } from '@/test/onRoutes';

/** What every write goes through before it is one: key, body, session, cookie, a database that answers. */
let test_: TestDatabase;
let bench: TestBench;
onRoutes((made) => ({ test_, bench } = made));
const now = () => new Date().toISOString();

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
const unanswered = (key: string, ago: string) =>
  test_.db.sequelize.query(
    `update idempotency set status = null, answer = null, begun_at = now() - interval '${ago}' where key = '${key}'`,
  );
test('a key whose process was killed before it answered is taken over once it is forgotten', async () => {
  const headers = { 'idempotency-key': newId() };
  const body = newInstrument();
  const keep = () => call({ method: 'POST', path: 'v1/kit', role: 'technician', body, headers });
  expect((await keep()).ok).toBe(true);
  await unanswered(headers['idempotency-key'], '5 seconds');
  expect(await (await keep()).json()).toMatchObject({ code: 'in-progress' });
  await unanswered(headers['idempotency-key'], '5 minutes');
  expect(await (await keep()).json()).not.toMatchObject({ code: 'in-progress' });
});
test('a field write is known by its key: one whose server was killed is answered at once, and not done again', async () => {
  const body = { lineId: newId(), stationId: bench.stationId, text: 'after the kill', occurredAt: now() };
  const headers = { 'idempotency-key': newId() };
  expect((await note({ body, headers })).status).toBe(201);
  const before = await lines();
  await unanswered(headers['idempotency-key'], '0 seconds');
  const again = await note({ body, headers });
  expect([again.status, await again.json()]).toEqual([201, { already: true }]);
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
    path: 'v1/stations/[stationId]/checks/[checkId]/readings',
    role: 'technician',
    params: { stationId: bench.stationId, checkId: newId() },
    body: `{"readingId":"${newId()}","reference":{"value":1e400,"unit":"°C"},"watched":[],"occurredAt":"${now()}"}`,
  });
  expect(await response.json()).toMatchObject({ code: 'invalid', field: 'reference.value' });
});
test('a session that was signed out is no more', async () => {
  const { token } = await signIn(test_.db, 'viewer', 'long enough for tests', { address: '10.0.0.2' });
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
