import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { may, roles, rolesWith, type Permission, type Role } from '@/contract/permission';
import type { Database } from '@/db/database';
import { row } from '@/db/database';
import type { Person } from './context';
import { newId } from './id';
import { badField, Problem } from './problem';

const sessionDays = 14;
const tokenHash = (token: string) => createHash('sha256').update(token).digest();

const limiterOf = (db: Database, keyPrefix: string, points: number) =>
  new RateLimiterPostgres({
    storeClient: db.sequelize,
    tableName: 'sign_in_rate',
    tableCreated: true,
    keyPrefix,
    points,
    duration: 15 * 60,
  });

/** Attempts within a quarter of an hour, per account and per address. */
const perAccount = 8;
const perAddress = 40;

/** Signs a person in: a session token, or a Problem that does not tell whether the name exists. */
export async function signIn(
  db: Database,
  name: string,
  password: string,
  address: string,
  now = new Date(),
): Promise<{ token: string; person: Person; expiresAt: Date }> {
  const account = limiterOf(db, 'account', perAccount);
  const accountKey = createHash('sha256').update(name.toLowerCase()).digest('hex');
  await spend(account, accountKey);
  await spend(limiterOf(db, 'address', perAddress), address);
  const user = await row(db.user, { where: { name: name.toLowerCase() } });
  const good = await verify(user?.passwordHash ?? (await decoy()), password).catch(() => false);
  if (!user || !good || user.disabledAt)
    throw new Problem({
      code: 'sign-in-refused',
      status: 401,
      title: 'Not signed in',
      detail: 'This name and password do not belong together.',
      remedy: 'Check both, mind capital letters, and try again.',
    });
  await account.delete(accountKey);
  const token = randomBytes(32).toString('base64url');
  const expiresAt = new Date(now.getTime() + sessionDays * 86_400_000);
  await db.session.create({ tokenHash: tokenHash(token), userId: user.id, createdAt: now, expiresAt });
  return { token, person: personOf(user), expiresAt };
}

async function spend(limiter: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await limiter.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new Problem({
      code: 'too-many-attempts',
      status: 429,
      title: 'Too many attempts',
      detail: 'There were too many attempts to sign in.',
      remedy: `Wait ${Math.max(1, Math.ceil(error.msBeforeNext / 60_000))} min, then try again.`,
    });
  }
}

let decoyHash: Promise<string> | null = null;
/** A hash to verify against when the account does not exist, so that both cases take as long. */
const decoy = () => (decoyHash ??= hash(randomBytes(16).toString('hex')));

const personOf = (u: { id: string; name: string; initials: string; role: Role }): Person => ({
  id: u.id,
  name: u.name,
  initials: u.initials,
  role: u.role,
});

/** The person a session token belongs to, or null when it is unknown, expired or revoked. */
export async function personOfSession(db: Database, token: string, now = new Date()): Promise<Person | null> {
  const session = await row(db.session, { where: { tokenHash: tokenHash(token) } });
  if (!session || session.revokedAt || session.expiresAt <= now) return null;
  const user = await row(db.user, { where: { id: session.userId } });
  return user && !user.disabledAt ? personOf(user) : null;
}

export async function signOut(db: Database, token: string, now = new Date()): Promise<void> {
  await db.session.update({ revokedAt: now }, { where: { tokenHash: tokenHash(token) } });
}

/** Adds an account. Name 2–40 of a–z, 0–9, dot, dash; password at least 10 characters. */
export async function addUser(
  db: Database,
  user: { name: string; initials: string; role: string; password: string },
): Promise<Person> {
  const { name, initials, role, password } = user;
  if (!/^[a-z0-9][a-z0-9.-]{1,39}$/.test(name))
    throw badField(
      'bad-name',
      'name',
      name,
      `"${name}" cannot be a sign-in name.`,
      'Use 2–40 of a–z, 0–9, dot and dash.',
    );
  if (!(roles as readonly string[]).includes(role))
    throw badField('bad-role', 'role', role, `"${role}" is no role.`, `Use one of ${roles.join(', ')}.`);
  if (password.length < 10)
    throw badField(
      'short-password',
      'password',
      null,
      `The password has ${password.length} characters.`,
      'Use at least 10.',
    );
  if (await row(db.user, { where: { name } }))
    throw badField('name-taken', 'name', name, `The name "${name}" is taken.`, 'Choose another.');
  const person = { id: newId(), name, initials, role: role as Role };
  await db.user.create({ ...person, passwordHash: await hash(password), createdAt: new Date() });
  return person;
}

/** Refuses with 403 when the person's role does not cover what they ask for. */
export function requirePermission(person: Person, permission: Permission): void {
  if (may(person.role, permission)) return;
  throw new Problem({
    code: 'not-allowed',
    status: 403,
    title: 'Not allowed',
    detail: `A ${person.role} may not do this.`,
    remedy: `Ask a ${
      rolesWith(permission)
        .filter((r) => r !== 'administrator')
        .join(' or a ') || 'an administrator'
    }.`,
  });
}
