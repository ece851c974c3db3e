import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { IDBFactory } from 'fake-indexeddb';
import { v7 } from 'uuid';
import type { ProblemBody } from '@/contract/problem';
import { deliver, outcomeOf, togetherOf, type Outcome } from './deliver';
import type { NewQueued, OutboxStore, Queued } from './queued';
import { openOutbox, storeOn } from './store';

const problem = (status: number, code = 'x'): ProblemBody => ({
  type: 'about:blank',
  title: 't',
  status,
  code,
  detail: 'd',
  remedy: 'r',
});
const person = { id: 'p', initials: 'AB' };
const stations = ['s1', 's2', 's3'];
const write = (stationId: string, text: string, by = person): NewQueued<'note'> => ({
  key: v7(),
  kind: 'note',
  stationId,
  params: { stationId },
  where: stationId,
  zone: 'Etc/UTC',
  body: { lineId: v7(), stationId, text, occurredAt: '2026-03-02T10:00:00.000Z' },
  person: by,
  device: { at: '2026-03-02T10:00:00.000Z', ahead: 0 },
  state: 'waits',
  problem: null,
});
const textOf = (item: Queued) => (item.body as { text: string }).text;

const delivered = () => Promise.resolve<Outcome>({ kind: 'delivered', answer: null });
/** As the server does: in their order, up to the first that is not taken. */
const upToRefusal =
  (one: (item: Queued) => Promise<Outcome>) =>
  async (items: readonly Queued[]): Promise<Outcome[]> => {
    const outcomes: Outcome[] = [];
    for (const item of items) {
      outcomes.push(await one(item));
      if (outcomes.at(-1)!.kind !== 'delivered') break;
    }
    return outcomes;
  };

let store: OutboxStore;
/** Delivers all of a person's; "bad" is refused. What was taken, in the order it was. */
async function deliverAll(): Promise<string[]> {
  const taken: string[] = [];
  await deliver(
    store,
    'p',
    upToRefusal((item) => {
      const text = textOf(item);
      if (text === 'bad') return Promise.resolve(outcomeOf(problem(422, 'invalid')));
      taken.push(text);
      return delivered();
    }),
  );
  return taken;
}
beforeEach(async () => {
  // Another device each time.
  globalThis.indexedDB = new IDBFactory();
  store = storeOn(await openOutbox());
});

describe('what an answer means', () => {
  test.each([
    ['no connection', 0, 'offline', 'later'],
    ['a server that breaks', 500, 'internal', 'later'],
    ['the database away', 503, 'database-away', 'later'],
    ['too slow', 408, 'x', 'later'],
    ['too many', 429, 'x', 'later'],
    ['still at it after a lost answer', 409, 'in-progress', 'later'],
    ['other work at the station', 409, 'busy', 'later'],
    ['signed out', 401, 'signed-out', 'signed-out'],
    ['somebody else signed in', 409, 'other-person', 'signed-out'],
    ['the right was lost', 403, 'not-allowed', 'refused'],
    ['no such station', 404, 'not-found', 'refused'],
    ['there already, otherwise', 409, 'already-off-line', 'refused'],
    ['a bad field', 422, 'invalid', 'refused'],
  ])('%s: %i %s', (_, status, code, kind) => expect(outcomeOf(problem(status, code)).kind).toBe(kind));
});

test('a refusal holds its own station only, and what stands behind it stays in order', async () => {
  for (const [s, t] of [
    ['s1', 'a'],
    ['s2', 'b'],
    ['s1', 'bad'],
    ['s1', 'c'],
    ['s2', 'd'],
  ] as const)
    await store.add(write(s, t));
  expect((await deliverAll()).sort()).toEqual(['a', 'b', 'd']);
  const left = await store.all();
  expect(left.map((i) => [textOf(i), i.state])).toEqual([
    ['bad', 'refused'],
    ['c', 'waits'],
  ]);
  expect(left[0]!.problem).toMatchObject({ code: 'invalid' });
  // Settled, the rest goes.
  await store.remove(left[0]!.seq);
  expect(await deliverAll()).toEqual(['c']);
  expect(await store.all()).toEqual([]);
});

test('what somebody else did on this device is neither sent nor in the way', async () => {
  await store.add(write('s1', 'hers', { id: 'q', initials: 'CD' }));
  await store.add(write('s1', 'mine'));
  expect(await deliverAll()).toEqual(['mine']);
  expect((await store.all()).map(textOf)).toEqual(['hers']);
});

