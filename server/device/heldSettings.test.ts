import { bookTexts, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench } from '@/test/onBench';
import { query } from '@/db/database';
import { gatherFacts } from '../trust/facts';
import { newId } from '../id';
import { operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { connectView } from './connect';
import { heldSettings } from './heldSettings';
import { testChannel } from './liveTest';
import { sayLabel } from './loggerLabel';
import { stageSettings } from './settings';
import { settingsTemplate, stagePrevious, stageTemplate } from './template';
import { stageInterval, writeAll } from './wholeLogger';

/** What the logger really holds, what was there before, and settings taken along. */
let test_: TestDatabase;
let bench: TestBench;
onConnectedBench((made) => ({ test_, bench } = made));
const S = () => bench.stationId;
const held = () => heldSettings(bench.at(), S());
const channels = async () => (await loadStation(test_.db, S())).channels;
const all = async () => (await writeAll(bench.at(), S(), newId())).done;
const changed = async () =>
  (await held()).channels.flatMap((c) =>
    c.fields.filter((f) => f.changed).map((f) => `${c.number} ${f.field}`),
  );

test('as written: nothing differs', async () => expect(await changed()).toEqual([]));

test('what somebody changed at the logger, and what is staged, are told apart', async () => {
  const [first, second] = await channels();
  const sim = bench.logger.channels.find((c) => c.number === 1)!;
  const was = sim.history.at(-1)!;
  sim.history.push({ ...was, from: present, settings: { ...was.settings, storageInterval: 60 } });
  await stageSettings(bench.at(), S(), second!.row.id, {
    revisionId: newId(),
    basedOn: second!.newest,
    settings: { ...second!.written!.settings, description: 'Another' },
  });
  const { channels: found } = await held();
  expect(found[0]!.fields.filter((f) => f.changed)).toEqual([
    { field: 'storageInterval', staged: null, held: '60', written: '600', changed: true },
  ]);
  expect(found[1]!.fields.filter((f) => f.changed)).toMatchObject([
    { field: 'description', staged: 'Another', written: second!.written!.settings.description },
  ]);
  sim.history.push({ ...was, from: present });
  expect(first!.row.number).toBe(1);
});

test('going back: what was written before the last time is staged, and written it holds', async () => {
  await all();
  expect(await stagePrevious(bench.at(), S())).toEqual({ staged: 1 });
  const staged = (await channels()).filter((c) => c.staged);
  expect(staged.map((c) => c.row.number)).toEqual([2]);
  expect(staged[0]!.staged!.settings.description).not.toBe('Another');
  expect(await refusal(stagePrevious(bench.at(), S()))).toMatchObject({ code: 'settings-staged' });
  await all();
  expect(await changed()).toEqual([]);
});

test('another interval for all, and back by a template; descriptions stay', async () => {
  const template = await settingsTemplate(test_.db, S());
  expect(template.channels.map((c) => c.sensor)).toEqual(['quern-th3', 'quern-th3']);
  expect(await stageInterval(bench.at(), S(), 1800)).toEqual({ staged: 2 });
  expect(await refusal(stageInterval(bench.at(), S(), 7))).toMatchObject({ field: 'storageInterval' });
  await all();
  const before = (await channels()).map((c) => c.name);
  expect(await stageTemplate(bench.at(), S(), { template })).toEqual({ staged: 2, equal: 0, unused: [] });
  await all();
  expect((await channels()).map((c) => c.name)).toEqual(before);
  expect((await channels()).map((c) => c.written!.settings.storageInterval)).toEqual([600, 600]);
  expect(await stageTemplate(bench.at(), S(), { template })).toEqual({ staged: 0, equal: 2, unused: [] });
});

test('limits and a reporting interval are written, read back and told apart; out of order they are refused', async () => {
  const stage = async (to: object) => {
    const [first] = await channels();
    await stageSettings(bench.at(), S(), first!.row.id, {
      revisionId: newId(),
      basedOn: first!.newest,
      settings: { ...first!.written!.settings, ...to },
    });
  };
  expect(await refusal(stage({ low: 9, high: 8 }))).toMatchObject({
    code: 'limits-out-of-order',
    field: 'high',
  });
  expect(await refusal(stage({ reportingInterval: 700 }))).toMatchObject({ code: 'reporting-interval' });
  await stage({ low: 8, high: 26, reportingInterval: 1800 });
  expect(await changed()).toEqual(['1 reportingInterval', '1 low', '1 high']);
  await all();
  expect(await changed()).toEqual([]);
  expect(bench.logger.channels[0]!.history.at(-1)!.settings).toMatchObject({ low: 8, high: 26 });
  // A limit that is taken away is a change, too: staged, and by a template that has none.
  await stage({ low: null });
  expect((await held()).channels[0]!.fields.find((f) => f.field === 'low')).toMatchObject({
    staged: 'none',
    held: '8',
    written: '8',
    changed: true,
  });
  const template = await settingsTemplate(test_.db, S());
  await all();
  const without = template.channels.map((c) => ({ ...c, settings: { ...c.settings, high: null } }));
  expect(
    await stageTemplate(bench.at(), S(), { template: { ...template, channels: without } }),
  ).toMatchObject({
    staged: 1,
  });
  await all();
  expect(bench.logger.channels[0]!.history.at(-1)!.settings).toMatchObject({ low: null, high: null });
});

test('a template for other models is refused by both their names, and nothing is staged', async () => {
  const template = await settingsTemplate(test_.db, S());
  const other = { ...template, channels: template.channels.map((c) => ({ ...c, sensor: 'ness-p4' })) };
  expect(await refusal(stageTemplate(bench.at(), S(), { template: other }))).toMatchObject({
    code: 'template-other-models',
    detail: expect.stringMatching(/is for ness-p4; here hang quern-th3\.$/) as string,
  });
  expect((await channels()).filter((c) => c.staged)).toEqual([]);
});

test('its firmware is noted when it is another, and one that is known to be bad is a finding', async () => {
  const facts = async () => (await gatherFacts(test_.db, await loadStation(test_.db, S()))).facts.logger!;
  expect((await facts()).badFirmware).toEqual([]);
  const { firmware } = bench.logger;
  bench.logger.firmware = '2.2.7';
  await test_.arrange(
    `update logger set profile_code = 'brannoch-b8', profile_revision = 2 where station_id = $1`,
    [S()],
  );
  expect((await held()).faults).toEqual([
    'After its clock was set back it stores the first rows of the new run twice.',
  ]);
  expect((await facts()).badFirmware).toHaveLength(1);
  expect(await bookTexts(test_.db, S())).toContainEqual(
    expect.stringMatching(/has firmware 2\.2\.7, before it was 2\.4\.1; known to be bad: After its clock/),
  );
  bench.logger.firmware = firmware;
  expect((await held()).faults).toEqual([]);
  expect((await facts()).badFirmware).toEqual([]);
});

test('a live test says n of m and why, and that a value is none its sensor can have', async () => {
  const [first] = await channels();
  const run = async (tries: number) => {
    const operationId = newId();
    await (
      await testChannel(bench.at(), S(), first!.row.id, { operationId, tries })
    ).done;
    return operationView(test_.db, operationId);
  };
  expect((await run(1)).message).toMatch(/^1 of 1 tries good; last \d/);
  bench.logger.busFault = { kind: 'silent', left: 1 };
  expect((await run(2)).message).toMatch(/^1 of 2 tries good; .*; 1 × No answer$/);
  bench.logger.sensors[0]!.truths.airTemperature = { bias: 300 };
  expect((await run(1)).message).toMatch(
    /^0 of 1 tries good; 1 × (out of range: its sensor shows|it gives no value)/,
  );
  bench.logger.sensors[0]!.truths.airTemperature = {};
  expect(await bookTexts(test_.db, S())).toContainEqual(
    expect.stringMatching(/^Tested .* live: 1 of 2 tries/),
  );
});

test('a silent logger: said, nothing noted', async () => {
  await test_.arrange('update logger set address = $1 where station_id = $2', [
    `127.0.0.1:${bench.logger.ownPort + 7}`,
    S(),
  ]);
  expect(await refusal(held())).toMatchObject({ code: 'logger-silent' });
  await test_.arrange('update logger set address = $1 where station_id = $2', [
    `127.0.0.1:${bench.logger.ownPort}`,
    S(),
  ]);
});

test('the label: a factory log-in is a finding until somebody says it was changed; no code in the book or the trail', async () => {
  const label = (logIn: 'factory' | 'changed') =>
    sayLabel(bench.at(), S(), {
      labelId: newId(),
      registrationCode: 'RC-5521-XQ',
      registeredAt: 'the Trust’s platform',
      logIn,
    });
  const flagged = async () =>
    (await gatherFacts(test_.db, await loadStation(test_.db, S()))).facts.logger!.factoryLogIn;
  expect(await flagged()).toBe(false);
  await label('factory');
  expect(await flagged()).toBe(true);
  expect((await connectView(test_.db, S())).label.registrationCode).toBe('');
  expect((await connectView(test_.db, S(), true)).label).toMatchObject({
    registrationCode: 'RC-5521-XQ',
    logIn: 'factory',
  });
  expect(await refusal(label('factory'))).toMatchObject({ code: 'said-already' });
  await label('changed');
  expect(await flagged()).toBe(false);
  const said = await query<{ text: string }>(
    test_.db,
    `select text from field_book_line union all select subject::text from audit`,
    {},
  );
  expect(said.filter((l) => l.text.includes('RC-5521'))).toEqual([]);
});
