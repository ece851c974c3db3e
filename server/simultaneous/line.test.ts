import { row } from '@/db/database';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { present, refusal } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { lofted, makeLofts, type Lofts } from '@/test/lofts';
import { readBus, scanBus } from '../bus/console';
import { keepDirect } from '../bus/direct';
import { mendRecovery } from '../bus/mend';
import { beginRecovery, endRecovery, stepRecovery } from '../bus/recovery';
import { workRecovery } from '../bus/recoveryWork';
import { beginLineSession, endLineSession } from '../bus/session';
import { changeBusId, setBusSerial, writeBus } from '../bus/write';
import type { Context } from '../context';
import { newId } from '../id';
import { practise, practiceView } from '../practice/stand';

/** The same of talking on a line. */
let test_: TestDatabase;
let lofts: Lofts;
let sessionId = newId();
let minutes = 0;
beforeAll(async () => {
  test_ = await testDatabase();
  lofts = await makeLofts(test_.db);
});
afterAll(async () => {
  await lofts.close();
  await test_.close();
});
const S = () => lofts.stationId;
const at = () => lofts.at(present + minutes * 60_000);
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(at, act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: S() }));
const begin = (ctx: Context, id: string, actionId = newId()) =>
  beginLineSession(ctx, S(), {
    sessionId: id,
    actionId,
    portId: lofts.portId,
    master: 'held',
    outputsInHand: false,
    minutes: 60,
  });

test('six hold one line: one does, the others are told who, or that the line is busy', async () => {
  const ids = Array.from({ length: 6 }, () => newId());
  const said = told(await six((ctx, n) => begin(ctx, ids[n]!)));
  expect(said.done).toBe(1);
  expect(['line-held', 'write-running']).toEqual(expect.arrayContaining(said.codes));
  expect(await count('line_session where station_id = :s')).toBe(1);
  expect(await count(`layer where station_id = :s and kind = 'off-line'`)).toBe(6);
  sessionId = (await row(test_.db.lineSession, { where: { stationId: S() } }))!.id;
});
test('six keep what one of them said on a port of their own: one line', async () => {
  const lineId = newId();
  const said = told(
    await six((ctx) =>
      keepDirect(ctx, S(), {
        lineId,
        occurredAt: new Date(present).toISOString(),
        kind: 'read',
        says: 'ID 1: 2242',
        frames: [{ direction: 'sent', hex: '01 04', after: 0 }],
      }),
    ),
  );
  expect(said).toEqual({ done: 6, codes: [] });
  expect(await audited('direct.read')).toBe(1);
});
test('six questions on the line: each its own answer; one sent six times is asked once', async () => {
  const read = (ctx: Context, actionId: string) =>
    readBus(ctx, S(), sessionId, { actionId, unit: 1, fn: 3, address: 40, count: 1 });
  const said = told(await six((ctx) => read(ctx, newId())));
  expect(said.done).toBeGreaterThan(0);
  expect(await audited('line.read')).toBe(said.done);
  const same = newId();
  told(await six((ctx) => read(ctx, same)));
  expect(await count(`device_action where id = '${same}'`)).toBe(1);
});
test('six write: one after the other or told that one is under way; six changes of an ID are one', async () => {
  const said = told(
    await six((ctx) =>
      writeBus(ctx, S(), sessionId, { actionId: newId(), unit: 2, address: 40, values: [2] }),
    ),
  );
  expect(said.done).toBeGreaterThan(0);
  expect(['write-running', 'line-busy']).toEqual(expect.arrayContaining(said.codes));
  const moved = await six((ctx) =>
    changeBusId(ctx, S(), sessionId, { actionId: newId(), from: 3, to: 9, register: 40, storeRegister: 41 }),
  );
  expect(
    moved.filter((m) => m.status === 'fulfilled' && (m.value as { state: string }).state === 'done'),
  ).toHaveLength(1);
  expect(lofts.logger.sensors.map((s) => s.busId)).toEqual([1, 2, 9, 4]);
  expect(await count(`installation where station_id = :s and bus_id = 9`)).toBe(1);
  await changeBusId(at(), S(), sessionId, {
    actionId: newId(),
    from: 9,
    to: 3,
    register: 40,
    storeRegister: 41,
  });
});
test('six set speed and parity: never two under way at once', async () => {
  const said = told(
    await six((ctx) =>
      setBusSerial(ctx, S(), sessionId, {
        actionId: newId(),
        installationId: lofts.installations[1]!,
        to: lofts.logger.busSerial,
      }),
    ),
  );
  expect(said.done).toBeGreaterThan(0);
  expect(['write-running', 'line-busy']).toEqual(expect.arrayContaining(said.codes));
});
test('six scans are one', async () => {
  const begun: Promise<void>[] = [];
  const said = told(
    await six(async (ctx) => {
      const { done } = await scanBus(ctx, S(), sessionId, {
        operationId: newId(),
        from: 1,
        to: 6,
        timeOut: 60,
      });
      begun.push(done);
    }),
  );
  expect(said).toEqual({ done: 1, codes: ['already-running'] });
  await Promise.all(begun);
});