test('settled in another page meanwhile, a refusal does not bring it back', async () => {
  const item = await store.add(write('s1', 'a'));
  await store.remove(item.seq);
  await store.put({ ...item, state: 'refused' });
  expect(await store.all()).toEqual([]);
});

describe('what goes together', () => {
  const queue = (...texts: string[]) => texts.map((t, i) => ({ ...write('s1', t), seq: i }) as Queued);
  const picture = { ...queue('x')[0]!, kind: 'photograph', seq: 99 } as unknown as Queued;
  test('so many, and no more', () =>
    expect(togetherOf(queue(...Array.from({ length: 40 }, (_, i) => `${i}`)))).toHaveLength(25));
  test('so long, and no longer, but always one', () => {
    expect(togetherOf(queue('x'.repeat(100_000), 'y'.repeat(100_000)))).toHaveLength(1);
    expect(togetherOf(queue('x'.repeat(500_000)))).toHaveLength(1);
  });
  test('a picture alone, and what stands before it first', () => {
    expect(togetherOf([picture, ...queue('a')])).toEqual([picture]);
    expect(togetherOf([...queue('a', 'b'), picture]).map(textOf)).toEqual(['a', 'b']);
  });
  test('one that this version does not know goes alone, and holds nobody up for ever', () => {
    const [known] = queue('a') as [Queued];
    const strange = { ...known, kind: 'meterReading' } as unknown as Queued;
    expect(togetherOf([strange, known])).toEqual([strange]);
    expect(togetherOf([known, strange])).toEqual([known]);
  });
  test('nothing beyond a refusal', () => {
    const [a, b, c] = queue('a', 'b', 'c') as [Queued, Queued, Queued];
    expect(togetherOf([a, { ...b, state: 'refused' }, c])).toEqual([a]);
    expect(togetherOf([{ ...a, state: 'refused' }, b])).toEqual([]);
  });
});

/** A server that does each key once, and a line to it that breaks where it is told to. */
class World {
  readonly done = new Map<string, { stationId: string; text: string }>();
  answer(item: Queued, cut: Cut): Promise<Outcome> {
    if (cut === 'before') return Promise.resolve(outcomeOf(problem(0, 'offline')));
    if (!this.done.has(item.key)) this.done.set(item.key, { stationId: item.stationId, text: textOf(item) });
    if (cut === 'after') return Promise.resolve(outcomeOf(problem(0, 'offline')));
    // The page goes away with the answer in its hands.
    if (cut === 'killed') return Promise.reject(new Error('killed'));
    return Promise.resolve({ kind: 'delivered', answer: null });
  }
}
type Cut = 'none' | 'before' | 'after' | 'killed';

test('whatever is cut, and where: nothing lost, nothing twice, each station in its order', async () => {
  const cut = fc.constantFrom<Cut>('none', 'none', 'before', 'after', 'killed');
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({ stationId: fc.constantFrom(...stations), cuts: fc.array(cut, { maxLength: 4 }) }),
        { maxLength: 12 },
      ),
      async (acts) => {
        globalThis.indexedDB = new IDBFactory();
        const world = new World();
        const made: { stationId: string; text: string }[] = [];
        // Each sending is by a page of its own: it opens the store that the one before left.
        const page = async (cuts: Cut[]) => {
          const db = await openOutbox();
          const end = deliver(
            storeOn(db),
            'p',
            upToRefusal((item) => world.answer(item, cuts.shift() ?? 'none')),
          );
          await end.catch(() => {});
          db.close();
        };
        for (const [i, { stationId, cuts }] of acts.entries()) {
          const db = await openOutbox();
          await storeOn(db).add(write(stationId, `${i}`));
          db.close();
          made.push({ stationId, text: `${i}` });
          await page([...cuts]);
        }
        await page([]);
        await page([]);
        const db = await openOutbox();
        expect(await storeOn(db).all()).toEqual([]);
        db.close();
        for (const s of stations) {
          const at = (all: Iterable<{ stationId: string; text: string }>) =>
            [...all].filter((x) => x.stationId === s).map((x) => x.text);
          expect(at(world.done.values())).toEqual(at(made));
        }
      },
    ),
    { numRuns: 200, seed: 20261126 },
  );
});
