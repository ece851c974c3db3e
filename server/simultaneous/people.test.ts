import { query } from '@/db/database';
import { sixTimes, told } from '@/test/atOnce';
import { testDatabase, type TestDatabase } from '@/test/database';
import { routeFiles } from '@/test/routeFiles';
import { readdirSync, readFileSync } from 'node:fs';
import {
  addUser,
  changeOwnPassword,
  changePerson,
  choosePassword,
  endOwnSessions,
  holderOfLink,
  invitePerson,
  newLink,
  signOutEverywhere,
} from '../account/people';
import { signIn } from '../account/signIn';
import type { Context, Person } from '../context';
import { newId } from '../id';

/** The same of accounts; the first administrator stands in account.test.ts. */
let test_: TestDatabase;
let admin: Person;
let wren: Person;
const password = 'stone on stone';
beforeAll(async () => {
  test_ = await testDatabase();
  const add = (name: string, role: string) => addUser(test_.db, { name, initials: 'XX', role, password });
  [admin, wren] = [await add('tern', 'administrator'), await add('wren', 'viewer')];
});
afterAll(() => test_.close());

const ctx = (person: Person = admin): Context => ({
  db: test_.db,
  person,
  now: () => new Date(),
  deviceAllow: '',
});
const six = (act: (ctx: Context, n: number) => Promise<unknown>, person = admin) =>
  sixTimes(() => ctx(person), act);
const enter = (secret = password) => signIn(test_.db, 'wren', secret, { address: '10.1.1.1' });
const audited = async (action: string) =>
  (
    await query<{ n: number }>(test_.db, 'select count(*)::int as n from audit where action = :action', {
      action,
    })
  )[0]!.n;
const tokenOf = (link: string) => link.split('#')[1]!;

test('one name invited by six: one account, one link, one line', async () => {
  const said = told(
    await six((c) => invitePerson(c, { personId: newId(), name: 'dunlin', initials: 'DU', role: 'viewer' })),
  );
  expect(said).toEqual({ done: 1, codes: ['name-taken'] });
  expect([await audited('person.invite'), await audited('person.link')]).toEqual([1, 1]);
});
test('of six links made at once one works; used by three while it is replaced, a password is set once or not', async () => {
  const links = await Promise.all(Array.from({ length: 6 }, () => newLink(ctx(), wren.id)));
  const held = await Promise.allSettled(links.map((l) => holderOfLink(test_.db, tokenOf(l.link))));
  const live = links.filter((_, i) => held[i]!.status === 'fulfilled');
  expect(live).toHaveLength(1);
  const chosen = await Promise.allSettled([
    ...Array.from({ length: 3 }, () => choosePassword(test_.db, tokenOf(live[0]!.link), password)),
    newLink(ctx(), wren.id),
    changePerson(ctx(), wren.id, { role: 'viewer', disabled: false }),
  ]);
  expect(told(chosen.slice(0, 3)).done).toBeLessThanOrEqual(1);
  expect(told(chosen).codes).toEqual(['link-used']);
});
test('one role given by six: changed once', async () => {
  const before = await audited('person.change');
  const said = told(await six((c) => changePerson(c, wren.id, { role: 'technician', disabled: false })));
  expect(said).toEqual({ done: 6, codes: [] });
  expect(await audited('person.change')).toBe(before + 1);
});
test('six changes of one’s own password: one; the others are told that it is another by now', async () => {
  const { token } = await enter();
  const said = told(
    await six(
      (c, n) => changeOwnPassword(c, token, { current: password, password: `another ${n} and long` }),
      wren,
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['wrong-password'] });
  const works = await Promise.allSettled([0, 1, 2, 3, 4, 5].map((n) => enter(`another ${n} and long`)));
  expect(told(works).done).toBe(1);
});
test('sessions ended by six end once, by their owner and by an administrator', async () => {
  await changePerson(ctx(), wren.id, { role: 'viewer', disabled: false });
  const link = await newLink(ctx(), wren.id);
  await choosePassword(test_.db, tokenOf(link.link), password);
  const ended = async (results: PromiseSettledResult<unknown>[]) =>
    results.reduce((n, r) => n + (r as PromiseFulfilledResult<{ ended: number }>).value.ended, 0);
  const [own] = [await enter(), await enter(), await enter()];
  const before = await audited('session.end');
  expect(await ended(await six((c) => endOwnSessions(c, own.token, null), wren))).toBe(2);
  expect(await ended(await six((c) => signOutEverywhere(c, wren.id)))).toBe(1);
  expect(await audited('session.end')).toBe(before + 2);
});

test('every write that a route calls is sent six at once in one of these tables', () => {
  const tables = readdirSync(__dirname)
    .map((f) => readFileSync(`${__dirname}/${f}`, 'utf8'))
    .join('\n');
  const writes = routeFiles().flatMap((f) => f.writes);
  expect(writes.length).toBeGreaterThan(35);
  expect(writes.filter((name) => !new RegExp(`\\b${name}\\(`).test(tables))).toEqual([]);
});
