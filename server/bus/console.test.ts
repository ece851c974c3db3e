import { query, row, rows } from '@/db/database';
import type { SerialSettings } from '@/core/bus/serial';
import { busSerial } from '@/simulator/scenario';
import { bookTexts, present, refusal } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { lofted, makeLofts, type Lofts } from '@/test/lofts';
import type { ScanView } from '@/contract/busViews';
import { settleAction } from '../device/settle';
import { talk } from '../device/talk';
import { newId } from '../id';
import { cancelOperation, operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { readBus, scanBus } from './console';
import { consoleView } from './consoleView';
import { beginLineSession, closeOverdueSessions, endLineSession } from './session';
import { changeBusId, setBusSerial, writeBus } from './write';

/** Talking on a line in the logger's place: who is master, what is marked, what is written and read back. */
let test_: TestDatabase;
let lofts: Lofts;
let minutes = 0;
beforeAll(async () => {
  test_ = await testDatabase();
  lofts = await makeLofts(test_.db);
});
afterAll(async () => {
  await lofts.close();
  await test_.close();
});
beforeEach(() => {
  lofts.mendAll();
  minutes += 60;
});
const S = () => lofts.stationId;
const now = () => present + minutes * 60_000;
const acting = (who: 'technician' | 'second' = 'technician') => lofts.at(now(), who);
const hold = async (more: { master?: 'held' | 'lifted'; outputsInHand?: boolean } = {}) => {
  const sessionId = newId();
  const begun = await beginLineSession(acting(), S(), {
    sessionId,
    actionId: newId(),
    portId: lofts.portId,
    master: 'held',
    outputsInHand: false,
    minutes: 30,
    ...more,
  });
  return { ...begun, sessionId };
};
const giveBack = (sessionId: string, givenBack = true) =>
  endLineSession(acting(), S(), sessionId, { actionId: newId(), givenBack });
const openWindows = () =>
  query<{ n: number }>(
    test_.db,
    `select count(*)::int as n from active_layer where station_id = :s and kind = 'off-line' and until_at is null`,
    { s: S() },
  ).then(([r]) => r!.n);

describe('who is master', () => {
  test('held: the logger says so, all channels of the line are off-line, given back they are on-line', async () => {
    const { sessionId, state, says } = await hold();
    expect({ state, says }).toEqual({ state: 'done', says: 'the logger holds its polling for 30 min' });
    expect(await openWindows()).toBe(6);
    expect((await consoleView(test_.db, S(), new Date(now()))).lines[0]).toMatchObject({
      setsSerial: true,
      session: { id: sessionId, initials: 'IK', over: false },
      devices: [{ busId: 1 }, { busId: 2 }, { busId: 3 }],
    });
    expect(await giveBack(sessionId)).toEqual({ state: 'done', says: 'the logger polls its line' });
    expect(await openWindows()).toBe(0);
    expect(await giveBack(sessionId)).toMatchObject({ state: 'done' });
  });
  test('a window that somebody had open before stays open after', async () => {
    const { beginOffLine, endOffLine } = await import('../device/offLine');
    const [first] = lofts.installations;
    const occurredAt = new Date(now()).toISOString();
    await beginOffLine(acting(), S(), first!, { reason: 'leads off', occurredAt });
    const { sessionId } = await hold();
    await giveBack(sessionId);
    expect(await openWindows()).toBe(2);
    minutes += 1;
    await endOffLine(acting(), S(), first!, { occurredAt: new Date(now()).toISOString() });
  });
  test('two people on one line: the second is told who holds it, and since when', async () => {
    const { sessionId } = await hold();
    const said = await refusal(
      beginLineSession(acting('second'), S(), {
        sessionId: newId(),
        actionId: newId(),
        portId: lofts.portId,
        master: 'lifted',
        outputsInHand: false,
        minutes: 5,
      }),
    );
    expect(said).toMatchObject({ code: 'line-held', detail: expect.stringMatching(/^IK holds this line/) });
    await giveBack(sessionId);
  });
  test('a lifted pair, outputs in hand: not ended before somebody says that they are back', async () => {
    const { sessionId } = await hold({ master: 'lifted', outputsInHand: true });
    expect(await refusal(giveBack(sessionId, false))).toMatchObject({ code: 'not-given-back' });
    // It does not end by itself: the pair is lifted until somebody puts it back.
    minutes += 120;
    await closeOverdueSessions(test_.db);
    expect((await row(test_.db.lineSession, { where: { id: sessionId } }))!.endedAt).toBeNull();
    expect(await giveBack(sessionId)).toMatchObject({ state: 'done' });
  });
  test('forgotten: the logger goes on by itself, and the windows end when it did', async () => {
    minutes -= 600_000;
    const { sessionId } = await hold();
    await closeOverdueSessions(test_.db);
    const session = (await row(test_.db.lineSession, { where: { id: sessionId } }))!;
    expect(session.endedAt).toEqual(session.untilAt);
    expect(await openWindows()).toBe(0);
    expect((await bookTexts(test_.db, S())).some((t) => /Nobody gave the line back in time/.test(t))).toBe(
      true,
    );
    expect(
      await refusal(
        readBus(acting(), S(), sessionId, { actionId: newId(), unit: 1, fn: 3, address: 0, count: 1 }),
      ),
    ).toMatchObject({ code: 'line-not-held' });
    minutes += 600_000;
  });
  test('a logger that cannot be reached holds nothing, and nothing is marked', async () => {
    const port = lofts.logger.ownPort;
    await test_.arrange(`update logger set address = '127.0.0.1:${port + 7}' where station_id = $1`, [S()]);
    const { state } = await hold();
    expect(state).toBe('failed');
    expect(await openWindows()).toBe(0);
    await test_.arrange(`update logger set address = '127.0.0.1:${port}' where station_id = $1`, [S()]);
  });
  test('held, the logger shows nothing for the line', async () => {
    const { sessionId } = await hold();
    const live = (await (await fetch(`http://127.0.0.1:${lofts.logger.ownPort}/live`)).json()) as {
      channels: { value: number | null }[];
    };
    expect(live.channels.every((c) => c.value === null)).toBe(true);
    await giveBack(sessionId);
  });
});

describe('talking', () => {
  let sessionId: string;
  beforeEach(async () => ({ sessionId } = await hold()));
  afterEach(() => giveBack(sessionId));

  test('registers of whoever has an ID; silence and refusals in words', async () => {
    const ask = (unit: number, fn: 3 | 4, address: number) =>
      readBus(acting(), S(), sessionId, { actionId: newId(), unit, fn, address, count: 1 });
    expect(await ask(2, 3, 40)).toMatchObject({ says: 'answered', registers: [2] });
    expect(await ask(2, 4, 500)).toMatchObject({ says: 'illegal data address (code 2)', registers: [] });
    expect((await ask(99, 3, 0)).says).toMatch(/^no answer: nothing came within/);
  });
  test('a question sent twice under its id is asked once', async () => {
    const actionId = newId();
    const request = { actionId, unit: 1, fn: 3 as const, address: 40, count: 1 };
    expect(await readBus(acting(), S(), sessionId, request)).toEqual(
      await readBus(acting(), S(), sessionId, request),
    );
    expect(await rows(test_.db.deviceAction, { where: { id: actionId } })).toHaveLength(1);
  });
  test('a write is called written when it was read back; a refusal says that nothing happened', async () => {
    const write = (address: number, value: number) =>
      writeBus(acting(), S(), sessionId, { actionId: newId(), unit: 3, address, values: [value] });
    expect(await write(40, 3)).toMatchObject({ state: 'done', says: 'read back equal' });
    expect(await write(7, 1)).toMatchObject({
      state: 'failed',
      says: 'not written: illegal data address (code 2)',
    });
  });
  test('another ID: what hangs there moves with it, and its channels are staged for the logger', async () => {
    const change = (from: number, to: number) =>
      changeBusId(acting(), S(), sessionId, { actionId: newId(), from, to, register: 40, storeRegister: 41 });
    expect(await change(3, 9)).toMatchObject({ state: 'done' });
    const graph = await loadStation(test_.db, S());
    const moved = graph.installations.find((i) => i.sensor.serial === lofted[2])!;
    expect(moved.row.busId).toBe(9);
    const its = graph.channels.filter((c) => c.installation?.row.id === moved.row.id);
    expect(its.every((c) => c.staged !== null)).toBe(true);
    // Kept for good: a power cycle does not bring the old one back.
    lofts.powerCycle(lofted[2]);
    expect(lofts.logger.sensors[2]!.busId).toBe(9);
    expect(await change(9, 3)).toMatchObject({ state: 'done' });
  });
  test('an ID that is taken, on file or on the line, is refused, and nothing is written', async () => {
    const change = (from: number, to: number) =>
      changeBusId(acting(), S(), sessionId, {
        actionId: newId(),
        from,
        to,
        register: 40,
        storeRegister: null,
      });
    expect(await refusal(change(1, 2))).toMatchObject({
      code: 'id-in-use',
      detail: 'ID 2 is that of TH4-0312 on this line.',
    });
    // K2-0071 hangs at 4, and nobody put it on file.
    expect(await change(1, 4)).toMatchObject({
      state: 'failed',
      says: 'somebody answers at ID 4 already: nothing was written',
    });
    expect(lofts.logger.sensors[0]!.busId).toBe(1);
  });
  test('speed and parity by register: asked at the new ones, kept, and the logger hears it no more', async () => {
    const set = (to: SerialSettings) =>
      setBusSerial(acting(), S(), sessionId, {
        actionId: newId(),
        installationId: lofts.installations[1]!,
        to,
      });
    const other = { ...busSerial, baud: 9600, parity: 'none' as const };
    expect(await set(other)).toMatchObject({ state: 'done', says: 'read back equal' });
    lofts.powerCycle(lofted[1]);
    expect(lofts.logger.sensors[1]!.serialSettings).toEqual(other);
    expect(await set(busSerial)).toMatchObject({ state: 'unknown' });
    lofts.wrong({ serialSettings: busSerial }, lofted[1]);
    const [open] = await rows(test_.db.deviceAction, { where: { stationId: S(), state: 'unknown' } });
    expect(await settleAction(acting(), S(), open!.id)).toMatchObject({ state: 'done' });
    expect(await refusal(set({ ...busSerial, stopBits: 2 }))).toMatchObject({
      field: 'to',
      remedy: 'It has 8 data bits and 1 stop bit.',
    });
  });
  test('the device vanished in the middle: unknown, nothing else is written, settled when it is back', async () => {
    // It answers the write, and nothing after.
    lofts.logger.busFault = { kind: 'silent', left: 1 };
    const actionId = newId();
    const taking = writeBus(acting(), S(), sessionId, { actionId, unit: 2, address: 40, values: [2] });
    lofts.logger.busFault = { kind: 'silent', left: 9 };
    expect(await taking).toMatchObject({ state: 'unknown' });
    const again = writeBus(acting(), S(), sessionId, {
      actionId: newId(),
      unit: 1,
      address: 40,
      values: [1],
    });
    expect(await refusal(again)).toMatchObject({ code: 'write-running' });
    expect(await refusal(settleAction(acting(), S(), actionId))).toMatchObject({ code: 'still-unknown' });
    lofts.logger.busFault = null;
    expect(await settleAction(acting(), S(), actionId)).toMatchObject({ state: 'done', says: 'it holds 2' });
  });
  test('a scan finds who is there and who is missing, by what is on file', async () => {
    lofts.wrong({ busId: 6 }, lofted[1]);
    const id = newId();
    const { done } = await scanBus(acting(), S(), sessionId, {
      operationId: id,
      from: 1,
      to: 8,
      timeOut: 60,
    });
    await done;
    expect((await operationView(test_.db, id)).result).toEqual({
      from: 1,
      to: 8,
      hits: [
        { id: 1, heard: 'answer', late: false, serial: lofted[0] },
        { id: 3, heard: 'answer', late: false, serial: lofted[2] },
        { id: 4, heard: 'answer', late: false, serial: null },
        { id: 6, heard: 'answer', late: false, serial: null },
      ],
      silent: [{ id: 2, serial: lofted[1] }],
    });
  });
  test('a scan that is stopped half-way keeps what it found', async () => {
    const id = newId();
    const { done } = await scanBus(acting(), S(), sessionId, {
      operationId: id,
      from: 1,
      to: 247,
      timeOut: 200,
    });
    await new Promise((r) => setTimeout(r, 1500));
    await cancelOperation(test_.db, id);
    await done;
    const view = await operationView(test_.db, id);
    expect(view).toMatchObject({ state: 'cancelled', message: 'Cancelled; what was found so far stands.' });
    expect((view.result as ScanView).hits.map((h) => h.id)).toEqual([1, 2, 3, 4]);
  });
  test('a range the wrong way round, and a gateway that translates, are refused in words', async () => {
    const scan = () =>
      scanBus(acting(), S(), sessionId, { operationId: newId(), from: 9, to: 3, timeOut: 60 });
    expect(await refusal(scan())).toMatchObject({ field: 'from', detail: 'IDs 9 to 3 are no range.' });
  });
  test('who only talks to one sensor through the gateway still may, and is heard at the line’s own speed', async () => {
    lofts.logger.gatewaySerial = { baud: 4800, dataBits: 8, parity: 'none', stopBits: 1 };
    const said = await talk(acting(), S(), { actionId: newId(), installationId: lofts.installations[1]! });
    expect(said.fault).toBeNull();
  });
});
