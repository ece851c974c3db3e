import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { broughtUp } from './broughtUp';
import type { NewQueued, OutboxStore, Queued } from './queued';

interface Held extends DBSchema {
  write: { key: number; value: Omit<Queued, 'seq'> & { seq?: number } };
}

const name = 'outer-cairn outbox';

/** Opens the outbox of this device. */
export const openOutbox = (): Promise<IDBPDatabase<Held>> =>
  openDB<Held>(name, 1, {
    upgrade(db) {
      db.createObjectStore('write', { keyPath: 'seq', autoIncrement: true });
    },
  });

/** The outbox in IndexedDB. What is added is on the disk when the call returns. */
export function storeOn(db: IDBPDatabase<Held>): OutboxStore {
  return {
    async add(item: NewQueued) {
      const tx = db.transaction('write', 'readwrite', { durability: 'strict' });
      const seq = await tx.store.add(item);
      await tx.done;
      return { ...item, seq };
    },
    all: async () => ((await db.getAll('write')) as Queued[]).map(broughtUp),
    async put(item) {
      const tx = db.transaction('write', 'readwrite', { durability: 'strict' });
      // Somebody may have settled it meanwhile in another page.
      if (await tx.store.get(item.seq)) await tx.store.put(item);
      await tx.done;
    },
    async remove(seq) {
      // Sent again after a crash it is known by its key: that need not wait for the disk.
      const tx = db.transaction('write', 'readwrite', { durability: 'relaxed' });
      await tx.store.delete(seq);
      await tx.done;
    },
  };
}
