'use client';

import type { ProblemBody } from '@/contract/problem';
import { answerFrom, Refusal } from '../shared/api';
import { openTaken, type Holder, type TakenDb } from './store';

/**
 * Away: this page was drawn from what the device holds, since the application could not be reached. Whatever
 * its views ask for is answered from there, until it is loaded anew.
 */
export interface Away {
  readonly holder: Holder;
  readonly db: TakenDb;
}
let away: Away | null = null;

export const isAway = (): boolean => away !== null;

/** The answers are those of one version of the application. */
export const contractVersion = process.env.CONTRACT_VERSION ?? 'unversioned';

const problem = (code: string, detail: string, remedy: string): ProblemBody => ({
  type: 'about:blank',
  title: 'Not on this device',
  // Asking again changes nothing.
  status: 404,
  code,
  detail,
  remedy,
});
const notHeld = problem(
  'not-held',
  'This was not taken along, and the application cannot be reached.',
  'Find a signal; what is done here is kept until then.',
);
const otherVersion = problem(
  'other-version',
  'This was taken along with another version of the application and cannot be shown by this one.',
  'Find a signal and take it along again.',
);

/** What is held of an address, with its age; throws a Refusal where it is not. */
export async function held(
  { db, holder }: Away,
  address: string,
): Promise<{ body: unknown; takenAt: string }> {
  const found = await db.get('answer', [holder.person.id, address]);
  if (!found) throw new Refusal(notHeld);
  if (found.contractVersion !== contractVersion) throw new Refusal(otherVersion);
  return { body: found.body, takenAt: found.takenAt };
}

export const heldPicture = async (address: string): Promise<Blob | null> => {
  if (!away) return null;
  return (await away.db.get('picture', [away.holder.person.id, address]))?.picture ?? null;
};

/** Goes by what this device holds; null where nobody's is. */
export async function goAway(): Promise<Away | null> {
  const db = await openTaken();
  const holder = await db.get('holder', 'holder');
  if (!holder) return null;
  const now: Away = { holder, db };
  away = now;
  answerFrom(async (address) => (await held(now, address)).body);
  return now;
}
