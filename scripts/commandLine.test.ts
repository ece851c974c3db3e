import { spawn } from 'node:child_process';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { rows } from '@/db/database';
import { people } from '@/server/account/people';
import { signIn } from '@/server/account/signIn';
import { testDatabase, type TestDatabase } from '@/test/database';

/** The command line of a real installation, run as people run it. */
let test_: TestDatabase;
beforeAll(async () => {
  test_ = await testDatabase();
});
afterAll(() => test_.close());

async function run(
  script: string,
  args: string[],
  input = '',
): Promise<{ code: number | null; out: string; error: string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', `scripts/${script}.ts`, ...args], {
    env: { ...process.env, DATABASE_URL: test_.appUrl },
  });
  let out = '';
  let error = '';
  child.stdout.on('data', (d: Buffer) => (out += d.toString()));
  child.stderr.on('data', (d: Buffer) => (error += d.toString()));
  child.stdin.end(input);
  const code = await new Promise<number | null>((r) => child.on('close', r));
  return { code, out, error };
}

test('no account exists where no demo was seeded; the first administrator is added and can sign in', async () => {
  expect(await people(test_.db)).toEqual([]);
  const added = await run('user', ['add', 'heron', 'administrator', 'HN'], 'stone upon stone\n');
  expect(added).toMatchObject({
    code: 0,
    out: expect.stringContaining('Added heron (administrator).') as string,
  });
  expect((await signIn(test_.db, 'heron', 'stone upon stone', { address: '10.0.0.1' })).person.role).toBe(
    'administrator',
  );
});
test('accounts are listed, disabled, enabled, given a new password or a link', async () => {
  await run('user', ['add', 'wren', 'viewer', 'WN'], 'under the stones\n');
  const wren = (password: string) => signIn(test_.db, 'wren', password, { address: '10.0.0.1' });
  expect((await run('user', ['list'])).out).toMatch(
    /^heron\tHN\tadministrator\tactive.*\nwren\tWN\tviewer\tactive/,
  );
  expect((await run('user', ['disable', 'wren'])).out).toBe('wren is disabled.\n');
  await expect(wren('under the stones')).rejects.toThrow(/do not belong together/);
  await run('user', ['enable', 'wren']);
  expect((await run('user', ['password', 'wren'], 'over the stones\n')).out).toMatch(/signed out everywhere/);
  expect((await wren('over the stones')).person.name).toBe('wren');
  expect((await run('user', ['link', 'wren'])).out).toMatch(/\/set-password#[\w-]{43}\n$/);
  const last = await run('user', ['disable', 'heron']);
  expect(last).toMatchObject({ code: 1, error: expect.stringMatching(/last administrator/) as string });
  expect((await run('user', ['disable', 'nobody'])).error).toMatch(/no person "nobody"/);
}, 240_000);
test.each([
  [['add', 'heron', 'administrator', 'HN'], 'stone upon stone\n', /name "heron" is taken/],
  [['add', 'wren', 'captain', 'WN'], 'stone upon stone\n', /"captain" is no role/],
  [['add', 'wren', 'viewer', 'WN'], 'short\n', /password has 5 characters/],
])('%j is refused in plain words', async (args, input, says) => {
  const refused = await run('user', args, input);
  expect(refused.code).toBe(1);
  expect(refused.error).toMatch(says);
});
test('used wrongly it says how', async () => {
  expect(await run('user', [])).toMatchObject({
    code: 2,
    error: expect.stringContaining('usage: npm run user -- add') as string,
  });
  expect(await run('station', ['add'])).toMatchObject({
    code: 2,
    error: expect.stringContaining('usage: npm run station -- add') as string,
  });
});
test('a station from the example file, in the name of an administrator; a broken one is refused by field', async () => {
  const added = await run('station', ['add', 'docs/station.example.json', 'heron']);
  expect(added).toMatchObject({
    code: 0,
    out: expect.stringMatching(/^Added station [0-9a-f-]{36}\.\n$/) as string,
  });
  expect((await rows(test_.db.station)).map((s) => s.code)).toEqual(['MOSS-3']);
  expect((await rows(test_.db.audit)).map((a) => a.action)).toContain('station.add');
  const folder = await mkdtemp(path.join(tmpdir(), 'cairn-'));
  await writeFile(path.join(folder, 'broken.json'), JSON.stringify({ code: 'MOSS-9', name: 'x' }));
  expect((await run('station', ['add', path.join(folder, 'broken.json'), 'heron'])).error).toMatch(
    /"site" is required/,
  );
  expect((await run('station', ['add', 'docs/station.example.json', 'nobody'])).error).toMatch(
    /no administrator nobody/,
  );
}, 240_000);
