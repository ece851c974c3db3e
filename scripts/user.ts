import { createInterface } from 'node:readline/promises';
import { closeDatabase, database, row } from '@/db/database';
import type { Context } from '@/server/context';
import { systemPerson } from '@/server/actor';
import { addUser, changePerson, newLink, people, setPassword } from '@/server/account/people';
import { requireGoodPassword } from '@/server/account/password';
import { notFound, Problem } from '@/server/problem';

/** `npm run user -- …`: accounts from the command line. Passwords are read from standard input. */
const usage = `usage: npm run user -- add NAME viewer|technician|reviewer|administrator INITIALS
       npm run user -- list
       npm run user -- password NAME       set a new one; every session of theirs ends
       npm run user -- link NAME           a link to choose one, shown once
       npm run user -- disable NAME        gone at their next click
       npm run user -- enable NAME
`;

async function ask(name: string): Promise<string> {
  const input = createInterface({
    input: process.stdin,
    output: process.stdin.isTTY ? process.stdout : undefined,
  });
  const password = await input.question(
    process.stdin.isTTY ? `Password for ${name} (at least 10 characters): ` : '',
  );
  input.close();
  return password;
}

async function personNamed(name: string) {
  const person = await row(database().person, { where: { name } });
  if (!person || person.id === systemPerson.id) throw notFound('person', name);
  return person;
}

/** The command line acts for whoever may run it on the server; the audit names no person. */
const ctxOf = (person: Context['person']): Context => ({
  db: database(),
  person,
  system: true,
  now: () => new Date(),
  deviceAllow: '',
});

const say = (text: string) => process.stdout.write(`${text}\n`);
const [verb, name = '', role = '', initials = ''] = process.argv.slice(2);
const verbs: Readonly<Record<string, () => Promise<void>>> = {
  async add() {
    const person = await addUser(database(), { name, role, initials, password: await ask(name) });
    say(`Added ${person.name} (${person.role}).`);
  },
  async list() {
    for (const p of await people(database()))
      say([p.name, p.initials, p.role, p.state, p.lastSignIn ?? 'never signed in'].join('\t'));
  },
  async password() {
    const person = await personNamed(name);
    const password = await ask(name);
    requireGoodPassword(password, name);
    await setPassword(database(), person.id, password);
    say(`${name} has a new password and is signed out everywhere.`);
  },
  async link() {
    const person = await personNamed(name);
    const { link } = await newLink(ctxOf(person), person.id);
    say(`${process.env.PUBLIC_ORIGIN ?? ''}${link}`);
  },
  async disable() {
    const person = await personNamed(name);
    await changePerson(ctxOf(person), person.id, { role: person.role, disabled: true });
    say(`${name} is disabled.`);
  },
  async enable() {
    const person = await personNamed(name);
    await changePerson(ctxOf(person), person.id, { role: person.role, disabled: false });
    say(`${name} is enabled.`);
  },
};

const wanted = verb ? verbs[verb] : undefined;
if (!wanted || (verb !== 'list' && !name) || (verb === 'add' && (!role || !initials))) {
  process.stderr.write(usage);
  process.exit(2);
}
try {
  await wanted();
} catch (error) {
  if (!(error instanceof Problem)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
} finally {
  await closeDatabase();
}
