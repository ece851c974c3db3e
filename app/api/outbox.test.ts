import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import fc from 'fast-check';
import {
  actingPersonHeader,
  fieldWrites,
  type FieldWriteBodies,
  type FieldWriteKind,
  type TakenTogether,
} from '@/contract/fieldWrites';
import { deviceTimeHeader, deviceTimeText } from '@/contract/deviceClock';
import type { ProblemBody } from '@/contract/problem';
import { query, rows } from '@/db/database';
import { openCheck } from '@/server/check/open';
import { newId } from '@/server/id';
import type { TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import type { Connected } from '@/test/onBench';
import { call, onRoutes } from '@/test/onRoutes';
import { measuredBeside } from '@/core/circuit/session';
import { plainInput } from '@/core/circuit/pathInput';
import { plainMeter } from '@/test/faultSweep';
import { onePixel } from '@/test/picture';
import { thorough } from '@/test/thorough';
import { deliver, outcomeOf, type Outcome } from '@/ui/outbox/deliver';
import type { NewQueued, Queued } from '@/ui/outbox/queued';
import { openOutbox, storeOn } from '@/ui/outbox/store';

/** The outbox of a device against the real handlers and the real database, cut wherever it can be. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
let checkId: string;
let sessionId: string;
onRoutes((made) => ({ test_, bench, ids } = made));
beforeAll(async () => {
  checkId = newId();
  sessionId = newId();
  const meterId = newId();
  const at = new Date();
  const personId = bench.people.technician.id;
  const ranges = { positions: plainMeter };
  await test_.db.meter.create({
    id: meterId,
    name: 'Bag meter',
    model: 'D4',
    serial: meterId,
    ranges,
    personId,
    addedAt: at,
  });
  // What is read there asks nothing of its circuit.
  await test_.db.benchSession.create({
    stationId: bench.stationId,
    id: sessionId,
    installationId: ids.installationId,
    channelId: ids.temperature,
    meterId,
    setup: { outputKey: 'airTemperature', leads: [], input: plainInput },
    openedAt: at,
    personId,
    recordedAt: at,
  });
  await openCheck(bench.at(Date.now()), bench.stationId, {
    checkId,
    channelId: ids.temperature,
    instrumentId: bench.instrumentId,
    zoneName: 'Lantern room',
    outOfDateReason: 'the only one here',
    repeats: 3,
    school: 'sum',
    procedure: 'side-by-side',
    standardIds: [],
    settleWindow: 60,
    occurredAt: new Date().toISOString(),
  });
});
beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});

let clock = Date.now() - 3_600_000;
const later = () => new Date((clock += 1000)).toISOString();

function act<K extends FieldWriteKind>(
  kind: K,
  body: (occurredAt: string) => FieldWriteBodies[K],
  params: Record<string, string> = {},
): NewQueued<K> {
  const at = later();
  const { id, initials } = bench.people.technician;
  return {
    key: newId(),
    kind,
    stationId: bench.stationId,
    params: { stationId: bench.stationId, ...params },
    body: body(at),
    where: 'ARCH-1',
    zone: 'Etc/UTC',
    person: { id, initials },
    device: { at, ahead: 0 },
    state: 'waits',
    problem: null,
  };
}
const note = (text: string) =>
  act('note', (occurredAt) => ({ lineId: newId(), stationId: bench.stationId, text, occurredAt }));
let isOff = false;
let isHere = false;
/** One act of each kind in turn, as a visit has them. */
const acts: readonly (() => NewQueued)[] = [
  () => note(`note ${clock}`),
  () => {
    isOff = !isOff;
    return isOff
      ? act('offLineBegin', (occurredAt) => ({ reason: 'leads off', occurredAt }), {
          installationId: ids.installationId,
        })
      : act('offLineEnd', (occurredAt) => ({ occurredAt }), { installationId: ids.installationId });
  },
  () =>
    act('photograph', (occurredAt) => ({
      photographId: newId(),
      occasion: 'before',
      note: '',
      occurredAt,
      planRevision: null,
      position: null,
      picture: onePixel,
    })),
  () =>
    act(
      'checkReading',
      (occurredAt) => ({
        readingId: newId(),
        reference: { value: 16, unit: '°C' },
        watched: [],
        typed: { sensor: { value: 16.2, unit: '°C' }, stoodStill: true },
        occurredAt,
      }),
      { checkId },
    ),
  () => {
    isHere = !isHere;
    return isHere
      ? act('arrive', (occurredAt) => ({ arrivalId: newId(), others: '', acknowledged: [], occurredAt }))
      : act('leave', (occurredAt) => ({ departureId: newId(), leftOpen: [], away: true, occurredAt }));
  },
  () => {
    const item = newId();
    return act('checklistTick', (occurredAt) => ({
      tickId: newId(),
      item,
      says: 'gland dried',
      done: true,
      occurredAt,
    }));
  },
  () =>
    act(
      'benchReading',
      (occurredAt) => ({
        readingId: newId(),
        measured: measuredBeside('dead-ac'),
        shows: 0,
        typed: '0.0',
        occurredAt,
      }),
      { sessionId },
    ),
  () =>
    act('levelReading', (occurredAt) => ({
      readingId: newId(),
      pointId: null,
      read: { kind: 'sum', sum: '12.340 − 3.415' },
      accuracy: 0.01,
      surveyId: null,
      lookedAgain: false,
      occurredAt,
    })),
  () =>
    act('checklistAdd', (occurredAt) => ({
      lineId: newId(),
      kind: 'put-back',
      says: 'fan in hand',
      occurredAt,
    })),
];

async function post(item: Queued, more: Record<string, string> = {}): Promise<Response> {
  const write = fieldWrites[item.kind];
  return call({
    method: write.method,
    path: write.path,
    role: 'technician',
    params: { ...item.params },
    body: item.body,
    headers: {
      'idempotency-key': item.key,
      [actingPersonHeader]: item.person.id,
      [deviceTimeHeader]: deviceTimeText(item.device),
      ...more,
    },
  });
}
const away: ProblemBody = {
  type: 'about:blank',
  title: 'away',
  status: 0,
  code: 'offline',
  detail: '',
  remedy: '',
};
async function outcome(response: Response): Promise<Outcome> {
  const body: unknown = await response.json();
  return response.ok ? { kind: 'delivered', answer: body } : outcomeOf(body as ProblemBody);
}

/** Where a sending is cut. */
const cuts = ['none', 'before', 'answerLost', 'pageKilled', 'serverKilled'] as const;
type Cut = (typeof cuts)[number];

const forgetAnswer = (key: string) =>
  test_.db.sequelize.query(`update idempotency set status = null, answer = null where key = $1`, {
    bind: [key],
  });
/** What the real handlers say of those that are sent, one alone or several together. */
async function answered(items: readonly Queued[]): Promise<Outcome[]> {
  if (items.length === 1) return [await outcome(await post(items[0]!))];
  const writes = items.map(({ key, kind, params, body, device, person }) => ({
    key,
    kind,
    params,
    body,
    device,
    person: person.id,
  }));
  const response = await call({
    method: 'POST',
    path: 'v1/field-writes',
    role: 'technician',
    body: { writes },
  });
  const { outcomes } = (await response.json()) as TakenTogether;
  return outcomes.map((o) =>
    'problem' in o ? outcomeOf(o.problem) : { kind: 'delivered', answer: o.answer },
  );
}

let together = 0;
async function sendCut(items: readonly Queued[], cut: Cut): Promise<Outcome[]> {
  if (cut === 'before') return [outcomeOf(away)];
  const outcomes = await answered(items);
  if (items.length > 1) together++;
  if (cut === 'answerLost') return [outcomeOf(away)];
  if (cut === 'pageKilled') throw new Error('killed');
  if (cut === 'serverKilled') {
    for (const { key } of items) await forgetAnswer(key);
    return [outcomeOf(away)];
  }
  return outcomes;
}

/** A page that opens, sends what it finds, and goes away. */
async function page(next: () => Cut): Promise<void> {
  const db = await openOutbox();
  await deliver(storeOn(db), bench.people.technician.id, (items) => sendCut(items, next())).catch(
    (error: Error) => {
      if (error.message !== 'killed') throw error;
    },
  );
  db.close();
}

const visits = thorough(200, 80);
test(`${visits} visits cut at seeded points of page, network and server: nothing lost, nothing twice, in order`, async () => {
  const made: NewQueued[] = [];
  let killed = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          act: fc.nat(acts.length - 1),
          cuts: fc.array(fc.constantFrom(...cuts), { minLength: 1, maxLength: 3 }),
        }),
        {
          minLength: 1,
          maxLength: 4,
        },
      ),
      async (visit) => {
        for (const step of visit) {
          const item = acts[step.act]!();
          made.push(item);
          const db = await openOutbox();
          await storeOn(db).add(item);
          db.close();
          const left = [...step.cuts];
          await page(() => {
            const cut = left.shift() ?? 'before';
            if (cut !== 'none' && cut !== 'before') killed++;
            return cut;
          });
        }
        await page(() => 'none');
        await page(() => 'none');
        const db = await openOutbox();
        expect((await storeOn(db).all()).map((i) => [i.kind, i.problem])).toEqual([]);
        db.close();
      },
    ),
    { numRuns: visits, seed: 11 },
  );
  const lines = await rows(test_.db.fieldBook, {
    where: { stationId: bench.stationId, personId: bench.people.technician.id },
    order: [['recordedAt', 'ASC']],
  });
  const kept = lines.filter((l) => l.actKey);
  expect(kept.map((l) => l.actKey).sort()).toEqual(made.map((m) => m.key).sort());
  // The order in which the server heard of them is that of the acts.
  const heard = [...kept].sort((a, b) => +a.recordedAt - +b.recordedAt || +a.occurredAt - +b.occurredAt);
  expect(heard.map((l) => l.actKey)).toEqual(made.map((m) => m.key));
  const count = async (what: string) =>
    (await query<{ n: number }>(test_.db, `select count(*)::int n from ${what}`))[0]!.n;
  const of = (kind: FieldWriteKind) => made.filter((m) => m.kind === kind).length;
  expect(await count('photograph')).toBe(of('photograph'));
  expect(await count('check_reading')).toBe(of('checkReading'));
  expect(killed).toBeGreaterThan(visits);
  expect(together).toBeGreaterThan(visits / 4);
});

