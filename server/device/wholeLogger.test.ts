import { row } from '@/db/database';
import { bookTexts, present, refusal, type TestBench } from '@/test/bench';
import { brokenLine } from '@/test/brokenLine';
import type { TestDatabase } from '@/test/database';
import { killed } from '@/test/killed';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newId } from '../id';
import { cancelOperation, operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { settleAction } from './settle';
import { discardStaged, stageSettings } from './settings';
import { stageProposed, writeAll } from './wholeLogger';

/** The settings of a whole logger: staged as proposed, written one after the other, broken off and gone on with. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const channels = async () => (await loadStation(test_.db, S())).channels;
const staged = async () => (await channels()).filter((c) => c.staged).map((c) => c.row.number);
/** Both channels staged anew, to be stored at another interval. */
async function stageBoth(storageInterval: number): Promise<void> {
  for (const c of await channels())
    await stageSettings(bench.at(), S(), c.row.id, {
      revisionId: newId(),
      basedOn: c.newest,
      settings: { ...c.written!.settings, storageInterval },
    });
}
async function all(operationId = newId()) {
  await (
    await writeAll(bench.at(), S(), operationId)
  ).done;
  return (await row(test_.db.operation, { where: { id: operationId } }))!;
}

test('nothing staged: nothing is asked of the logger', async () => {
  expect(await all()).toMatchObject({
    state: 'done',
    message: '0 channels written and read back equal',
    result: { written: 0, differing: [], passedOver: [] },
  });
});

test('all that is staged is written, each read back', async () => {
  await stageBoth(900);
  expect(await staged()).toEqual([1, 2]);
  expect(await all()).toMatchObject({
    state: 'done',
    message: '2 channels written and read back equal',
  });
  expect(await staged()).toEqual([]);
  expect(bench.logger.channels.map((c) => c.history.at(-1)!.settings.storageInterval)).toEqual([900, 900]);
  expect(
    (await bookTexts(test_.db, S())).filter((t) => t.includes('read back equal')).length,
  ).toBeGreaterThan(1);
});

test('what reads back otherwise is said by its number and not called written', async () => {
  bench.logger.keepsSteps = 0;
  await stageBoth(1200);
  expect(await all()).toMatchObject({
    state: 'done',
    message:
      '0 channels written and read back equal; channels 1, 2 read back otherwise and are not called written',
    result: { written: 0, differing: [1, 2] },
  });
  delete bench.logger.keepsSteps;
  expect((await all()).result).toMatchObject({ written: 2, differing: [] });
});

/** The logger behind a line that breaks at the n-th write, before it hears of it. */
async function breakingAt(nth: number): Promise<{ close: () => void }> {
  let writes = 0;
  const { ownPort } = bench.logger;
  const line = await brokenLine(ownPort, ownPort + 6, {
    asked: (text) => text.startsWith('PUT ') && ++writes === nth,
  });
  await test_.arrange('update logger set address = $1 where station_id = $2', [line.address, S()]);
  return line;
}
const throughNothing = () =>
  test_.arrange('update logger set address = $1 where station_id = $2', [
    `127.0.0.1:${bench.logger.ownPort}`,
    S(),
  ]);

test('a line that breaks half-way leaves the truth, and going on completes it', async () => {
  await stageBoth(1800);
  const line = await breakingAt(2);
  const ended = await all();
  line.close();
  expect(ended.state).toBe('failed');
  expect(ended.message).toMatch(
    /^Stopped at channel 2: .*\. 1 of 2 channels are written\. Read the logger back/,
  );
  // The first is written; of the second nobody knows, and nothing claims to.
  expect(await staged()).toEqual([2]);
  const sheet = await stationSheet(test_.db, S(), new Date(present));
  expect(sheet.unknownActions).toHaveLength(1);
  expect(bench.logger.channels.map((c) => c.history.at(-1)!.settings.storageInterval)).toEqual([1800, 1200]);
  await throughNothing();
  // Begun again before that is settled, it says so and writes nothing over it.
  expect((await all()).message).toMatch(/unknown outcome/);
  await settleAction(bench.at(), S(), sheet.unknownActions[0]!.id);
  expect(await staged()).toEqual([2]);
  expect((await all()).result).toMatchObject({ written: 1, differing: [] });
  expect(await staged()).toEqual([]);
  expect(bench.logger.channels.map((c) => c.history.at(-1)!.settings.storageInterval)).toEqual([1800, 1800]);
});

test.each([
  ['before the logger heard of the second', 'before', [2]],
  ['after the logger took the second', 'after', []],
] as const)('its process killed %s: the truth stands, and going on completes it', async (_, moment, left) => {
  const interval = moment === 'before' ? 2400 : 2700;
  await stageBoth(interval);
  const operationId = newId();
  await killed('test/killedWrite.ts', { stationId: S(), operationId, nth: 2, moment }, test_, bench.at());
  // The first is written; of the second nobody knows.
  expect(await staged()).toEqual([2]);
  expect((await row(test_.db.operation, { where: { id: operationId } }))!.state).toBe('running');
  await test_.arrange(
    `update operation set beat_at = clock_timestamp() - interval '5 minutes' where id = $1`,
    [operationId],
  );
  await test_.arrange(
    `update device_action set intended_at = clock_timestamp() - interval '5 minutes' where state = 'intent'`,
  );
  await test_.db.sequelize.query('delete from port_lease');
  expect((await operationView(test_.db, operationId)).state).toBe('lost');
  const [open] = (await stationSheet(test_.db, S(), new Date(present))).unknownActions;
  expect((await all()).message).toMatch(/unknown outcome/);
  expect((await row(test_.db.operation, { where: { id: operationId } }))!.message).toBe(
    'The process that ran it stopped; what was written is written, the rest is staged still.',
  );
  await settleAction(bench.at(), S(), open!.id);
  expect(await staged()).toEqual(left);
  expect((await all()).state).toBe('done');
  expect(await staged()).toEqual([]);
  expect(bench.logger.channels.map((c) => c.history.at(-1)!.settings.storageInterval)).toEqual([
    interval,
    interval,
  ]);
});

test('cancelled, it stops between two channels and says what stays', async () => {
  await stageBoth(600);
  const operationId = newId();
  const { done } = await writeAll(bench.at(), S(), operationId);
  await cancelOperation(test_.db, operationId);
  await done;
  const ended = (await row(test_.db.operation, { where: { id: operationId } }))!;
  expect(ended).toMatchObject({
    state: 'cancelled',
    message: 'Cancelled; what was written is written, the rest is staged still.',
  });
  await all();
  expect(await staged()).toEqual([]);
});

test('proposed settings are staged where there are none, and nowhere else', async () => {
  expect(await stageProposed(bench.at(), S(), 900)).toEqual({ staged: 0 });
  await test_.arrange(
    `alter table setting_revision disable trigger all; delete from setting_revision where channel_id = '${ids.humidity}'; alter table setting_revision enable trigger all`,
  );
  expect(await refusal(stageProposed(bench.at(), S(), 37.5))).toMatchObject({ code: 'interval-not-whole' });
  expect(await stageProposed(bench.at(), S(), 900)).toEqual({ staged: 1 });
  const humidity = (await channels()).find((c) => c.row.id === ids.humidity)!;
  expect(humidity.staged!.settings).toMatchObject({ enabled: true, storageInterval: 900, unit: '%RH' });
  expect(await bookTexts(test_.db, S())).toContain(
    'Staged the proposed settings of channels 2, stored every 900 s, not yet written',
  );
  await discardStaged(bench.at(), S(), ids.humidity);
});
