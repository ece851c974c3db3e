import { hash, verify } from '@node-rs/argon2';
import { randomBytes } from 'node:crypto';
import { badField } from '../problem';

const shortest = 10;
const longest = 200;

/** Refuses a password that is too short, too long, or the name itself. */
export function requireGoodPassword(password: string, name: string): void {
  const refuse = (code: string, detail: string, remedy: string) =>
    badField(code, 'password', null, detail, remedy);
  if (password.length < shortest)
    throw refuse(
      'short-password',
      `The password has ${password.length} characters.`,
      `Use at least ${shortest}.`,
    );
  if (password.length > longest)
    throw refuse(
      'long-password',
      `The password has ${password.length} characters.`,
      `Use at most ${longest}.`,
    );
  if (password.toLowerCase().includes(name.toLowerCase()) && password.length < name.length + 6)
    throw refuse('name-as-password', 'The password is little more than the name.', 'Choose another.');
}

export const passwordHash = (password: string): Promise<string> => hash(password);

let decoyHash: Promise<string> | null = null;
/** A hash to compare with when the account does not exist, so that both cases take as long. */
const decoy = () => (decoyHash ??= hash(randomBytes(16).toString('hex')));

/** Whether a password fits a hash; with none, as long a time and no. */
export const passwordFits = async (stored: string | null, password: string): Promise<boolean> =>
  (await verify(stored ?? (await decoy()), password).catch(() => false)) && stored !== null;
