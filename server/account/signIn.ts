import type { Role } from '@/contract/permission';
import { query, type Database } from '@/db/database';
import { auditLine } from '../book/audit';
import type { Person } from '../context';
import { Problem } from '../problem';
import { giveAttemptBack, spendAttempt, type Attempt } from './attempts';
import { passwordFits } from './password';
import { newToken, tokenHash } from './token';

/** A session ends so long after it began, and after so long in which nobody used it. Our own choice. */
const sessionDays = 14;
export const idleTime = '3 days';

/** Where an attempt to sign in comes from. */
export interface SignInFrom {
  readonly address: string;
  /** What a device was given at an earlier sign-in, if anything. */
  readonly device?: string | null;
  /** How the device names itself. */
  readonly agent?: string;
}

interface Account {
  id: string;
  name: string;
  initials: string;
  role: Role;
  passwordHash: string | null;
  disabledAt: Date | null;
}

/** Signs a person in: a session token, or a Problem that does not tell whether the name exists. */
export async function signIn(
  db: Database,
  name: string,
  password: string,
  from: SignInFrom,
  now = new Date(),
): Promise<{ token: string; device: string; person: Person; expiresAt: Date }> {
  const [account = null] = await query<Account>(
    db,
    `select id, name, initials, role, password_hash as "passwordHash", disabled_at as "disabledAt" from user_for_sign_in(:name)`,
    { name },
  );
  const attempt = await attemptOf(db, account, name.toLowerCase(), from);
  const trail = (action: string) =>
    auditLine(db, {
      personId: account?.id ?? null,
      action,
      subject: { name: name.toLowerCase(), address: from.address },
    });
  try {
    await spendAttempt(db, attempt);
  } catch (error) {
    await trail('sign-in.limited');
    throw error;
  }
  const good = await passwordFits(account?.passwordHash ?? null, password);
  if (!account || !good || account.disabledAt) {
    await trail('sign-in.refused');
    throw new Problem({
      code: 'sign-in-refused',
      status: 401,
      title: 'Not signed in',
      detail: 'This name and password do not belong together.',
      remedy: 'Check both, mind capital letters, and try again.',
    });
  }
  await giveAttemptBack(db, attempt);
  const [token, device] = [newToken(), from.device ?? newToken()];
  const expiresAt = new Date(now.getTime() + sessionDays * 86_400_000);
  await query(db, 'select open_session(:hash, :id, :now, :expiresAt, :address, :agent)', {
    hash: tokenHash(token),
    id: account.id,
    now,
    expiresAt,
    address: from.address,
    agent: from.agent ?? '',
  });
  await query(db, 'select know_device(:hash, :id)', { hash: tokenHash(device), id: account.id });
  await trail('sign-in');
  const { passwordHash: _, disabledAt: _d, ...person } = account;
  return { token, device, person, expiresAt };
}

async function attemptOf(
  db: Database,
  account: Account | null,
  name: string,
  { address, device }: SignInFrom,
): Promise<Attempt> {
  if (account && device) {
    const [known] = await query<{ is: boolean }>(db, 'select device_is_known(:hash, :id) as is', {
      hash: tokenHash(device),
      id: account.id,
    });
    if (known?.is) return [['device', device]];
  }
  return [
    ['pair', `${name} ${address}`],
    ['address', address],
    ['account', name],
  ];
}

/** The person a session token belongs to, or null when it is unknown, expired, unused for too long or revoked. */
export async function personOfSession(db: Database, token: string, now = new Date()): Promise<Person | null> {
  const [person = null] = await query<Person>(db, 'select * from use_session(:hash, :now, :idle)', {
    hash: tokenHash(token),
    now,
    idle: idleTime,
  });
  return person;
}

/** Whether a session was ended on purpose, from wherever: then what its device holds is to go. */
export async function sessionWasEnded(db: Database, token: string): Promise<boolean> {
  const [found] = await query<{ was: boolean }>(db, 'select session_was_ended(:hash) as was', {
    hash: tokenHash(token),
  });
  return found?.was ?? false;
}

export async function signOut(db: Database, token: string, now = new Date()): Promise<void> {
  const person = await personOfSession(db, token, now);
  await query(db, 'select end_session(:hash, :now)', { hash: tokenHash(token), now });
  if (person) await auditLine(db, { personId: person.id, action: 'sign-out' });
}
