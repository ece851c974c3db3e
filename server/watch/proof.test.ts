import { query, rows } from '@/db/database';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { arrive, humid, newRule } from '@/test/watch';
import { systemContext } from '../actor';
import { newId } from '../id';
import { boardView } from './board';
import { channelWatch } from './channelView';
import { evaluateStations } from './evaluate';
import { beginProof, endProof, receivedProof, restoreLimits, restoreOverdue } from './proof';
import { ruleInForce, setWatchRule } from './rules';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
const at = (m: number) => present + m * minute;
const ctx = (m: number) => bench.at(at(m));
async function come(m: number, value: number): Promise<void> {
  await arrive(ctx(m), bench.stationId, { [ids.humidity]: [[at(m), value]] });
  await evaluateStations(test_.db, [bench.stationId], at(m));
}
const tight = { farLow: null, low: 35, high: 45, farHigh: 80 };
const begin = (m: number, tightened: typeof tight | null = tight) =>
  beginProof(ctx(m), bench.stationId, ids.humidity, {
    proofId: newId(),
    tightened,
    told: 'MO, duty desk',
    minutes: 30,
  });
const end = (m: number, outcome: 'proved' | 'broken off') =>
  endProof(ctx(m), bench.stationId, ids.humidity, { outcome, note: '' });
const proof = async (m: number) => (await channelWatch(ctx(m), bench.stationId, ids.humidity)).proof;
const proved = async (m: number) => (await boardView(test_.db, new Date(at(m)))).channels[0]!.proved;

test('nothing is proved where nothing is watched', async () => {
  await come(-5, 50);
  expect(await refusal(begin(-4))).toMatchObject({ code: 'not-armed' });
  await setWatchRule(ctx(0), bench.stationId, ids.humidity, newRule({ rule: humid({ delay: 600 }) }));
  expect(await proved(0)).toBe('never');
});

test('limits are tightened, it rings, arrives, the limits come back, it clears: proved', async () => {
  const before = (await ruleInForce(ctx(1), bench.stationId, ids.humidity))!;
  await begin(1);
  expect(await refusal(begin(2))).toMatchObject({ code: 'proof-open' });
  expect(
    await refusal(setWatchRule(ctx(2), bench.stationId, ids.humidity, newRule({ basedOn: null }))),
  ).toMatchObject({ code: 'changed-meanwhile' });
  expect(await refusal(receivedProof(ctx(2), bench.stationId, ids.humidity))).toMatchObject({
    code: 'not-rung',
  });
  expect(await refusal(end(2, 'proved'))).toMatchObject({ code: 'not-proved' });
  // The delay is not waited for.
  await come(10, 50);
  expect((await proof(11))!.alarm).toMatchObject({ says: 'too high, 50.0 %RH (limit 45.0)' });
  await receivedProof(ctx(12), bench.stationId, ids.humidity);
  expect(await refusal(receivedProof(ctx(12), bench.stationId, ids.humidity))).toMatchObject({
    code: 'received-already',
  });
  await restoreLimits(ctx(13), bench.stationId, ids.humidity);
  expect(await refusal(restoreLimits(ctx(13), bench.stationId, ids.humidity))).toMatchObject({
    code: 'restored-already',
  });
  expect((await proof(14))!.missing).toEqual(['it has not cleared by a value yet']);
  await come(20, 50);
  expect((await proof(21))!.canEnd).toBe(true);
  await end(22, 'proved');
  expect(await proved(23)).toBe('proved');
  const after = (await ruleInForce(ctx(23), bench.stationId, ids.humidity))!;
  expect([after.rule, after.armed, after.number]).toEqual([before.rule, true, 3]);
  // The records of the proof are flagged.
  const flags = await rows(test_.db.layer, { where: { kind: 'flag', channelId: ids.humidity } });
  expect(flags.find((f) => f.parameters.source === 'person')).toMatchObject({
    reason: 'alarm proved: limits were tightened',
    parameters: { flag: 3, n: 2 },
  });
});

test('under other limits it is one that was proved', async () => {
  const last = (await ruleInForce(ctx(30), bench.stationId, ids.humidity))!;
  const changed = newRule({ basedOn: last.id, rule: humid({ hysteresis: 5 }) });
  await setWatchRule(ctx(30), bench.stationId, ids.humidity, changed);
  expect(await proved(31)).toBe('other limits');
  const back = newRule({ basedOn: changed.ruleId, rule: last.rule });
  await setWatchRule(ctx(32), bench.stationId, ids.humidity, back);
  expect(await proved(33)).toBe('proved');
});

test('a proof by disturbing the sensor needs no other limits', async () => {
  await begin(40, null);
  expect(await refusal(restoreLimits(ctx(41), bench.stationId, ids.humidity))).toMatchObject({
    code: 'nothing-tightened',
  });
  await come(42, 90);
  await come(55, 90);
  await receivedProof(ctx(56), bench.stationId, ids.humidity);
  await come(60, 50);
  await end(61, 'proved');
  const flags = await query<{ reason: string }>(
    test_.db,
    `select reason from layer where kind = 'flag' and parameters->>'source' = 'person' order by seq`,
  );
  expect(flags.at(-1)).toEqual({ reason: 'alarm proved: the sensor was disturbed' });
});

test('a forgotten proof has its limits put back by the application, and broken off it proves nothing', async () => {
  const before = (await ruleInForce(ctx(70), bench.stationId, ids.humidity))!;
  await begin(71);
  const system = (m: number) => systemContext(test_.db, '', () => new Date(at(m)));
  expect(await restoreOverdue(system(90))).toBe(0);
  expect(await restoreOverdue(system(102))).toBe(1);
  expect(await restoreOverdue(system(103))).toBe(0);
  const back = (await ruleInForce(ctx(103), bench.stationId, ids.humidity))!;
  expect(back.rule).toEqual(before.rule);
  expect(back.personId).toBe(system(0).person.id);
  const [line] = await query<{ initials: string; visit: string | null }>(
    test_.db,
    `select p.initials, l.visit_id as visit from field_book_line l join person p on p.id = l.person_id order by l.recorded_at desc limit 1`,
  );
  expect(line).toEqual({ initials: 'OC', visit: null });
  await end(104, 'broken off');
  expect(await refusal(end(105, 'broken off'))).toMatchObject({ code: 'no-proof' });
});

test('broken off at once, the limits come back with it; while it rings nothing is begun', async () => {
  const before = (await ruleInForce(ctx(110), bench.stationId, ids.humidity))!;
  await begin(110);
  await end(111, 'broken off');
  expect((await ruleInForce(ctx(112), bench.stationId, ids.humidity))!.rule).toEqual(before.rule);
  await come(120, 90);
  await come(135, 90);
  expect(await refusal(begin(136))).toMatchObject({ code: 'rings-already' });
});
