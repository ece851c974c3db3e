import { testDatabase, type TestDatabase } from '@/test/database';
import { openDatabase, query } from './database';
import { closingRules, failureOf } from './failure';

let test_: TestDatabase;
beforeAll(async () => {
  test_ = await testDatabase();
});
afterAll(() => test_.close());

const failure = (sql: string, db = test_.db) =>
  db
    .transact((tx) => query(db, sql, {}, tx))
    .then(
      () => 'did it',
      (error: unknown) => failureOf(error)?.kind ?? null,
    );

test.each([
  ["select 'x'::text || convert_from('\\xff', 'utf8')", 'not-stored'],
  ["select '1e999'::float8", 'not-stored'],
  ['set local statement_timeout = 5; select pg_sleep(1)', 'too-long'],
  ["do $$ begin raise exception 'x' using errcode = '40P01'; end $$", 'busy'],
  ["do $$ begin raise exception 'x' using errcode = '57P01'; end $$", 'away'],
  [
    "do $$ begin raise exception 'x' using errcode = '23514', constraint = 'operation_over'; end $$",
    'closed',
  ],
  [
    "do $$ begin raise exception 'x' using errcode = '23505', constraint = 'layer_revoked'; end $$",
    'taken-back',
  ],
  ["do $$ begin raise exception 'x' using errcode = '23505'; end $$", 'already-there'],
  ['select nothing from nowhere', null],
])('%s is %s', async (sql, kind) => {
  expect(await failure(sql)).toBe(kind);
});

test('nobody at the address, and a connection that ends while it is used', async () => {
  const nobody = openDatabase('postgres://nobody:x@127.0.0.1:1/none');
  expect(await failure('select 1', nobody)).toBe('away');
  await nobody.sequelize.close();
  const ended = openDatabase(test_.appUrl);
  const asleep = query(ended, 'select pg_sleep(20)').catch(failureOf);
  for (let left = 50; left > 0; left--) {
    await new Promise((r) => setTimeout(r, 100));
    const [gone] = await query<{ n: number }>(
      test_.db,
      `select count(pg_terminate_backend(pid))::int as n from pg_stat_activity
        where query like 'select pg_sleep(20)%' and datname = current_database()`,
    );
    if (gone!.n > 0) break;
  }
  expect(await asleep).toEqual({ kind: 'away' });
  await ended.sequelize.close();
});

test('what is no error of a database is none', () => {
  expect(failureOf(new Error('Connection to the logger was refused'))).toBeNull();
  expect(failureOf(new TypeError('x is not a function'))).toBeNull();
});

test('every rule by which a trigger closes a row is known', async () => {
  const found = await query<{ rule: string }>(
    test_.db,
    `select distinct split_part(encode(t.tgargs, 'escape'), '\\000', 2) as rule
       from pg_trigger t join pg_proc p on p.oid = t.tgfoid where p.proname = 'refuse_rewrite'`,
  );
  expect(found.map((f) => f.rule).sort()).toEqual([...closingRules].sort());
});
