import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import Papa from 'papaparse';
import { day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { captureReading } from '../check/capture';
import { openCheck } from '../check/open';
import { beginOffLine } from '../device/offLine';
import { newId } from '../id';
import { addInstrument } from '../kit/kit';
import { addToChecklist } from '../visit/checklist';
import { arriveAt, leaveFrom } from '../visit/comeAndGo';
import { handOver } from '../visit/handOver';
import { addNote, fieldBook, bookChoices } from './fieldBook';
import { bookPage, signBookPage } from './page';
import { pageCsv, pageDocument } from './pageFile';

/** A visit as a page: read, signed, added to, saved as files. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const hour = 3_600_000;
const iso = (ms: number) => new Date(ms).toISOString();
const S = () => bench.stationId;
const technician = (ms: number) => ({ ...bench.at(ms), person: bench.people.technician });
const reviewer = (ms: number) => ({ ...bench.at(ms), person: bench.people.reviewer });
const note = (
  ctx: ReturnType<typeof technician>,
  text: string,
  more: { visitId?: string; at?: number } = {},
) =>
  addNote(ctx, {
    lineId: newId(),
    stationId: S(),
    text,
    occurredAt: iso(more.at ?? ctx.now().getTime()),
    ...(more.visitId && { visitId: more.visitId }),
  });

let visitId: string;
const page = (ms = present + day) => bookPage(technician(ms), S(), visitId);
beforeAll(async () => {
  await test_.arrange(`update station set cautions = '["Ladder."]' where id = $1`, [S()]);
  const instrumentId = newId();
  await addInstrument(technician(present), {
    instrumentId,
    name: 'Air handheld',
    model: 'Hollin HX',
    serial: 'HX-1',
    calibratedOn: iso(present - 30 * day),
    dueOn: iso(present + 300 * day),
    quantities: [{ quantity: 'airTemperature', tolerance: 0.2, resolution: 0.1, low: -30, high: 60 }],
  });
  ({ visitId } = await arriveAt(technician(present), S(), {
    arrivalId: newId(),
    others: 'OR',
    acknowledged: ['Ladder.'],
    occurredAt: iso(present),
  }));
  await note(technician(present + 60_000), '=cmd()|"Lid open"');
  const { checkId } = await openCheck(technician(present + 2 * 60_000), S(), {
    checkId: newId(),
    channelId: ids.temperature,
    instrumentId,
    zoneName: 'Lantern room',
    repeats: 3,
    school: 'sum',
    procedure: 'side-by-side',
    standardIds: [],
    settleWindow: 60,
    occurredAt: iso(present + 2 * 60_000),
  });
  await captureReading(technician(present + 5 * 60_000), S(), checkId, {
    readingId: newId(),
    reference: { value: 16.4, unit: '°C' },
    watched: [],
    typed: { sensor: { value: 16, unit: '°C' }, stoodStill: true },
    occurredAt: iso(present + 5 * 60_000),
  });
  await note(reviewer(present + 6 * 60_000), 'looked over their shoulder');
  await beginOffLine(technician(present + 7 * 60_000), S(), ids.installationId, {
    reason: 'leads off for work',
    occurredAt: iso(present + 7 * 60_000),
  });
  await leaveFrom(technician(present + hour), S(), {
    departureId: newId(),
    leftOpen: [
      { matter: `leads-off ${ids.installationId}`, reason: 'gland wet' },
      { matter: `check-open ${checkId}`, reason: 'reference too cold' },
    ],
    away: false,
    occurredAt: iso(present + hour),
  });
});

test('a page has whoever was there, every line in order, numbers beside words, what was left open', async () => {
  const p = await page();
  expect(p.people).toMatchObject([
    {
      initials: 'IK',
      others: 'OR',
      acknowledged: ['Ladder.'],
      arrivedAt: iso(present),
      leftAt: iso(present + hour),
    },
    { initials: bench.people.reviewer.initials, arrivedAt: null },
  ]);
  const at = p.lines.map((l) => l.occurredAt);
  expect(at).toEqual([...at].sort());
  expect(p.lines.map((l) => l.text)).toEqual(
    expect.arrayContaining(['=cmd()|"Lid open"', 'looked over their shoulder']),
  );
  expect(p.readings).toMatchObject([
    { phase: 'as-found', sensor: 16, reference: 16.4, excluded: null, quantity: 'airTemperature' },
  ]);
  expect(p.readings[0]!.difference).toBeCloseTo(-0.4, 9);
  expect(p.leftOpen.map((o) => o.reason).sort()).toEqual(['gland wet', 'reference too cold']);
  expect([p.from, p.until]).toEqual([iso(present), iso(present + hour)]);
});

test('as JSON it keeps to its published schema, numbers as numbers', async () => {
  const schema = JSON.parse(readFileSync('docs/schemas/field-book-page.schema.json', 'utf8')) as object;
  const validate = new Ajv({ allErrors: true, strict: true, allowUnionTypes: true }).compile(schema);
  const document: unknown = JSON.parse(JSON.stringify(pageDocument(await page())));
  expect(validate(document) ? [] : validate.errors).toEqual([]);
  expect(document).toMatchObject({ readings: [{ sensor: 16, reference: 16.4, unit: '°C' }] });
});

test('as a table a spreadsheet computes with it, and takes nothing in it for a formula', async () => {
  let text = '';
  for await (const piece of pageCsv(await page())) text += piece;
  const { data } = Papa.parse<Record<string, string>>(text, { header: true });
  const reading = data.find((r) => r.row === 'reading')!;
  expect([Number(reading.sensor), Number(reading.reference)]).toEqual([16, 16.4]);
  expect(Number(reading.difference)).toBeCloseTo(-0.4, 9);
  expect(data.find((r) => r.text?.includes('Lid open'))!.text).toBe(`'=cmd()|"Lid open"`);
  expect(data.map((r) => r.at)).toEqual(data.map((r) => r.at).sort());
});

describe('signed', () => {
  const sign = async (ctx: ReturnType<typeof technician>, sha256?: string) =>
    signBookPage(ctx, S(), visitId, {
      sha256: sha256 ?? (await page()).sha256,
      occurredAt: iso(ctx.now().getTime()),
    });
  test('by its writer alone, and only as they saw it', async () => {
    expect(await refusal(sign(reviewer(present + 2 * hour)))).toMatchObject({ code: 'not-the-writer' });
    const seen = (await page()).sha256;
    // A tablet that comes into reach: what it kept belongs to this page.
    await note(technician(present + 2 * hour), 'kept on the other tablet', { at: present + 10 * 60_000 });
    expect(await refusal(sign(technician(present + 2 * hour), seen))).toMatchObject({ code: 'page-changed' });
  });
  test('it says so, and what comes later stands below with its date', async () => {
    await sign(technician(present + 3 * hour));
    const { signed, sha256 } = await page();
    expect(signed).toMatchObject({ by: 'IK', sha256 });
    expect(await refusal(sign(technician(present + 4 * hour)))).toMatchObject({ code: 'signed-already' });
    await note(technician(present + 5 * hour), 'it was the upper gland', { visitId });
    await note(technician(present + 5 * hour), 'found in a pocket', { at: present + 20 * 60_000 });
    const later = await page();
    expect(later.additions.map((l) => l.text)).toEqual(['found in a pocket', 'it was the upper gland']);
    expect(later.lines.map((l) => l.text)).not.toContain('found in a pocket');
    expect(later.sha256).toBe(sha256);
    expect(later.until).toBe(iso(present + hour));
  });
  test('a page that is not there, and a note to one, are refused', async () => {
    expect(await refusal(bookPage(technician(present), S(), newId()))).toMatchObject({ code: 'not-found' });
    expect(await refusal(note(technician(present), 'lost', { visitId: newId() }))).toMatchObject({
      code: 'not-found',
    });
  });
});

test('the book is narrowed by station, channel, person, kind and words', async () => {
  const found = async (filter: Parameters<typeof fieldBook>[1]) =>
    (await fieldBook(test_.db, { station: S(), ...filter })).map((l) => l.text);
  expect(await found({ person: bench.people.reviewer.id })).toEqual(['looked over their shoulder']);
  expect(await found({ kind: 'off-line' })).toHaveLength(1);
  expect(await found({ text: 'lid OPEN' })).toEqual(['=cmd()|"Lid open"']);
  expect(await found({ text: '%' })).toEqual([]);
  const ofChannel = await found({ channel: ids.temperature });
  expect(ofChannel.length).toBeGreaterThan(0);
  expect(ofChannel.length).toBeLessThan((await found({})).length);
  expect(await bookChoices(test_.db, S())).toMatchObject({
    kinds: expect.arrayContaining(['note', 'visit', 'off-line']) as string[],
    channels: expect.arrayContaining([expect.objectContaining({ id: ids.temperature })]) as object[],
  });
});

test('the hand-over: what the last visit did, what happened since, what is open and why, what to do and bring', async () => {
  await addToChecklist(technician(present + hour / 2), S(), {
    lineId: newId(),
    kind: 'to-do',
    says: 'A new gland, M16',
    occurredAt: iso(present + hour / 2),
  });
  await note(reviewer(present + 2 * day), 'the record looks odd');
  const h = await handOver(technician(present + 3 * day), S());
  expect(h.last).toMatchObject({ visitId, by: 'IK', until: iso(present + hour) });
  expect(h.since.map((l) => l.text)).toEqual(['the record looks odd']);
  expect(h.open.map((o) => o.reason)).toEqual(expect.arrayContaining(['gland wet', 'reference too cold']));
  expect(h.toDo).toEqual(['A new gland, M16']);
  expect(h.due.length).toBeGreaterThan(0);
  expect(await refusal(handOver(technician(present), newId()))).toMatchObject({ code: 'not-found' });
});
