import { Op, type Transaction } from 'sequelize';
import type { ChangePerson, InvitePerson } from '@/contract/accountRequests';
import { roles, type Role } from '@/contract/permission';
import type { PersonRowView, SessionView } from '@/contract/accountViews';
import { brokenRule, query, row, rows, type Database } from '@/db/database';
import type { PersonRow } from '@/db/rows';
import { systemPerson } from '../actor';
import { audit, auditLine } from '../book/audit';
import { actorId, type Context, type Person } from '../context';
import { newId } from '../id';
import { badField, inTheWay, notFound, Problem } from '../problem';
import { giveAttemptBack, spendAttempt, type Attempt } from './attempts';
import { passwordFits, passwordHash, requireGoodPassword } from './password';
import { idleTime } from './signIn';
import { newToken, tokenHash } from './token';

/** A link to choose a password works for so long, h. Our own choice: until the day after tomorrow. */
const linkHours = 48;

function requireName(name: string, initials: string): void {
  if (!/^[a-z0-9][a-z0-9.-]{1,39}$/.test(name))
    throw badField(
      'bad-name',
      'name',
      name,
      `"${name}" cannot be a sign-in name.`,
      'Use 2–40 of a–z, 0–9, dot and dash.',
    );
  if (!/^\p{L}{1,4}$/u.test(initials))
    throw badField(
      'bad-initials',
      'initials',
      initials,
      `"${initials}" are no initials.`,
      'Use 1–4 letters.',
    );
}

function requireRole(role: string): Role {
  if ((roles as readonly string[]).includes(role)) return role as Role;
  throw badField('bad-role', 'role', role, `"${role}" is no role.`, `Use one of ${roles.join(', ')}.`);
}

const nameTaken = (error: unknown, name: string): unknown =>
  ['app_user_name_key', 'app_user_one_name'].includes(brokenRule(error) ?? '')
    ? badField('name-taken', 'name', name, `The name "${name}" is taken.`, 'Choose another.')
    : error;

/** Adds an account with a password, as the command line and the demo do. */
export async function addUser(
  db: Database,
  user: { name: string; initials: string; role: string; password: string },
): Promise<Person> {
  const { name, initials, password } = user;
  requireName(name, initials);
  const role = requireRole(user.role);
  requireGoodPassword(password, name);
  const person = { id: newId(), name, initials, role };
  const hash = await passwordHash(password);
  await db.transact(async (tx) => {
    await addRow(db, tx, person, hash);
    await auditLine(db, { personId: null, action: 'person.add', subject: { name, role } }, tx);
  });
  return person;
}

async function addRow(db: Database, tx: Transaction, p: Person, hash: string | null): Promise<void> {
  try {
    await query(db, 'select add_user(:id, :name, :initials, :role, :hash)', { ...p, hash }, tx);
  } catch (error) {
    throw nameTaken(error, p.name);
  }
}

/** Everybody with an account, those who may use it first. */
export async function people(db: Database): Promise<PersonRowView[]> {
  const all = await rows(db.person, {
    where: { id: { [Op.ne]: systemPerson.id } },
    order: [['name', 'ASC']],
  });
  const seen = new Map(
    (
      await query<{ personId: string; at: Date }>(
        db,
        `select person_id as "personId", max(at) as at from audit where action = 'sign-in' group by 1`,
      )
    ).map((s) => [s.personId, s.at.toISOString()]),
  );
  return all
    .map((p) => ({
      id: p.id,
      name: p.name,
      initials: p.initials,
      role: p.role,
      state: p.disabledAt
        ? ('disabled' as const)
        : p.hasPassword
          ? ('active' as const)
          : ('invited' as const),
      lastSignIn: seen.get(p.id) ?? null,
    }))
    .sort((a, b) => Number(a.state === 'disabled') - Number(b.state === 'disabled'));
}

/** Makes an account without a password, and the link by which its owner chooses one. The link is shown once. */
export async function invitePerson(ctx: Context, request: InvitePerson): Promise<{ link: string }> {
  const { name, initials } = request;
  requireName(name, initials);
  const role = requireRole(request.role);
  return ctx.db.transact(async (tx) => {
    await addRow(ctx.db, tx, { id: request.personId, name, initials, role }, null);
    await audit(ctx, tx, 'person.invite', null, { name, role });
    return makeLink(ctx, tx, request.personId);
  });
}

