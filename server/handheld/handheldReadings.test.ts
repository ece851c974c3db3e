import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import type { BringInList } from '@/contract/handheld';
import { row } from '@/db/database';
import { addNote, bookChoices } from '../book/fieldBook';
import { newId } from '../id';
import { assignHandheld, bringIn, handheldReadings, takeBackHandheld } from './handheldReadings';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const iso = (ms: number) => new Date(ms).toISOString();
const ctx = (ms = present) => ({ ...bench.at(ms), person: bench.people.technician });
type Reading = BringInList['readings'][number];
const reading = (ms: number, more: Partial<Reading> = {}): Reading => ({
  readingId: newId(),
  at: iso(ms),
  quantity: 'airTemperature',
  entered: 16.2,
  unit: '°C',
  label: 'store',
  ...more,
});
const bring = (readings: Reading[], more: Partial<BringInList> = {}) =>
  bringIn(ctx(), { listId: newId(), fileName: 'air.csv', instrumentId: null, readings, ...more });
const assign = (readingIds: string[], channelId: string | null = null, stationId = S()) =>
  assignHandheld(ctx(present + day), stationId, {
    assignmentId: newId(),
    readingIds,
    channelId,
    occurredAt: iso(present + day),
  });
const shown = async () => (await handheldReadings(test_.db)).readings;

const first = reading(present - 3 * day, { entered: 61.2, unit: '°F' });
const second = reading(present - 3 * day + 600_000, {
  quantity: 'humidity',
  entered: 54.8,
  unit: '%RH',
  label: '',
});

test('a list is brought in once, however often; its readings wait, each with where its reader was', async () => {
  await addNote(ctx(present - 3 * day - 600_000), {
    lineId: newId(),
    stationId: S(),
    text: 'in the lantern room',
    occurredAt: iso(present - 3 * day - 600_000),
  });
  expect(await bring([first, second])).toEqual({ added: 2, known: 0 });
  expect(
    await bring([reading(present - 3 * day, { entered: 61.2, unit: '°F' }), reading(present - day)]),
  ).toEqual({
    added: 1,
    known: 1,
  });
  const all = await shown();
  expect(all.map((r) => r.assigned)).toEqual([null, null, null]);
  expect(all.find((r) => r.id === first.readingId)).toMatchObject({
    entered: 61.2,
    unit: '°F',
    likely: { stationId: S() },
  });
  expect(all.find((r) => r.at === iso(present - day))!.likely).toBeNull();
  const kept = await row(test_.db.handheldReading, { where: { id: first.readingId } });
  expect(kept!.value).toBeCloseTo(16.2222, 4);
  expect((await bookChoices(test_.db)).unassigned).toBe(3);
});

test('assigned, a reading has its line at the time it was read, in the visit of that day', async () => {
  expect(await assign([first.readingId], ids.temperature)).toEqual({ assigned: 1 });
  const texts = await bookTexts(test_.db, S());
  const text = texts.find((t) => t.startsWith('Handheld'))!;
  expect(text).toMatch(/^Handheld: Air temperature 61.2 °F \(store\), beside \S/);
  const line = (await row(test_.db.fieldBook, { where: { stationId: S(), text } }))!;
  const there = (await row(test_.db.fieldBook, { where: { stationId: S(), text: 'in the lantern room' } }))!;
  expect(line.occurredAt).toEqual(new Date(present - 3 * day));
  expect(line.visitId).toBe(there.visitId);
  expect((await shown()).find((r) => r.id === first.readingId)!.assigned).toMatchObject({ stationId: S() });
  expect((await bookChoices(test_.db)).unassigned).toBe(2);
});

test('one place at a time: it has to be taken back first, and waits again', async () => {
  expect(await refusal(assign([first.readingId]))).toMatchObject({ code: 'assigned-already' });
  await takeBackHandheld(ctx(), S(), first.readingId, { reason: 'that was the hall' });
  expect(await refusal(takeBackHandheld(ctx(), S(), first.readingId, { reason: 'again' }))).toMatchObject({
    code: 'not-found',
  });
  expect((await bookChoices(test_.db)).unassigned).toBe(3);
  expect(await assign([first.readingId, second.readingId])).toEqual({ assigned: 2 });
});

test.each<[string, () => Promise<unknown>, string]>([
  ['a channel of another quantity', () => assign([lonely()], ids.humidity), 'other-quantity'],
  ['a reading that is not there', () => assign([newId()]), 'not-found'],
  ['a station that is not there', () => assign([lonely()], null, newId()), 'not-found'],
  ['a time still to come', () => bring([reading(present + day)]), 'future-time'],
  ['a unit of something else', () => bring([reading(present, { unit: 'hPa' })]), 'wrong-unit'],
  ['more than a handheld shows', () => bring([reading(present, { entered: 1612 })]), 'out-of-range'],
  [
    'an instrument that is not there',
    () => bring([reading(present)], { instrumentId: newId() }),
    'not-found',
  ],
])('%s is refused, and nothing is kept', async (_, act, code) => {
  const waiting = await shown();
  lonelyId = waiting.find((r) => !r.assigned)!.id;
  expect(await refusal(act())).toMatchObject({ code });
  expect(await shown()).toEqual(waiting);
});
let lonelyId = '';
const lonely = () => lonelyId;
