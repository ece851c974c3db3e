import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction } from 'idb';
import type { PersonView, RoundStop } from '@/contract/views';

/** Something that was asked of the application while there was a signal, held for when there is none. */
export interface HeldAnswer {
  /** Id of whoever it was taken along for: nobody else is shown it. */
  readonly person: string;
  readonly address: string;
  /** The stop it belongs to; '' for what belongs to none. */
  readonly stationId: string;
  /** What the answer is made of, see `next.config.ts`: another version's is not shown. */
  readonly contractVersion: string;
  readonly takenAt: string;
  readonly body: unknown;
}
export interface HeldPicture {
  readonly person: string;
  readonly address: string;
  readonly stationId: string;
  readonly picture: Blob;
}
/** A stop that was taken along. */
export interface HeldStop {
  readonly person: string;
  readonly stationId: string;
  readonly stop: RoundStop;
  /** Its place on the Round it was taken from, from 0. */
  readonly rank: number;
  readonly takenAt: string;
  readonly bytes: number;
}
/** Who is signed in on this device, as far as it knows without asking. */
export interface Holder {
  readonly person: PersonView;
  /** When the application was last reached in their name. */
  readonly seenAt: string;
}

interface Taken extends DBSchema {
  holder: { key: 'holder'; value: Holder };
  stop: { key: [string, string]; value: HeldStop };
  answer: { key: [string, string]; value: HeldAnswer; indexes: { stop: [string, string] } };
  picture: { key: [string, string]; value: HeldPicture; indexes: { stop: [string, string] } };
}
export type TakenDb = IDBPDatabase<Taken>;

const all = ['holder', 'stop', 'answer', 'picture'] as const;

/** Opens what was taken along on this device. */
export const openTaken = (): Promise<TakenDb> =>
  openDB<Taken>('outer-cairn taken', 1, {
    upgrade(db) {
      db.createObjectStore('holder');
      db.createObjectStore('stop', { keyPath: ['person', 'stationId'] });
      for (const name of ['answer', 'picture'] as const)
        db.createObjectStore(name, { keyPath: ['person', 'address'] }).createIndex('stop', [
          'person',
          'stationId',
        ]);
    },
  });

/** All that is held of a stop; `pictures` by their addresses. */
export interface StopToHold {
  readonly stop: HeldStop;
  readonly answers: readonly HeldAnswer[];
  readonly pictures: readonly HeldPicture[];
}

/** Holds a stop, wholly or not at all, in the place of what was held of it. */
export async function holdStop(db: TakenDb, { stop, answers, pictures }: StopToHold): Promise<void> {
  const tx = db.transaction(all, 'readwrite', { durability: 'strict' });
  try {
    await removeStop(tx, stop.person, stop.stationId);
    for (const answer of answers) await tx.objectStore('answer').put(answer);
    for (const picture of pictures) await tx.objectStore('picture').put(picture);
    await tx.objectStore('stop').put(stop);
    await tx.done;
  } catch (error) {
    abort(tx);
    await tx.done.catch(() => undefined);
    throw error;
  }
}

/** Ends a transaction without a change; one that ran out of room may have ended by itself. */
function abort(tx: Writing): void {
  try {
    tx.abort();
  } catch {
    // It has.
  }
}

/** Holds what belongs to no stop. */
export async function holdAnswers(db: TakenDb, answers: readonly HeldAnswer[]): Promise<void> {
  const tx = db.transaction('answer', 'readwrite');
  for (const answer of answers) await tx.store.put(answer);
  await tx.done;
}

/** Lets a stop go. */
export async function letGo(db: TakenDb, person: string, stationId: string): Promise<void> {
  const tx = db.transaction(all, 'readwrite');
  await removeStop(tx, person, stationId);
  await tx.done;
}

type Writing = IDBPTransaction<Taken, typeof all, 'readwrite'>;

async function removeStop(tx: Writing, person: string, stationId: string): Promise<void> {
  await tx.objectStore('stop').delete([person, stationId]);
  for (const name of ['answer', 'picture'] as const) {
    const store = tx.objectStore(name);
    for (const key of await store.index('stop').getAllKeys([person, stationId])) await store.delete(key);
  }
}

/** Notes whose device this is now; what was held for anybody else goes. */
export async function setHolder(db: TakenDb, holder: Holder): Promise<void> {
  const before = await db.get('holder', 'holder');
  if (before && before.person.id !== holder.person.id) await dropAll(db);
  await db.put('holder', holder, 'holder');
}

/** Lets everything go, as at a sign-out. What waits to be sent is not kept here, and stays. */
export async function dropAll(db: TakenDb): Promise<void> {
  const tx = db.transaction(all, 'readwrite');
  await Promise.all(all.map((name) => tx.objectStore(name).clear()));
  await tx.done;
}

/** So long things are held after they were taken along, days. Our own choice: a field trip of a week. */
export const heldDays = 7;

/** Lets go what was taken along too long before an instant, ms; the holder too, where nobody was here since. */
export async function dropOld(db: TakenDb, now: number): Promise<void> {
  const isOld = (at: string) => now - Date.parse(at) > heldDays * 86_400_000;
  const holder = await db.get('holder', 'holder');
  if (holder && isOld(holder.seenAt)) return dropAll(db);
  const tx = db.transaction(all, 'readwrite');
  for (const { person, stationId, takenAt } of await tx.objectStore('stop').getAll())
    if (isOld(takenAt)) await removeStop(tx, person, stationId);
  for (const { person, address, takenAt } of await tx.objectStore('answer').getAll())
    if (isOld(takenAt)) await tx.objectStore('answer').delete([person, address]);
  await tx.done;
}