/** A new link for somebody who forgot their password, or lost the first one; earlier ones stop working. */
export async function newLink(ctx: Context, personId: string): Promise<{ link: string }> {
  const person = await personOf(ctx.db, personId);
  if (person.disabledAt)
    throw inTheWay('disabled', `${person.name} is disabled.`, 'Enable the account first.');
  return ctx.db.transact((tx) => makeLink(ctx, tx, personId));
}

async function makeLink(ctx: Context, tx: Transaction, personId: string): Promise<{ link: string }> {
  const token = newToken();
  await query(
    ctx.db,
    'select make_password_link(:hash, :personId, :by, :hours)',
    { hash: tokenHash(token), personId, by: actorId(ctx), hours: linkHours },
    tx,
  );
  await audit(ctx, tx, 'person.link', null, { personId });
  // Behind the hash sign a browser sends it to nobody: it stands in no log on the way.
  return { link: `/set-password#${token}` };
}

const linkUsed = (): Problem =>
  new Problem({
    code: 'link-used',
    status: 410,
    title: 'This link works no more',
    detail: 'The link was used already, is too old, or another one was made since.',
    remedy: 'Ask an administrator for a new one.',
  });

/** Whose password a link lets its holder choose. */
export async function holderOfLink(db: Database, token: string): Promise<{ name: string }> {
  const [holder] = await query<{ name: string }>(db, 'select name from holder_of_password_link(:hash)', {
    hash: tokenHash(token),
  });
  if (!holder) throw linkUsed();
  return holder;
}

/** Chooses the password a link is for; the link is used up, and sessions of before have ended. */
export async function choosePassword(
  db: Database,
  token: string,
  password: string,
): Promise<{ name: string }> {
  const { name } = await holderOfLink(db, token);
  requireGoodPassword(password, name);
  const values = { hash: tokenHash(token), new: await passwordHash(password) };
  await db.transact(async (tx) => {
    const [used] = await query<{ id: string | null }>(
      db,
      'select use_password_link(:hash, :new) as id',
      values,
      tx,
    );
    if (!used?.id) throw linkUsed();
    await auditLine(db, { personId: used.id, action: 'password.set', subject: { by: 'link' } }, tx);
  });
  return { name };
}

/** Changes somebody's role, or whether their account may be used: gone at their next click. */
export async function changePerson(
  ctx: Context,
  personId: string,
  { role, disabled }: ChangePerson,
): Promise<{ changed: string }> {
  const person = await personOf(ctx.db, personId);
  requireRole(role);
  try {
    await ctx.db.transact(async (tx) => {
      const [was] = await query<{ role: Role; disabled: boolean }>(
        ctx.db,
        'select was_role as role, was_disabled as disabled from change_user(:personId, :role, :disabled)',
        { personId, role, disabled },
        tx,
      );
      // Of several who ask for the same at once, one changed it.
      if (was!.role !== role || was!.disabled !== disabled)
        await audit(ctx, tx, 'person.change', null, { personId, from: was, to: { role, disabled } });
    });
  } catch (error) {
    if (brokenRule(error) === 'app_user_last_administrator')
      throw inTheWay(
        'last-administrator',
        `${person.name} is the last administrator who can sign in.`,
        'Make somebody else one first.',
      );
    throw error;
  }
  return { changed: personId };
}

/** Ends every session of a person. */
export async function signOutEverywhere(ctx: Context, personId: string): Promise<{ ended: number }> {
  await personOf(ctx.db, personId);
  return endSessions(ctx, personId, null, null);
}

async function endSessions(
  ctx: Context,
  personId: string,
  sessionId: string | null,
  keptToken: string | null,
): Promise<{ ended: number }> {
  return ctx.db.transact(async (tx) => {
    const [found] = await query<{ n: number }>(
      ctx.db,
      'select end_sessions(:personId, :sessionId, :kept) as n',
      { personId, sessionId, kept: keptToken && tokenHash(keptToken) },
      tx,
    );
    if (found!.n > 0) await audit(ctx, tx, 'session.end', null, { personId, n: found!.n });
    return { ended: found!.n };
  });
}

async function personOf(db: Database, id: string): Promise<PersonRow> {
  // The application has no account that anybody could change.
  const person = id === systemPerson.id ? null : await row(db.person, { where: { id } });
  if (!person) throw notFound('person', id);
  return person;
}

