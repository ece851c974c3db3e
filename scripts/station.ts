import { readFile } from 'node:fs/promises';
import { closeDatabase, database, row } from '@/db/database';
import { addStation } from '@/server/administer/addStation';
import { Problem } from '@/server/problem';

/** `npm run station -- add FILE.json AS`: a station from its description, in the name of an administrator. */
const [verb, file, name] = process.argv.slice(2);
if (verb !== 'add' || !file || !name) {
  process.stderr.write('usage: npm run station -- add FILE.json ADMINISTRATOR\n');
  process.exit(2);
}
try {
  const person = await row(database().person, { where: { name, role: 'administrator' } });
  if (!person) throw new Error(`there is no administrator ${name}`);
  const ctx = { db: database(), person, now: () => new Date(), deviceAllow: '' };
  const { stationId } = await addStation(ctx, JSON.parse(await readFile(file, 'utf8')));
  process.stdout.write(`Added station ${stationId}.\n`);
} catch (error) {
  process.stderr.write(`${error instanceof Problem ? error.message : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await closeDatabase();
}