const one = async (item: NewQueued): Promise<Queued> => ({ ...item, seq: 1 });
const sendOne = async (item: NewQueued, more = {}) => outcome(await post(await one(item), more));

test('together: up to the first that is not taken, and what stands behind it is not looked at', async () => {
  const sent = [
    note('before it'),
    { ...note('without a key'), params: { stationId: 'x' } },
    note('behind it'),
  ];
  const items = sent.map((item, seq) => ({ ...item, seq }));
  expect(await answered(items)).toMatchObject([
    { kind: 'delivered' },
    { kind: 'refused', problem: { code: 'not-found' } },
  ]);
  const texts = (await rows(test_.db.fieldBook, { where: { kind: 'note' } })).map((l) => l.text);
  expect(texts).toContain('before it');
  expect(texts).not.toContain('behind it');
  expect(await answered(items.slice(0, 1))).toMatchObject([{ kind: 'delivered' }]);
});
test('two people and two devices: who is second is told what is there, and can keep it as a note', async () => {
  if (isOff) await sendOne(acts[1]!());
  const begin = (who: string) =>
    act('offLineBegin', (occurredAt) => ({ reason: `leads off, ${who}`, occurredAt }), {
      installationId: ids.installationId,
    });
  expect((await sendOne(begin('first'))).kind).toBe('delivered');
  const second = await sendOne(begin('second'));
  expect(second).toMatchObject({
    kind: 'refused',
    problem: {
      code: 'already-off-line',
      extra: { there: { by: 'IK', says: 'off-line: leads off, first', until: null } },
    },
  });
  const end = () =>
    act('offLineEnd', (occurredAt) => ({ occurredAt }), { installationId: ids.installationId });
  expect((await sendOne(end())).kind).toBe('delivered');
  expect(await sendOne(end())).toMatchObject({
    kind: 'refused',
    problem: { code: 'not-off-line', extra: { there: { until: expect.stringMatching(/Z$/) } } },
  });
  isOff = false;
});
test('whose act it was: another who signs in on the device does not send it as theirs', async () => {
  const item = note('of somebody else');
  expect(await sendOne(item, { [actingPersonHeader]: bench.people.reviewer.id })).toMatchObject({
    kind: 'signed-out',
    problem: { code: 'other-person' },
  });
  expect((await sendOne(item)).kind).toBe('delivered');
});
test('before the right is asked: what is another’s waits, and is not refused for what this one may not do', async () => {
  const item = await one(acts[2]!());
  const write = fieldWrites[item.kind];
  const response = await call({
    method: write.method,
    path: write.path,
    role: 'viewer',
    params: { ...item.params },
    body: item.body,
    headers: { 'idempotency-key': item.key, [actingPersonHeader]: item.person.id },
  });
  expect((await outcome(response)).kind).toBe('signed-out');
});
test('a person who lost the right: refused by name', async () => {
  const item = await one(acts[2]!());
  const write = fieldWrites[item.kind];
  const response = await call({
    method: write.method,
    path: write.path,
    role: 'reviewer',
    params: { ...item.params },
    body: item.body,
    headers: { 'idempotency-key': item.key },
  });
  expect(await outcome(response)).toMatchObject({ kind: 'refused', problem: { status: 403 } });
});
test('every answer says the time; both clocks are kept; a clock that says nothing is refused', async () => {
  const at = later();
  const item = {
    ...note('by a tablet a year ahead'),
    device: { at: '2027-11-26T10:00:00.000Z', ahead: 31_536_000 },
  };
  const response = await post(await one({ ...item, body: { ...item.body, occurredAt: at } as never }));
  expect(response.status).toBe(201);
  expect(Math.abs(Number(response.headers.get('server-time')) - Date.now())).toBeLessThan(5_000);
  const [line] = await rows(test_.db.fieldBook, { where: { actKey: item.key } });
  expect(line).toMatchObject({
    occurredAt: new Date(at),
    deviceAt: new Date('2027-11-26T10:00:00.000Z'),
    deviceAhead: 31_536_000,
  });
  expect(await sendOne(note('x'), { [deviceTimeHeader]: 'yesterday' })).toMatchObject({
    kind: 'refused',
    problem: { code: 'bad-device-time', field: 'Device-Time' },
  });
});
