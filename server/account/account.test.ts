import { Client } from 'pg';
import { query, rows } from '@/db/database';
import { refusal } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import type { Context, Person } from '../context';
import { systemPerson } from '../actor';
import { newId } from '../id';
import {
  addUser,
  changeOwnPassword,
  changePerson,
  choosePassword,
  endOwnSessions,
  holderOfLink,
  invitePerson,
  makeFirstAdministrator,
  newLink,
  ownSessions,
  people,
  setupCode,
  signOutEverywhere,
} from './people';
import { requirePermission } from './permission';
import { personOfSession, sessionWasEnded, signIn, signOut } from './signIn';

let test_: TestDatabase;
let admin: Person;
const password = 'stone on stone';
beforeAll(async () => {
  test_ = await testDatabase();
});
afterAll(() => test_.close());
const add = (name: string, role = 'viewer') => addUser(test_.db, { name, initials: 'XX', role, password });
const enter = (name: string, secret = password, address = '10.1.1.1', device?: string) =>
  signIn(test_.db, name, secret, { address, device });
const ctx = (person: Person = admin): Context => ({
  db: test_.db,
  person,
  now: () => new Date(),
  deviceAllow: '',
});
const actions = async () => (await rows(test_.db.audit)).map((a) => a.action);
const tokenOf = (link: string) => link.split('#')[1]!;