describe('a search', () => {
  let recoveryId: string;
  test('begun by six it is one search of all', async () => {
    const found = await six((ctx) =>
      beginRecovery(ctx, S(), { recoveryId: newId(), installationId: lofts.installations[0]! }),
    );
    const ids = found.map((f) =>
      f.status === 'fulfilled' ? (f.value as { recoveryId: string }).recoveryId : '',
    );
    expect(new Set(ids).size).toBe(1);
    recoveryId = ids[0]!;
  });
  test('a step by six is one step, and the others are told that somebody went on', async () => {
    const said = told(
      await six((ctx) =>
        stepRecovery(ctx, S(), recoveryId, { number: 1, done: { step: 'idle', volts: 0.3 } }),
      ),
    );
    expect(said).toEqual({ done: 1, codes: ['search-went-on'] });
    expect(await count('recovery_step where station_id = :s')).toBe(1);
  });
  test('long work by six is one, and what six put right is put right once', async () => {
    lofts.wrong({ serialSettings: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 } });
    const begun: Promise<void>[] = [];
    const worked = told(
      await six(async (ctx) => {
        const { done } = await workRecovery(ctx, S(), recoveryId, {
          operationId: newId(),
          number: 2,
          step: 'speeds',
        });
        begun.push(done);
      }),
    );
    expect(worked).toEqual({ done: 1, codes: ['already-running'] });
    await Promise.all(begun);
    const said = told(
      await six((ctx) => mendRecovery(ctx, S(), recoveryId, { actionId: newId(), number: 3 })),
    );
    expect(said.done).toBeGreaterThan(0);
    expect(await count('recovery_step where station_id = :s')).toBe(3);
    expect(lofts.logger.sensors[0]!.serialSettings.baud).toBe(19_200);
  });
  test('ended by six it ends once', async () => {
    expect(told(await six((ctx) => endRecovery(ctx, S(), recoveryId))).done).toBe(6);
    expect(await audited('recovery.end')).toBe(1);
  });
});

describe('the practice stand', () => {
  beforeAll(() => (process.env.PRACTICE_STAND = lofts.lab));
  afterAll(() => delete process.env.PRACTICE_STAND);
  test('six turn its screws at once: all are turned, and it stands as the last one left it', async () => {
    const faults = ['swapped', 'open', 'dark', 'supply', 'dead', 'sound'] as const;
    const said = told(await six((ctx, n) => practise(ctx, { serial: lofted[1], fault: faults[n]! })));
    expect(said).toEqual({ done: 6, codes: [] });
    await practise(at(), { serial: lofted[1], fault: 'sound' });
    await practise(at(), { serial: lofted[1], fault: 'swapped' });
    const [line] = (await practiceView(at())).lines;
    expect(line!.sensors[1]).toMatchObject({ serial: lofted[1], wrong: ['pair swapped'], idle: -0.31 });
    await practise(at(), { serial: lofted[1], fault: 'sound' });
    expect((await practiceView(at())).lines[0]!.sensors.flatMap((s) => s.wrong)).toEqual([]);
  });
  test('a sensor it has not is named, and nothing is turned', async () => {
    expect(await refusal(practise(at(), { serial: 'X-1', fault: 'dead' }))).toMatchObject({
      field: 'serial',
      detail: 'The stand has no sensor X-1 on a serial line.',
    });
  });
});

test('given back by six it is given back once', async () => {
  minutes += 5;
  told(await six((ctx) => endLineSession(ctx, S(), sessionId, { actionId: newId(), givenBack: true })));
  expect(await audited('line.give-back')).toBe(1);
  expect(await count(`active_layer where station_id = :s and kind = 'off-line' and until_at is null`)).toBe(
    0,
  );
});
