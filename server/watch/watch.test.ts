import { query, rows } from '@/db/database';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { arrive, humid, newRule, waitingJobs } from '@/test/watch';
import { newId } from '../id';
import { beginOffLine, endOffLine } from '../device/offLine';
import { acknowledgeAlarm, alarmEvents, alarmsView, endShelf, shelveAlarms } from './alarms';
import { boardView } from './board';
import { channelWatch } from './channelView';
import { evaluateStations } from './evaluate';
import { rehearseHere } from './recorded';
import { setWatchRule } from './rules';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
/** Minutes after the present. */
const at = (m: number) => present + m * minute;
const look = (m: number) => evaluateStations(test_.db, [bench.stationId], at(m));
const come = async (m: number, ...values: (readonly [m: number, value: number])[]) => {
  await arrive(bench.at(at(m)), bench.stationId, {
    [ids.humidity]: values.map(([s, v]) => [at(s), v] as const),
  });
  return look(m);
};
const alarms = async (m: number) => {
  const { standing, past } = await alarmsView(test_.db, new Date(at(m)), { stationId: bench.stationId });
  return { standing, past, all: [...standing, ...past] };
};
let rule: string | null = null;
const set = async (m: number, change: Parameters<typeof newRule>[0] = {}) => {
  const request = newRule({ basedOn: rule, ...change });
  await setWatchRule(bench.at(at(m)), bench.stationId, ids.humidity, request);
  rule = request.ruleId;
};

describe('watching what arrives', () => {
  test('nothing rings for what was there before; the next value does', async () => {
    await come(-20, [-20, 70]);
    await set(-10);
    expect(await look(-9)).toBe(0);
    expect((await alarms(-9)).all).toEqual([]);
    await come(1, [-5, 60], [0, 71]);
    const [alarm] = (await alarms(1)).standing;
    expect(alarm).toMatchObject({
      cause: 'limits',
      level: 1,
      says: 'too high, 71.0 %RH (limit 65.0)',
      beganAt: new Date(at(0)).toISOString(),
      raisedAt: new Date(at(1)).toISOString(),
      returnedAt: null,
      acknowledged: null,
    });
    expect(await look(2)).toBe(0);
    expect((await alarms(2)).all).toHaveLength(1);
  });
  test('worse, eased and over are turns of one alarm, told in order', async () => {
    await come(11, [10, 84]);
    await come(21, [20, 70], [21, 61]);
    const { standing } = await alarms(22);
    expect(standing).toHaveLength(1);
    expect(standing[0]).toMatchObject({
      worst: 2,
      peak: 84,
      ended: 'back',
      returnedAt: new Date(at(21)).toISOString(),
    });
    const events = await alarmEvents(test_.db, bench.stationId, standing[0]!.id);
    expect(events.map((e) => [e.kind, e.by])).toEqual([
      ['raised', 'its rule'],
      ['worse', 'its rule'],
      ['eased', 'its rule'],
      ['returned', 'its rule'],
    ]);
  });
  test('what is over waits for whoever acknowledges it, once', async () => {
    const { standing } = await alarms(22);
    const ctx = bench.at(at(23), bench.people.reviewer);
    await acknowledgeAlarm(ctx, bench.stationId, standing[0]!.id, { reason: 'door stood open' });
    const after = await alarms(24);
    expect([after.standing.length, after.past.length]).toEqual([0, 1]);
    expect(after.past[0]!.acknowledged).toMatchObject({ by: 'MO', reason: 'door stood open' });
    expect(
      await refusal(acknowledgeAlarm(ctx, bench.stationId, standing[0]!.id, { reason: 'again' })),
    ).toMatchObject({
      code: 'acknowledged-already',
    });
    expect(await refusal(acknowledgeAlarm(ctx, bench.stationId, newId(), { reason: 'again' }))).toMatchObject(
      {
        status: 404,
      },
    );
  });
  test('of ten thousand late values nothing rings, and a later rehearsal says why', async () => {
    const late = Array.from({ length: 400 }, (_, i) => [25 + i * 0.05, i % 5 === 0 ? 90 : 60] as const);
    await come(600, ...late);
    expect((await alarms(601)).standing).toEqual([]);
    const played = await rehearseHere(bench.at(at(601)), bench.stationId, ids.humidity, {
      rule: humid(),
      from: new Date(at(24)).toISOString(),
      until: new Date(at(700)).toISOString(),
      asArrived: true,
    });
    expect(played.rings).toEqual([]);
    expect(played.missed[0]).toMatchObject({ why: 'late', peak: 90 });
  });
  test('while its sensor is off-line nothing is compared', async () => {
    const request = { reason: 'strip pulled', occurredAt: new Date(at(610)).toISOString() };
    await beginOffLine(bench.at(at(610)), bench.stationId, ids.installationId, request);
    await come(620, [612, 95], [615, 95]);
    expect((await alarms(620)).standing).toEqual([]);
    const board = await boardView(test_.db, new Date(at(620)));
    expect(board.channels[0]).toMatchObject({ offLine: true, value: 95, at: at(615), arrived: at(620) });
    await endOffLine(bench.at(at(622)), bench.stationId, ids.installationId, {
      occurredAt: new Date(at(622)).toISOString(),
    });
    await come(640, [621, 95], [630, 95]);
    expect((await alarms(640)).standing[0]).toMatchObject({
      beganAt: new Date(at(630)).toISOString(),
      level: 2,
    });
  });
  test('a changed rule goes on with what rings; a disarmed one ends it', async () => {
    await set(641, { rule: humid({ limits: { farLow: null, low: 35, high: 60, farHigh: 85 } }) });
    expect((await alarms(641)).standing[0]).toMatchObject({ returnedAt: null });
    await set(642, { armed: false });
    const [ended] = (await alarms(642)).standing;
    expect(ended).toMatchObject({ ended: 'rule' });
    const events = await alarmEvents(test_.db, bench.stationId, ended!.id);
    expect(events.at(-1)).toMatchObject({ kind: 'ended', by: 'IK', says: 'watching was switched off' });
    await come(650, [645, 99]);
    expect((await alarms(650)).standing).toHaveLength(1);
  });
  test('a rule based on another than the one in force is refused, and so is one that cannot stand', async () => {
    const ctx = bench.at(at(651));
    expect(await refusal(setWatchRule(ctx, bench.stationId, ids.humidity, newRule()))).toMatchObject({
      code: 'changed-meanwhile',
    });
    const bad = newRule({ basedOn: rule, rule: humid({ hysteresis: 40 }) });
    expect(await refusal(setWatchRule(ctx, bench.stationId, ids.humidity, bad))).toMatchObject({
      code: 'rule-fault',
      field: 'hysteresis',
    });
    const { rules, proved, loggers, latency } = await channelWatch(ctx, bench.stationId, ids.humidity);
    expect(rules.map((r) => [r.number, r.armed])).toEqual([
      [3, false],
      [2, true],
      [1, true],
    ]);
    expect([proved, loggers?.high, latency !== null]).toEqual(['never', null, true]);
  });
});