/** Where a person is signed in now. */
export async function ownSessions(ctx: Context, token: string): Promise<SessionView[]> {
  const found = await query<{
    id: string;
    created_at: Date;
    seen_at: Date;
    expires_at: Date;
    address: string;
    device: string;
    own: boolean;
  }>(ctx.db, 'select * from sessions_of(:id, :now, :idle, :hash)', {
    id: ctx.person.id,
    now: ctx.now(),
    idle: idleTime,
    hash: tokenHash(token),
  });
  return found.map((s) => ({
    id: s.id,
    since: s.created_at.toISOString(),
    seen: s.seen_at.toISOString(),
    until: s.expires_at.toISOString(),
    address: s.address,
    device: s.device,
    own: s.own,
  }));
}

/** Ends one of a person's own sessions, or all but the one in use. */
export const endOwnSessions = (ctx: Context, token: string, sessionId: string | null) =>
  endSessions(ctx, ctx.person.id, sessionId, sessionId ? null : token);

/** Changes a person's own password; every other session of theirs ends. */
export async function changeOwnPassword(
  ctx: Context,
  token: string,
  request: { current: string; password: string },
): Promise<{ changed: true }> {
  const { id, name } = ctx.person;
  const attempt: Attempt = [['session', token]];
  await spendAttempt(ctx.db, attempt);
  const [account] = await query<{ hash: string | null }>(
    ctx.db,
    'select password_hash as hash from user_for_sign_in(:name)',
    { name },
  );
  const old = account?.hash ?? null;
  const another = () =>
    badField(
      'wrong-password',
      'current',
      null,
      'The present password is another.',
      'Type it once more; if it is lost, ask an administrator for a link.',
    );
  if (!(await passwordFits(old, request.current))) {
    await auditLine(ctx.db, { personId: id, action: 'password.refused' });
    throw another();
  }
  await giveAttemptBack(ctx.db, attempt);
  requireGoodPassword(request.password, name);
  const values = { id, old, hash: await passwordHash(request.password), kept: tokenHash(token) };
  await ctx.db.transact(async (tx) => {
    const [found] = await query<{ changed: boolean }>(
      ctx.db,
      'select change_password(:id, :old, :hash, :kept) as changed',
      values,
      tx,
    );
    // Compared outside, since hashing takes its time: changed meanwhile, it was another.
    if (!found!.changed) throw another();
    await audit(ctx, tx, 'password.set', null, { by: 'owner' });
  });
  return { changed: true };
}

/** Sets a password outright, as the command line does; every session ends. */
export async function setPassword(db: Database, personId: string, password: string): Promise<void> {
  const values = { personId, hash: await passwordHash(password) };
  await db.transact(async (tx) => {
    await query(db, 'select set_password(:personId, :hash, null)', values, tx);
    await auditLine(
      db,
      { personId: null, action: 'password.set', subject: { by: 'command line', personId } },
      tx,
    );
  });
}

/** Makes a code by which the first administrator is made; null where there is one already. */
export async function setupCode(db: Database): Promise<string | null> {
  const code = newToken();
  const [made] = await query<{ made: boolean }>(db, 'select make_setup_code(:hash) as made', {
    hash: tokenHash(code),
  });
  return made!.made ? code : null;
}

export const hasAdministrator = async (db: Database): Promise<boolean> =>
  (await query<{ is: boolean }>(db, 'select has_administrator() as is'))[0]!.is;

/** The first administrator, made by whoever read the code off the server's own output. */
export async function makeFirstAdministrator(
  db: Database,
  request: { code: string; name: string; initials: string; password: string },
): Promise<{ name: string }> {
  const { code, name, initials, password } = request;
  requireName(name, initials);
  requireGoodPassword(password, name);
  const values = { hash: tokenHash(code), id: newId(), name, initials, new: await passwordHash(password) };
  await db.transact(async (tx) => {
    const [used] = await query<{ made: boolean }>(
      db,
      'select use_setup_code(:hash, :id, :name, :initials, :new) as made',
      values,
      tx,
    ).catch((error: unknown) => {
      throw nameTaken(error, name);
    });
    if (!used?.made)
      throw new Problem({
        code: 'setup-over',
        status: 410,
        title: 'This code works no more',
        detail: 'There is an administrator already, or the code is too old.',
        remedy: 'Start the application again and use the code it shows, or sign in.',
      });
    await auditLine(db, { personId: null, action: 'person.first', subject: { name } }, tx);
  });
  return { name };
}
