import { Client } from 'pg';
import { urlOf } from '@/test/globalSetup';
import { migrate } from './migrate';
import { ensureRolesAndDatabase } from './roles';

/** Setting up again, twice at once, with and without passwords: nothing is taken away. */
const superUrl = process.env.SUPER_URL!;
const name = `cairn_migrate_${process.pid}`;
const owner = process.env.OWNER_PASSWORD!;
const app = process.env.APP_PASSWORD!;
const ownerUrl = urlOf(superUrl, 'outer_cairn_owner', owner, name);

afterAll(async () => {
  const client = new Client({ connectionString: superUrl });
  await client.connect();
  await client.query(`drop database if exists ${name} with (force)`);
  await client.end();
});
const opens = async (url: string) => {
  const client = new Client({ connectionString: url });
  try {
    await client.connect();
    await client.query('select 1');
    return true;
  } catch {
    return false;
  } finally {
    await client.end().catch(() => {});
  }
};

test('four set up the same database at once: it is there once, whole', async () => {
  const setUp = async () => {
    await ensureRolesAndDatabase(superUrl, name, { owner, app });
    return migrate(ownerUrl);
  };
  const done = await Promise.all([setUp(), setUp(), setUp(), setUp()]);
  expect(done.map((d) => d.length).sort()).toEqual([0, 0, 0, Math.max(...done.map((d) => d.length))]);
});
test('passwords that are not given stay what they are', async () => {
  for (const passwords of [
    { owner: null, app: null },
    { owner, app: null },
  ])
    await ensureRolesAndDatabase(superUrl, name, passwords);
  expect(await opens(ownerUrl)).toBe(true);
  expect(await opens(urlOf(superUrl, 'outer_cairn_app', app, name))).toBe(true);
  expect(await opens(urlOf(superUrl, 'outer_cairn_app', '', name))).toBe(false);
});
