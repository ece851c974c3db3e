import { migrate } from '@/db/migrate';
import { ensureRolesAndDatabase } from '@/db/roles';

/** Makes roles and database (given a superuser), then brings the schema up to date as its owner. */
const { SUPER_URL, OWNER_URL, OWNER_PASSWORD, APP_PASSWORD, DATABASE_NAME } = process.env;
if (!OWNER_URL) throw new Error('OWNER_URL is not set: the URL of the database as its owner');
if (SUPER_URL)
  await ensureRolesAndDatabase(SUPER_URL, DATABASE_NAME ?? 'outer_cairn', {
    owner: OWNER_PASSWORD || null,
    app: APP_PASSWORD || null,
  });
const done = await migrate(OWNER_URL);
if (done.length) process.stdout.write(`Database: ${done.join(', ')}\n`);
