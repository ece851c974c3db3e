import { query } from '@/db/database';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { arrive, humid, newRule } from '@/test/watch';
import type { Context } from '../context';
import { newId } from '../id';
import { acknowledgeAlarm, endShelf, shelveAlarms } from '../watch/alarms';
import { evaluateStations } from '../watch/evaluate';
import { beginProof, endProof, receivedProof, restoreLimits, restoreOverdue } from '../watch/proof';
import { addReceiver, retireReceiver } from '../watch/receivers';
import { setWatchRule } from '../watch/rules';
import { setCollectSchedule } from '../watch/schedule';
import { waysOf } from '../watch/send';

/** The same of what is watched. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const at = (m: number) => present + m * 60_000;
const six = (m: number, act: (ctx: Context, n: number) => Promise<unknown>) =>
  sixTimes(() => bench.at(at(m)), act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: bench.stationId }));
const come = (m: number, value: number) =>
  arrive(bench.at(at(m)), bench.stationId, { [ids.humidity]: [[at(m), value]] });

test('a rule set by six on one that was in force: one, the others are told', async () => {
  await come(-5, 50);
  const set = (ctx: Context, n: number) =>
    setWatchRule(ctx, bench.stationId, ids.humidity, newRule({ rule: humid({ delay: n }) }));
  expect(told(await six(0, set))).toEqual({ done: 1, codes: ['changed-meanwhile'] });
  expect([await count('watch_rule where station_id = :s'), await audited('watch.rule')]).toEqual([1, 1]);
});

test('what arrived looked at by six, and while more arrives: each ring once, whoever raises it', async () => {
  await come(10, 90);
  const looks = await six(11, () => evaluateStations(test_.db, [bench.stationId], at(11)));
  expect(told(looks)).toEqual({ done: 6, codes: [] });
  expect(looks.reduce((n, l) => n + (l as PromiseFulfilledResult<number>).value, 0)).toBe(1);
  expect(await count('alarm where station_id = :s')).toBe(1);
  await Promise.all([
    come(20, 50),
    ...Array.from({ length: 5 }, () => evaluateStations(test_.db, [bench.stationId], at(21))),
  ]);
  await evaluateStations(test_.db, [bench.stationId], at(22));
  expect(await count('alarm_event where station_id = :s')).toBe(2);
});

test('an alarm acknowledged by six is acknowledged once', async () => {
  const [alarm] = await query<{ id: string }>(test_.db, 'select id from alarm');
  const acknowledge = (ctx: Context) =>
    acknowledgeAlarm(ctx, bench.stationId, alarm!.id, { reason: 'seen to' });
  expect(told(await six(23, acknowledge))).toEqual({ done: 1, codes: ['acknowledged-already'] });
  expect(await audited('watch.acknowledge')).toBe(1);
});

test('a channel shelved by six is shelved once, and taken off the shelf once', async () => {
  const shelve = (ctx: Context) =>
    shelveAlarms(ctx, bench.stationId, ids.humidity, {
      shelfId: newId(),
      until: new Date(at(100)).toISOString(),
      reason: 'painting',
    });
  expect(told(await six(24, shelve))).toEqual({ done: 1, codes: ['shelved-already'] });
  expect(told(await six(25, (ctx) => endShelf(ctx, bench.stationId, ids.humidity)))).toEqual({
    done: 1,
    codes: ['not-shelved'],
  });
});

test('a proof begun, received, put back and ended by six: once each; forgotten and put back by six: once', async () => {
  const tightened = { farLow: null, low: 35, high: 45, farHigh: 80 };
  const begin = (ctx: Context) =>
    beginProof(ctx, bench.stationId, ids.humidity, {
      proofId: newId(),
      tightened,
      told: 'duty desk',
      minutes: 30,
    });
  expect(told(await six(30, begin))).toEqual({ done: 1, codes: ['proof-open'] });
  await come(31, 50);
  await evaluateStations(test_.db, [bench.stationId], at(31));
  expect(told(await six(32, (ctx) => receivedProof(ctx, bench.stationId, ids.humidity)))).toEqual({
    done: 1,
    codes: ['received-already'],
  });
  expect(told(await six(33, (ctx) => restoreLimits(ctx, bench.stationId, ids.humidity)))).toEqual({
    done: 1,
    codes: ['restored-already'],
  });
  await come(34, 50);
  await evaluateStations(test_.db, [bench.stationId], at(34));
  const end = (ctx: Context) => endProof(ctx, bench.stationId, ids.humidity, { outcome: 'proved', note: '' });
  expect(told(await six(35, end))).toEqual({ done: 1, codes: ['no-proof'] });
  expect(await count('watch_rule where station_id = :s')).toBe(3);
  await begin(bench.at(at(40)));
  expect(told(await six(80, (ctx) => restoreOverdue(ctx)))).toEqual({ done: 6, codes: [] });
  expect(await count('watch_rule where station_id = :s')).toBe(5);
});

test('one schedule set by six, one receiver added by six and taken off by six: once each', async () => {
  const schedule = (ctx: Context) =>
    setCollectSchedule(ctx, bench.stationId, { scheduleId: newId(), everySeconds: 600 });
  expect(told(await six(81, schedule))).toEqual({ done: 1, codes: ['same-schedule'] });
  const ways = waysOf({ SMTP_URL: 'smtp://127.0.0.1:9' });
  const add = (ctx: Context) =>
    addReceiver(
      ctx,
      {
        receiverId: newId(),
        kind: 'mail',
        name: 'Duty',
        address: 'duty@skerrow.example',
        least: 1,
        afterSeconds: 0,
      },
      ways,
    );
  expect(told(await six(82, add))).toEqual({ done: 1, codes: ['receiver-there'] });
  const [receiver] = await query<{ id: string }>(test_.db, 'select id from alarm_receiver');
  expect(told(await six(83, (ctx) => retireReceiver(ctx, receiver!.id)))).toEqual({
    done: 1,
    codes: ['retired-already'],
  });
});
