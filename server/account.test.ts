import { rows } from '@/db/database';
import { refusal } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { addUser, personOfSession, requirePermission, signIn, signOut } from './account';

let test_: TestDatabase;
beforeAll(async () => {
  test_ = await testDatabase();
  await addUser(test_.db, { name: 'heron', initials: 'HN', role: 'technician', password: 'stone on stone' });
});
afterAll(() => test_.close());
const enter = (name: string, password: string, address = '10.1.1.1') =>
  signIn(test_.db, name, password, address);

test('signs in, stays signed in, signs out', async () => {
  const { token, person } = await enter('heron', 'stone on stone');
  expect(person).toMatchObject({ name: 'heron', role: 'technician' });
  expect(await personOfSession(test_.db, token)).toMatchObject({ name: 'heron' });
  await signOut(test_.db, token);
  expect(await personOfSession(test_.db, token)).toBeNull();
  expect(await personOfSession(test_.db, 'made up')).toBeNull();
});
test('a session ends', async () => {
  const { token, expiresAt } = await enter('heron', 'stone on stone');
  expect(await personOfSession(test_.db, token, expiresAt)).toBeNull();
});
test('neither the token nor the password is on file', async () => {
  const { token } = await enter('heron', 'stone on stone');
  const sessions = await rows(test_.db.session);
  expect(sessions.some((s) => s.tokenHash.toString('utf8').includes(token))).toBe(false);
  const [user] = await rows(test_.db.user);
  expect(user!.passwordHash).toMatch(/^\$argon2id\$/);
});
test('a wrong password and an unknown name sound the same', async () => {
  const [a, b] = [await refusal(enter('heron', 'wrong')), await refusal(enter('nobody', 'wrong'))];
  expect(a).toEqual(b);
  expect(a.status).toBe(401);
});
test('a disabled account cannot sign in, and its open sessions end', async () => {
  await addUser(test_.db, { name: 'gone', initials: 'GN', role: 'viewer', password: 'stone on stone' });
  const { token } = await enter('gone', 'stone on stone');
  await test_.db.user.update({ disabledAt: new Date() }, { where: { name: 'gone' } });
  expect(await personOfSession(test_.db, token)).toBeNull();
  expect((await refusal(enter('gone', 'stone on stone'))).code).toBe('sign-in-refused');
});
test('attempts are limited per account, and the limit is shared through the database', async () => {
  await addUser(test_.db, { name: 'target', initials: 'TG', role: 'viewer', password: 'stone on stone' });
  for (let i = 0; i < 8; i++) await refusal(enter('target', 'guess', `10.2.0.${i}`));
  const refused = await refusal(enter('target', 'stone on stone', '10.2.0.99'));
  expect(refused).toMatchObject({ code: 'too-many-attempts', status: 429 });
  expect(refused.remedy).toMatch(/Wait \d+ min/);
  expect((await enter('heron', 'stone on stone', '10.2.0.99')).person.name).toBe('heron');
});
test('and per address, whatever the names', async () => {
  for (let i = 0; i < 40; i++) await refusal(enter(`name${i}`, 'guess', '10.3.0.1'));
  expect((await refusal(enter('heron', 'stone on stone', '10.3.0.1'))).code).toBe('too-many-attempts');
}, 60_000);
test.each([
  [{ name: 'X Y', initials: 'X', role: 'viewer', password: 'long enough' }, 'bad-name'],
  [{ name: 'xy', initials: 'X', role: 'king', password: 'long enough' }, 'bad-role'],
  [{ name: 'xy', initials: 'X', role: 'viewer', password: 'short' }, 'short-password'],
  [{ name: 'heron', initials: 'X', role: 'viewer', password: 'long enough' }, 'name-taken'],
])('an account %j is refused', async (user, code) => {
  expect((await refusal(addUser(test_.db, user))).code).toBe(code);
});
test('permissions are asked for by name', () => {
  const viewer = { id: 'x', name: 'v', initials: 'V', role: 'viewer' as const };
  expect(() => requirePermission(viewer, 'view')).not.toThrow();
  expect(() => requirePermission(viewer, 'measure')).toThrow(/viewer may not/);
});