describe('silence', () => {
  test('rings when it is due, whenever somebody looks, and is over with the next value', async () => {
    await set(652, { rule: humid({ silentAfter: 1800 }) });
    await come(661, [660, 50]);
    const [due] = await query<{ at: Date }>(test_.db, 'select silent_at as at from watch_state');
    expect(due!.at.getTime()).toBe(at(690));
    await look(689);
    expect((await alarms(689)).standing.filter((a) => a.cause === 'silent')).toEqual([]);
    await look(695);
    expect((await alarms(695)).standing[0]).toMatchObject({
      cause: 'silent',
      raisedAt: new Date(at(690)).toISOString(),
      says: 'no value for 30 min: the newest is stamped 2026-03-02 21:00 UTC',
    });
    await come(701, [700, 50]);
    expect((await alarms(701)).standing[0]).toMatchObject({ cause: 'silent', ended: 'back' });
  });
  test('of two channels that fall silent together it is one matter, acknowledged once', async () => {
    await setWatchRule(bench.at(at(702)), bench.stationId, ids.temperature, {
      ...newRule({
        rule: {
          ...humid({ silentAfter: 1800 }),
          limits: { farLow: null, low: 2, high: null, farHigh: null },
        },
      }),
    });
    await arrive(bench.at(at(711)), bench.stationId, {
      [ids.humidity]: [[at(710), 50]],
      [ids.temperature]: [[at(710), 20]],
    });
    await look(711);
    await look(760);
    const silent = (await alarms(760)).standing.filter((a) => a.cause === 'silent' && a.returnedAt === null);
    expect(silent).toHaveLength(2);
    expect(new Set(silent.map((s) => s.groupId)).size).toBe(1);
    const done = await acknowledgeAlarm(bench.at(at(761)), bench.stationId, silent[0]!.id, {
      reason: 'mast is down',
    });
    expect(done).toEqual({ acknowledged: 2 });
  });
});

describe('shelving', () => {
  const until = (m: number) => new Date(at(m)).toISOString();
  test('has an end, and a reason; alarms are raised all the same', async () => {
    const shelve = (m: number, end: number) =>
      shelveAlarms(bench.at(at(m)), bench.stationId, ids.humidity, {
        shelfId: newId(),
        until: until(end),
        reason: 'painting',
      });
    expect(await refusal(shelve(800, 799))).toMatchObject({ code: 'bad-shelf', field: 'until' });
    expect(await refusal(shelve(800, 800 + 31 * 1440))).toMatchObject({ code: 'bad-shelf' });
    await shelve(800, 900);
    expect(await refusal(shelve(801, 950))).toMatchObject({ code: 'shelved-already' });
    await come(811, [810, 90]);
    const [alarm] = (await alarms(812)).standing;
    expect(alarm).toMatchObject({ level: 2, shelvedUntil: until(900) });
    const board = await boardView(test_.db, new Date(at(812)));
    const mine = board.channels.find((c) => c.channelId === ids.humidity)!;
    expect(mine).toMatchObject({ shelvedUntil: until(900), ringing: [{ level: 2, acknowledged: false }] });
    await endShelf(bench.at(at(820)), bench.stationId, ids.humidity);
    expect(await refusal(endShelf(bench.at(at(821)), bench.stationId, ids.humidity))).toMatchObject({
      code: 'not-shelved',
    });
  });
});

test('what arrives asks for a look in its own transaction, once for a station', async () => {
  expect(await waitingJobs(bench.at(at(830)), 'look')).toBe(1);
  const events = await rows(test_.db.alarmEvent, {});
  expect(events.every((e) => (e.actor === 'person') === (e.personId !== null))).toBe(true);
});
