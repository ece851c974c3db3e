import type { OutboxStore, Queued } from './queued';

/**
 * What the outbox holds, noted a second time elsewhere: a browser may lose a whole store, and then the person
 * has to know. Only what is needed to say what is gone.
 */
export interface Remembered {
  readonly seq: number;
  readonly kind: Queued['kind'];
  readonly where: string;
  readonly at: string;
}

const place = 'outer-cairn outbox holds';

function remembered(): Remembered[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(place) ?? '[]');
    return Array.isArray(kept) ? (kept as Remembered[]) : [];
  } catch {
    return [];
  }
}
function note(list: readonly Remembered[]): void {
  try {
    localStorage.setItem(place, JSON.stringify(list));
  } catch {
    // No room: then a loss would not be noticed, and nothing else is worse.
  }
}

const forget = (seq: number): void => note(remembered().filter((r) => r.seq !== seq));

/**
 * A store whose holdings are noted: after a thing was kept, and before it is taken out, so that a crash in
 * between never looks like a loss.
 */
export const noting = (store: OutboxStore): OutboxStore => ({
  ...store,
  async add(item) {
    const queued = await store.add(item);
    const { seq, kind, where, device } = queued;
    note([...remembered().filter((r) => r.seq !== seq), { seq, kind, where, at: device.at }]);
    return queued;
  },
  remove(seq) {
    forget(seq);
    return store.remove(seq);
  },
});

/** What was noted and is not in the store. */
export const missing = (items: readonly Queued[]): Remembered[] => {
  const there = new Set(items.map((i) => i.seq));
  return remembered().filter((r) => !there.has(r.seq));
};
export const forgetAll = (lost: readonly Remembered[]): void => lost.forEach(({ seq }) => forget(seq));
