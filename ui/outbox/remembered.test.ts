import type { NewQueued, OutboxStore, Queued } from './queued';
import { forgetAll, missing, noting } from './remembered';

/** A store in memory that can lose everything, as a browser may. */
function memory(): OutboxStore & { items: Queued[] } {
  let seq = 0;
  const held = {
    items: [] as Queued[],
    add: (item: NewQueued) => {
      const queued = { ...item, seq: ++seq };
      held.items.push(queued);
      return Promise.resolve(queued);
    },
    all: () => Promise.resolve(held.items),
    put: () => Promise.resolve(),
    remove: (gone: number) => {
      held.items = held.items.filter((i) => i.seq !== gone);
      return Promise.resolve();
    },
  };
  return held;
}
const write = {
  kind: 'note',
  where: 'MOSS-1',
  device: { at: '2026-03-02T10:00:00.000Z', ahead: 0 },
} as unknown as NewQueued;

let disk: Map<string, string>;
beforeEach(() => {
  disk = new Map();
  globalThis.localStorage = {
    getItem: (key: string) => disk.get(key) ?? null,
    setItem: (key: string, value: string) => void disk.set(key, value),
  } as unknown as Storage;
});

test('a store that vanished is noticed, with what was in it', async () => {
  const under = memory();
  const store = noting(under);
  await store.add(write);
  const second = await store.add(write);
  await store.remove(second.seq);
  expect(missing(await store.all())).toEqual([]);
  under.items = [];
  const lost = missing(await store.all());
  expect(lost).toEqual([{ seq: 1, kind: 'note', where: 'MOSS-1', at: '2026-03-02T10:00:00.000Z' }]);
  forgetAll(lost);
  expect(missing([])).toEqual([]);
});
test('a page that goes away between noting and taking out does not look like a loss', async () => {
  const under = memory();
  const store = noting({ ...under, all: under.all, remove: () => Promise.reject(new Error('killed')) });
  const item = await store.add(write);
  await store.remove(item.seq).catch(() => {});
  expect(missing(await store.all())).toEqual([]);
});
test('notes that cannot be read are none, and no room is no fault', async () => {
  disk.set('outer-cairn outbox holds', '{');
  expect(missing([])).toEqual([]);
  globalThis.localStorage.setItem = () => {
    throw new Error('QuotaExceededError');
  };
  await expect(noting(memory()).add(write)).resolves.toMatchObject({ seq: 1 });
});
