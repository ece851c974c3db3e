import { rows } from '@/db/database';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { bookPage, signBookPage } from '../book/page';
import type { Context } from '../context';
import { beginOffLine } from '../device/offLine';
import { assignHandheld, bringIn, takeBackHandheld } from '../handheld/handheldReadings';
import { newId } from '../id';
import { addToChecklist, tickChecklist } from '../visit/checklist';
import { arriveAt, leaveFrom } from '../visit/comeAndGo';

/** The same of coming and going. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => bench.at(present), act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: S() }));
const occurredAt = new Date(present).toISOString();

test('one person on six devices arrives once, and leaves once', async () => {
  const come = (ctx: Context) =>
    arriveAt(ctx, S(), { arrivalId: newId(), others: '', acknowledged: [], occurredAt });
  expect(told(await six(come))).toEqual({ done: 1, codes: ['arrived-already'] });
  const go = (ctx: Context) =>
    leaveFrom(ctx, S(), { departureId: newId(), leftOpen: [], away: false, occurredAt });
  expect(told(await six(go))).toEqual({ done: 1, codes: ['left-already'] });
  expect([await audited('visit.arrive'), await audited('visit.leave')]).toEqual([1, 1]);
  expect(await count('visit where station_id = :s and closed_at is null')).toBe(0);
});

test('leads taken off beside somebody who leaves: either they were told, or it began after they had gone', async () => {
  const later = present + 3_600_000;
  const at = new Date(later).toISOString();
  const [off, left] = await Promise.allSettled([
    beginOffLine(bench.at(later), S(), ids.installationId, { reason: 'leads off', occurredAt: at }),
    leaveFrom(bench.at(later), S(), { departureId: newId(), leftOpen: [], away: false, occurredAt: at }),
  ]);
  expect(off.status).toBe('fulfilled');
  const gone = await count('departure where station_id = :s and left_at = :at', { at });
  expect(gone).toBe(left.status === 'fulfilled' ? 1 : 0);
});

test('six add one line of the checklist: once; six tick it: once', async () => {
  const lineId = newId();
  const add = (ctx: Context) =>
    addToChecklist(ctx, S(), { lineId, kind: 'put-back', says: 'fan in hand', occurredAt });
  expect(told(await six(add))).toEqual({ done: 1, codes: ['already-there'] });
  const tick = (ctx: Context) =>
    tickChecklist(ctx, S(), { tickId: newId(), item: lineId, says: 'fan in hand', done: true, occurredAt });
  expect(told(await six(tick))).toEqual({ done: 1, codes: ['ticked-already'] });
  expect(await count(`checklist_tick where station_id = :s and item = '${lineId}'`)).toBe(1);
});

test('a page signed by six at once is signed once', async () => {
  const later = present + 10 * 86_400_000;
  const at = new Date(later).toISOString();
  const ctx = () => bench.at(later);
  const { visitId } = await arriveAt(ctx(), S(), {
    arrivalId: newId(),
    others: '',
    acknowledged: [],
    occurredAt: at,
  });
  const { sha256 } = await bookPage(ctx(), S(), visitId);
  const said = told(await sixTimes(ctx, (c) => signBookPage(c, S(), visitId, { sha256, occurredAt: at })));
  expect(said).toEqual({ done: 1, codes: ['signed-already'] });
  expect(await audited('book.sign')).toBe(1);
});

test('one list brought in by six is there once; its reading goes to one place, and back once', async () => {
  const list = () => ({
    listId: newId(),
    fileName: 'list.csv',
    instrumentId: null,
    readings: [
      {
        readingId: newId(),
        at: occurredAt,
        quantity: 'airTemperature' as const,
        entered: 16.2,
        unit: '°C' as const,
        label: 'store',
      },
    ],
  });
  const brought = await six((ctx) => bringIn(ctx, list()));
  expect(told(brought)).toEqual({ done: 6, codes: [] });
  const added = brought.map((b) => (b as PromiseFulfilledResult<{ added: number }>).value.added);
  expect(added.reduce((a, b) => a + b)).toBe(1);
  const readingId = (await rows(test_.db.handheldReading, { where: { label: 'store' } }))[0]!.id;
  const assign = (ctx: Context) =>
    assignHandheld(ctx, S(), { assignmentId: newId(), readingIds: [readingId], channelId: null, occurredAt });
  expect(told(await six(assign))).toEqual({ done: 1, codes: ['assigned-already'] });
  const back = (ctx: Context) => takeBackHandheld(ctx, S(), readingId, { reason: 'another place' });
  expect(told(await six(back))).toEqual({ done: 1, codes: ['not-found'] });
  expect([await audited('handheld.assign'), await audited('handheld.take-back')]).toEqual([1, 1]);
});
