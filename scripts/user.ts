import { createInterface } from 'node:readline/promises';
import { closeDatabase, database } from '@/db/database';
import { addUser } from '@/server/account';
import { Problem } from '@/server/problem';

/** `npm run user -- add NAME ROLE INITIALS`: the first accounts of a real installation. The password is read from standard input. */
const [verb, name, role, initials] = process.argv.slice(2);
if (verb !== 'add' || !name || !role || !initials) {
  process.stderr.write('usage: npm run user -- add NAME viewer|technician|reviewer|administrator INITIALS\n');
  process.exit(2);
}
const input = createInterface({
  input: process.stdin,
  output: process.stdin.isTTY ? process.stdout : undefined,
});
const password = await input.question(
  process.stdin.isTTY ? `Password for ${name} (at least 10 characters): ` : '',
);
input.close();
try {
  const person = await addUser(database(), { name, role, initials, password });
  process.stdout.write(`Added ${person.name} (${person.role}).\n`);
} catch (error) {
  if (!(error instanceof Problem)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
} finally {
  await closeDatabase();
}
