import type { AddDerived } from '@/contract/verifyRequests';
import { dewPoint } from '@/core/moistAir/humidity';
import { query, row, rows } from '@/db/database';
import { readingsPage } from '@/db/record';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { importText } from '@/test/importText';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { textOf } from '@/test/textOf';
import { correctDrift } from '../clock/drift';
import { collect } from './collect';
import { newId } from '../id';
import { withdrawImport } from '../import/withdraw';
import { loadStation } from '../station/stationGraph';
import { traces } from './trace';
import { traceFile } from './traceFile';
import { correctSpan } from '../verify/correct';
import { verifyList, verifyQuery } from '../verify/list';
import { approveSpan, markSpan, revokeLayer } from '../verify/mark';
import { channelVerify } from '../verify/view';
import { addDerived } from './addDerived';
import { stationRecord } from './stationRecord';

/** Channels that follow from others: always what their sources say now. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
let clock = present;
const at = (who: 'technician' | 'reviewer' = 'technician') => bench.at((clock += 60_000), bench.people[who]);
onConnectedBench((made) => ({ test_, bench, ids } = made));
const collectNow = async () => (await collect(at(), bench.stationId, newId())).done;
beforeAll(async () => {
  bench.state.places['ARCH-1/Lantern room'] = {
    airTemperature: { base: 16, daily: 0.5 },
    humidity: { base: 55, daily: -2 },
  };
  bench.logger.sensors[0]!.truths = { airTemperature: { noise: 0.02 }, humidity: { noise: 0.1 } };
  await collectNow();
});

const S = () => bench.stationId;
const iso = (ms: number) => new Date(ms).toISOString();
const window = { from: present - 3 * day, until: present - 2 * day };
const derive = (more: Partial<AddDerived> = {}) =>
  addDerived(at(), S(), {
    channelId: newId(),
    formula: 'dewPoint',
    zoneName: 'Lantern room',
    inputs: { temperature: ids.temperature, humidity: ids.humidity },
    parameters: {},
    ...more,
  });
const keyOf = async (id: string) => (await row(test_.db.channel, { where: { stationId: S(), id } }))!.key;
const stationKey = async () => (await row(test_.db.station, { where: { id: S() } }))!.key;
const readings = async (id: string, { from, until } = window) =>
  new Map(
    (await readingsPage(test_.db, await stationKey(), await keyOf(id), from, until, 100_000)).map((r) => [
      r.at.getTime(),
      r.value,
    ]),
  );
const drawn = async (id: string, span = window) =>
  (await traces(test_.db, [{ stationId: S(), channelId: id }], { ...span, pixels: 3000 })).series[0]!;
const correct = (channelId: string, offset: number) =>
  correctSpan(at(), S(), channelId, {
    layerId: newId(),
    shape: 'step',
    from: iso(window.from),
    until: iso(window.until),
    fromOffset: offset,
    untilOffset: offset,
    reason: 'difference of two checks',
  });
const revoke = (channelId: string, layerId: string) =>
  revokeLayer(at(), S(), channelId, layerId, { layerId: newId(), reason: 'was wrong' });

let dew: string;
test('a dew point at every stamp its sources share, reckoned from what they hold', async () => {
  ({ channelId: dew } = await derive());
  const [t, h, d] = [await readings(ids.temperature), await readings(ids.humidity), await readings(dew)];
  expect(d.size).toBe(t.size);
  for (const [stamp, value] of d) expect(value).toBeCloseTo(dewPoint(t.get(stamp)!, h.get(stamp)!), 9);
  expect((await bookTexts(test_.db, S())).at(-1)).toMatch(
    /^Derived Lantern room dew point: dew point of .* and /,
  );
  const s = await drawn(dew);
  expect(s.quantity).toBe('dewPoint');
  expect(s.points.filter((p) => p.mean !== null)).toHaveLength(d.size);
});

test('a correction of a source is seen in it at once, drawn, downloaded and rolled up, and gone when it is taken back', async () => {
  const before = await readings(dew);
  const { layerId } = await correct(ids.temperature, 2);
  await drawn(dew);
  const [t, h, after] = [await readings(ids.temperature), await readings(ids.humidity), await readings(dew)];
  for (const [stamp, value] of after)
    expect(value).toBeCloseTo(dewPoint(t.get(stamp)! + 2, h.get(stamp)!), 9);
  const file = await traceFile(test_.db, [{ stationId: S(), channelId: dew }], { ...window, pixels: 800 });
  const csv = await textOf(file.csv());
  const [stamp, value] = [...after][5]!;
  expect(csv).toContain(String(Number(value.toPrecision(12))).slice(0, 8));
  expect(csv).toContain(iso(stamp).slice(0, 16));
  const [hours] = await query<{ sum: number }>(
    test_.db,
    `select sum(sum) as sum from reading_rollup where channel_key = :key and width = 3600 and bucket >= :from and bucket < :until`,
    { key: await keyOf(dew), from: new Date(window.from), until: new Date(window.until) },
  );
  const all = await readings(dew, { from: window.from, until: window.until });
  expect(hours!.sum).toBeCloseTo(
    [...all.values()].reduce((s, v) => s + v, 0),
    6,
  );
  await revoke(ids.temperature, layerId);
  await drawn(dew);
  expect(await readings(dew)).toEqual(before);
});

test('what failed at a source has no value here; what was collected since has one', async () => {
  const { layerId } = await markSpan(at(), S(), ids.humidity, {
    layerId: newId(),
    from: iso(window.from),
    until: iso(window.from + 3_600_000),
    flag: 4,
    reason: 'sensor in the hand',
  });
  await drawn(dew);
  expect((await readings(dew)).size).toBe((await readings(ids.temperature)).size - 7);
  await revoke(ids.humidity, layerId);
  clock += day;
  await collectNow();
  await drawn(dew);
  const span = { from: present, until: present + 2 * day };
  expect((await readings(dew, span)).size).toBe((await readings(ids.temperature, span)).size);
  expect((await readings(dew, span)).size).toBeGreaterThan(100);
});

test('tested, listed, flagged and approved like any other; a later correction of a source reopens it', async () => {
  const list = async () =>
    (await verifyList(test_.db, verifyQuery(new URLSearchParams()), new Date(clock))).rows.find(
      (r) => r.channelId === dew,
    )!;
  expect(await list()).toMatchObject({ quantity: 'dewPoint', unit: '°C', missing: 0, word: 'good' });
  await markSpan(at(), S(), dew, {
    layerId: newId(),
    from: iso(window.from),
    until: iso(window.from + 3_600_000),
    flag: 3,
    reason: 'lamp was on',
  });
  expect(await list()).toMatchObject({ suspect: 7 });
  await approveSpan(at('reviewer'), S(), dew, {
    layerId: newId(),
    from: iso(window.from),
    until: iso(window.until),
  });
  expect((await channelVerify(test_.db, S(), dew)).approval).toMatchObject({ reopened: null });
  const { layerId } = await correct(ids.temperature, 1);
  expect((await channelVerify(test_.db, S(), dew)).approval!.reopened).toMatch(
    /^marked since: difference of two checks/,
  );
  await revoke(ids.temperature, layerId);
  const { channels } = await stationRecord(test_.db, S(), new Date(clock));
  expect(channels.find((c) => c.channelId === dew)).toMatchObject({
    source: 'derived',
    number: null,
    formula: expect.stringMatching(/^dew point of .* and /) as string,
  });
});

test('the mean of twins out of files, which need no logger; withdrawn with them, and back', async () => {
  const text = 'time,a,b\n2025-01-01 00:00:00,5,7\n2025-01-01 00:10:00,6,\n2025-01-01 00:20:00,7,8\n';
  await importText(bench, text, plainPlan([newTemperature(1, 'Loft low'), newTemperature(2, 'Loft high')]));
  const { channels } = await loadStation(test_.db, S());
  const [one, other] = ['Loft low', 'Loft high'].map((z) => channels.find((c) => c.row.zoneName === z)!.row);
  expect(one).toMatchObject({ source: 'file', loggerId: null, number: null });
  const { channelId } = await derive({
    formula: 'meanOfTwins',
    zoneName: 'Loft',
    inputs: { one: one!.id, other: other!.id },
  });
  const span = { from: Date.UTC(2025, 0, 1), until: Date.UTC(2025, 0, 2) };
  expect([...(await readings(channelId, span)).values()]).toEqual([6, 7.5]);
  const { id } = (await row(test_.db.recordImport, { where: { stationId: S() } }))!;
  const withdraw = async (back: boolean) =>
    (await withdrawImport(at(), S(), id, { operationId: newId(), back, reason: 'wrong loft' })).done;
  await withdraw(false);
  await drawn(channelId, span);
  expect((await readings(channelId, span)).size).toBe(0);
  await withdraw(true);
  await drawn(channelId, span);
  expect([...(await readings(channelId, span)).values()]).toEqual([6, 7.5]);
});

type Change = {
  formula?: 'meanOfTwins';
  inputs?: Record<string, string>;
  parameters?: Record<string, number>;
};
test.each<[string, Change, string]>([
  ['an input that is missing', { inputs: { temperature: 'T' } }, 'inputs.humidity'],
  ['one of another quantity', { inputs: { temperature: 'H', humidity: 'T' } }, 'inputs.temperature'],
  ['a derived one', { inputs: { temperature: 'T', humidity: 'D' } }, 'inputs.humidity'],
  ['a channel of nowhere', { inputs: { temperature: 'T', humidity: 'N' } }, 'inputs.humidity'],
  ['the same twice', { formula: 'meanOfTwins', inputs: { one: 'T', other: 'T' } }, 'inputs.other'],
  ['twins of two quantities', { formula: 'meanOfTwins', inputs: { one: 'T', other: 'H' } }, 'inputs.other'],
  ['a parameter nobody knows', { parameters: { salt: 1 } }, 'inputs'],
])('%s is refused by name', async (_, more, field) => {
  const known: Record<string, string> = { T: ids.temperature, H: ids.humidity, D: dew, N: newId() };
  const inputs =
    more.inputs && Object.fromEntries(Object.entries(more.inputs).map(([k, v]) => [k, known[v]!]));
  const refused = await refusal(derive({ ...more, ...(inputs && { inputs }) }));
  expect(refused).toMatchObject({ code: 'bad-derivation', field });
  expect(refused.remedy).toMatch(/\S/);
});
test('the same formula twice is told as there already; the same request twice is one', async () => {
  expect((await refusal(derive())).code).toBe('derived-already');
  expect(await derive({ channelId: dew })).toEqual({ channelId: dew });
});
test('a drift of the logger’s clock is taken out of what follows from it, not of what follows from files', async () => {
  bench.logger.clock = { error: 100, perDay: 60, since: clock };
  for (let i = 0; i < 2; i++) {
    clock += day;
    await collectNow();
  }
  await correctDrift(at(), S());
  const drifted = await query<{ id: string }>(
    test_.db,
    `select distinct channel_id as id from active_layer where kind = 'clock' and jsonb_exists(parameters, 'drift')`,
  );
  expect(drifted.map((d) => d.id).sort()).toEqual([ids.temperature, ids.humidity, dew].sort());
  bench.logger.clock = { error: 0, perDay: 0, since: clock };
});
test('nothing that was logged can be cleared for reckoning', async () => {
  const clear = async (id: string) =>
    query(
      test_.db,
      `select clear_derived(${await stationKey()}, ${await keyOf(id)}, '-infinity', 'infinity')`,
    );
  await expect(clear(ids.temperature)).rejects.toThrow(/is not derived/);
  await expect(query(test_.db, 'delete from reading')).rejects.toThrow(/permission denied/);
  expect((await rows(test_.db.derivation)).length).toBe(2);
});
