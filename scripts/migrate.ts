import { openDatabase } from '@/db/database';
import { migrate } from '@/db/migrate';
import { ensureRolesAndDatabase } from '@/db/roles';
import { stockProfiles } from '@/server/device/profiles';

/** Makes roles and database (given a superuser), brings the schema up to date as its owner, puts new device profiles on file. */
const { SUPER_URL, OWNER_URL, OWNER_PASSWORD, APP_PASSWORD, DATABASE_NAME } = process.env;
if (!OWNER_URL) throw new Error('OWNER_URL is not set: the URL of the database as its owner');
if (SUPER_URL)
  await ensureRolesAndDatabase(SUPER_URL, DATABASE_NAME ?? 'outer_cairn', {
    owner: OWNER_PASSWORD || null,
    app: APP_PASSWORD || null,
  });
const done = await migrate(OWNER_URL);
if (done.length) process.stdout.write(`Database: ${done.join(', ')}\n`);
const db = openDatabase(OWNER_URL);
const added = await stockProfiles(db);
await db.sequelize.close();
if (added) process.stdout.write(`Catalogue: ${added} device profiles\n`);