test('the first administrator is made with the code the server shows, once, and by one of six at once', async () => {
  const code = (await setupCode(test_.db))!;
  const make = (name: string, with_ = code) =>
    makeFirstAdministrator(test_.db, { code: with_, name, initials: 'AR', password });
  expect((await refusal(make('tern', 'made up'))).code).toBe('setup-over');
  const all = await Promise.allSettled(Array.from({ length: 6 }, (_, i) => make(`tern${i}`)));
  expect(all.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
  expect(await setupCode(test_.db)).toBeNull();
  const [first] = await people(test_.db);
  admin = (await enter(first!.name)).person;
  expect(admin.role).toBe('administrator');
  await add('heron', 'technician');
});
test('the application itself is no account: not listed, not signed in, not changed', async () => {
  expect((await people(test_.db)).map((p) => p.name)).not.toContain(systemPerson.name);
  expect((await refusal(enter(systemPerson.name))).code).toBe('sign-in-refused');
  expect((await refusal(newLink(ctx(), systemPerson.id))).status).toBe(404);
  const enabled = changePerson(ctx(), systemPerson.id, { role: 'administrator', disabled: false });
  expect((await refusal(enabled)).status).toBe(404);
});
test('signs in, stays signed in, signs out; all of it is in the audit', async () => {
  const { token, person } = await enter('heron');
  expect(person).toEqual({ id: person.id, name: 'heron', initials: 'XX', role: 'technician' });
  expect(await personOfSession(test_.db, token)).toMatchObject({ name: 'heron' });
  await signOut(test_.db, token);
  expect(await personOfSession(test_.db, token)).toBeNull();
  expect(await personOfSession(test_.db, 'made up')).toBeNull();
  await refusal(enter('heron', 'wrong'));
  expect(await actions()).toEqual(
    expect.arrayContaining(['person.first', 'person.add', 'sign-in', 'sign-out', 'sign-in.refused']),
  );
});
test('a session ends a fortnight after it began, and after three days in which nobody used it', async () => {
  const { token, expiresAt } = await enter('heron');
  const day = 86_400_000;
  const at = (days: number) => personOfSession(test_.db, token, new Date(Date.now() + days * day));
  for (const days of [2, 4, 6.5, 9, 11, 13]) expect(await at(days)).not.toBeNull();
  expect(await personOfSession(test_.db, token, expiresAt)).toBeNull();
  const unused = await enter('heron');
  expect(await personOfSession(test_.db, unused.token, new Date(Date.now() + 3.1 * day))).toBeNull();
});
test('a session that was ended on purpose is told from one that ran out: its device is to hold nothing', async () => {
  const [ended, unused] = [await enter('heron'), await enter('heron')];
  await signOut(test_.db, ended.token);
  expect(await sessionWasEnded(test_.db, ended.token)).toBe(true);
  expect(await personOfSession(test_.db, unused.token, unused.expiresAt)).toBeNull();
  expect(await sessionWasEnded(test_.db, unused.token)).toBe(false);
  expect(await sessionWasEnded(test_.db, 'made up')).toBe(false);
});
test('neither token, link nor password is on file; the application cannot even ask', async () => {
  const { token, device } = await enter('heron');
  const client = new Client({ connectionString: test_.superUrl });
  await client.connect();
  const text = JSON.stringify([
    (await client.query('select * from session')).rows,
    (await client.query('select * from known_device')).rows,
  ]);
  const { rows: users } = await client.query<{ password_hash: string }>(
    `select password_hash from app_user where role <> 'system'`,
  );
  await client.end();
  for (const secret of [token, device]) expect(text).not.toContain(secret);
  for (const u of users) expect(u.password_hash).toMatch(/^\$argon2id\$/);
  await expect(query(test_.db, 'select password_hash from app_user')).rejects.toThrow(/permission denied/);
});
test('a wrong password and an unknown name sound the same', async () => {
  const [a, b] = [await refusal(enter('heron', 'wrong')), await refusal(enter('nobody', 'wrong'))];
  expect(a).toEqual(b);
  expect(a.status).toBe(401);
});

describe('attempts are limited, and the limit is turned against nobody', () => {
  test('eight wrong passwords from one place stop that place, not the owner elsewhere', async () => {
    await add('target');
    for (let i = 0; i < 8; i++) await refusal(enter('target', 'guess', '10.2.0.1'));
    const refused = await refusal(enter('target', password, '10.2.0.1'));
    expect(refused).toMatchObject({ code: 'too-many-attempts', status: 429 });
    expect(refused.remedy).toMatch(/Wait \d+ min/);
    expect((await enter('target', password, '10.2.0.2')).person.name).toBe('target');
  });
  test('a flood at an account from everywhere does not stop a device its owner used before', async () => {
    await add('flooded');
    const { device } = await enter('flooded', password, '10.4.0.1');
    await query(
      test_.db,
      `insert into sign_in_rate (key, points, expire)
       select key, 100000, expire from sign_in_rate where key like 'account:%' on conflict (key) do update set points = 100000`,
    );
    await refusal(enter('flooded', 'guess', '10.4.9.9'));
    expect((await enter('flooded', password, '10.4.0.7', device)).person.name).toBe('flooded');
  });
  test('an office behind one address is not locked out by one who guesses there', async () => {
    await add('colleague');
    const { device } = await enter('colleague', password, '10.3.0.1');
    for (let i = 0; i < 100; i++) await refusal(enter(`name${i}`, 'guess', '10.3.0.1'));
    expect((await refusal(enter('heron', password, '10.3.0.1'))).code).toBe('too-many-attempts');
    expect((await enter('colleague', password, '10.3.0.1', device)).person.name).toBe('colleague');
  }, 240_000);
  test('somebody else’s device is nobody’s', async () => {
    await query(test_.db, 'delete from sign_in_rate');
    const { device } = await enter('heron', password, '10.5.0.1');
    for (let i = 0; i < 8; i++) await refusal(enter('target', 'guess', '10.5.0.2', device));
    expect((await refusal(enter('target', 'guess', '10.5.0.2', device))).code).toBe('too-many-attempts');
    await query(test_.db, 'delete from sign_in_rate');
  });
});

describe('an account has a life', () => {
  let wren: Person;
  test('invited by a link that works once', async () => {
    const personId = newId();
    const request = { personId, name: 'wren', initials: 'WN', role: 'reviewer' as const };
    const { link } = await invitePerson(ctx(), request);
    expect(link).toMatch(/^\/set-password#[\w-]{43}$/);
    expect((await people(test_.db)).find((p) => p.id === personId)!.state).toBe('invited');
    expect((await refusal(enter('wren', ''))).code).toBe('sign-in-refused');
    expect(await holderOfLink(test_.db, tokenOf(link))).toEqual({ name: 'wren' });
    expect((await refusal(choosePassword(test_.db, tokenOf(link), 'short'))).code).toBe('short-password');
    const all = await Promise.allSettled(
      Array.from({ length: 6 }, () => choosePassword(test_.db, tokenOf(link), password)),
    );
    expect(all.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    expect((await refusal(choosePassword(test_.db, tokenOf(link), password))).code).toBe('link-used');
    wren = (await enter('wren')).person;
  });
  test('a later link takes the place of an earlier one, and ends what was signed in', async () => {
    const { token } = await enter('wren');
    const first = await newLink(ctx(), wren.id);
    const second = await newLink(ctx(), wren.id);
    expect((await refusal(holderOfLink(test_.db, tokenOf(first.link)))).code).toBe('link-used');
    await choosePassword(test_.db, tokenOf(second.link), password);
    expect(await personOfSession(test_.db, token)).toBeNull();
  });
  test('the owner changes their password, sees where they are signed in, and ends the others', async () => {
    const [here, there] = [await enter('wren'), await enter('wren', password, '10.9.9.9')];
    const sessions = await ownSessions(ctx(wren), here.token);
    expect(sessions.find((s) => s.own)).toBeDefined();
    expect(sessions.map((s) => s.address)).toContain('10.9.9.9');
    const wrong = { current: 'not it at all', password: 'another long one' };
    expect((await refusal(changeOwnPassword(ctx(wren), here.token, wrong))).code).toBe('wrong-password');
    await changeOwnPassword(ctx(wren), here.token, { current: password, password: 'another long one' });
    expect(await personOfSession(test_.db, here.token)).not.toBeNull();
    expect(await personOfSession(test_.db, there.token)).toBeNull();
    const third = await enter('wren', 'another long one');
    expect(await endOwnSessions(ctx(wren), here.token, null)).toEqual({ ended: 1 });
    expect(await personOfSession(test_.db, third.token)).toBeNull();
  });
  test('who finds a session open cannot guess the present password in it without end', async () => {
    const [open, own] = [await enter('wren', 'another long one'), await enter('wren', 'another long one')];
    const guess = (token: string, current: string) =>
      changeOwnPassword(ctx(wren), token, { current, password: 'another long one' });
    for (let n = 0; n < 8; n += 1)
      expect((await refusal(guess(open.token, `guess ${n}`))).code).toBe('wrong-password');
    const refused = await refusal(guess(open.token, 'another long one'));
    expect(refused).toMatchObject({ code: 'too-many-attempts', remedy: 'Wait 15 min, then try again.' });
    expect(await guess(own.token, 'another long one')).toEqual({ changed: true });
  });
  test('signed out everywhere; disabled, gone at the next click, and back', async () => {
    const { token } = await enter('wren', 'another long one');
    await signOutEverywhere(ctx(), wren.id);
    expect(await personOfSession(test_.db, token)).toBeNull();
    const again = await enter('wren', 'another long one');
    await changePerson(ctx(), wren.id, { role: 'reviewer', disabled: true });
    expect(await personOfSession(test_.db, again.token)).toBeNull();
    expect((await refusal(enter('wren', 'another long one'))).code).toBe('sign-in-refused');
    expect((await refusal(newLink(ctx(), wren.id))).code).toBe('disabled');
    await changePerson(ctx(), wren.id, { role: 'viewer', disabled: false });
    expect((await enter('wren', 'another long one')).person.role).toBe('viewer');
  });
  test('the last administrator stays one, also when six try at once to be rid of each other', async () => {
    expect((await refusal(changePerson(ctx(), admin.id, { role: 'viewer', disabled: false }))).code).toBe(
      'last-administrator',
    );
    const second = await add('second', 'administrator');
    const out = (id: string) => changePerson(ctx(), id, { role: 'administrator', disabled: true });
    await Promise.allSettled([admin.id, second.id, admin.id, second.id, admin.id, second.id].map(out));
    const left = (await people(test_.db)).filter((p) => p.role === 'administrator' && p.state === 'active');
    expect(left).toHaveLength(1);
  });
});

test.each([
  [{ name: 'X Y', initials: 'X', role: 'viewer', password: 'long enough' }, 'bad-name'],
  [{ name: 'xy', initials: 'X', role: 'king', password: 'long enough' }, 'bad-role'],
  [{ name: 'xy', initials: '?!', role: 'viewer', password: 'long enough' }, 'bad-initials'],
  [{ name: 'xy', initials: 'X', role: 'viewer', password: 'short' }, 'short-password'],
  [{ name: 'xy', initials: 'X', role: 'viewer', password: 'x'.repeat(201) }, 'long-password'],
  [{ name: 'kittiwake', initials: 'X', role: 'viewer', password: 'kittiwake1' }, 'name-as-password'],
  [{ name: 'heron', initials: 'X', role: 'viewer', password: 'long enough' }, 'name-taken'],
])('an account %j is refused', async (user, code) => {
  expect((await refusal(addUser(test_.db, user))).code).toBe(code);
});
test('permissions are asked for by name', () => {
  const viewer = { id: 'x', name: 'v', initials: 'V', role: 'viewer' as const };
  expect(() => requirePermission(viewer, 'view')).not.toThrow();
  expect(() => requirePermission(viewer, 'measure')).toThrow(/viewer may not.*Ask a technician/);
  expect(() => requirePermission(viewer, 'administer')).toThrow(/Ask an administrator/);
});
test('what is over is swept, and what is not stays', async () => {
  const { token } = await enter('heron');
  const before = (await rows(test_.db.audit)).length;
  await query(test_.db, 'select sweep()');
  expect(await personOfSession(test_.db, token)).not.toBeNull();
  expect((await rows(test_.db.audit)).length).toBe(before);
});
