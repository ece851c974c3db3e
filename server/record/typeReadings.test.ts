import type { TypeReadings } from '@/contract/importRequests';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onCollectedBench } from '@/test/onBench';
import { addStation } from '../administer/addStation';
import { newId } from '../id';
import { importStart } from '../import/view';
import { withdrawImport } from '../import/withdraw';
import { collect } from './collect';
import { stationRecord } from './stationRecord';
import { typeReadings } from './typeReadings';
import { loadStation } from '../station/stationGraph';
import { stationLive } from '../station/live';
import { stationSheet } from '../station/stationSheet';
import { stationBasics } from '../station/stationBasics';
import { round } from '../trust/round';

let test_: TestDatabase;
let bench: TestBench;
onCollectedBench((made) => ({ test_, bench } = made));

const at = (daysAgo: number) => new Date(present - daysAgo * 86_400_000).toISOString();
const board = (change: Partial<TypeReadings> = {}): TypeReadings => ({
  readingsId: newId(),
  channel: { kind: 'new', quantity: 'waterLevel', zoneName: 'Tide board' },
  unit: 'm',
  readings: [
    { at: at(3), value: 1.92 },
    { at: at(1), value: 2.04 },
  ],
  ...change,
});
const type = (request: TypeReadings, stationId = bench.stationId) =>
  typeReadings(bench.at(), stationId, request);
const recordOf = async (stationId: string) =>
  (await stationRecord(test_.db, stationId, new Date(present))).channels;

describe('readings a person typed', () => {
  let channelId = '';
  const more = (readings: TypeReadings['readings'], change: Partial<TypeReadings> = {}) =>
    type(board({ channel: { kind: 'existing', id: channelId }, readings, ...change }));

  test('make a channel of their own, with its last value in the base unit', async () => {
    expect(await type(board())).toMatchObject({ stored: 2, known: 0 });
    const made = (await recordOf(bench.stationId)).find((c) => c.source === 'manual')!;
    expect(made).toMatchObject({ number: null, lastValue: 2.04, unit: 'm', word: 'good' });
    channelId = made.channelId;
    // 1 ft = 0.3048 m by definition (international yard and pound agreement, 1959).
    expect(await more([{ at: at(0.5), value: 7 }], { unit: 'ft' })).toMatchObject({ stored: 1 });
    const [now] = (await recordOf(bench.stationId)).filter((c) => c.source === 'manual');
    expect(now!.lastValue).toBeCloseTo(2.1336, 9);
  });
  test('sent twice under one id are there once; the same value again is known', async () => {
    const once = board({
      channel: { kind: 'existing', id: channelId },
      readings: [{ at: at(0.4), value: 2.1 }],
    });
    expect(await type(once)).toMatchObject({ stored: 1, known: 0 });
    expect(await type(once)).toMatchObject({ stored: 1, known: 0 });
    expect(await more(once.readings)).toMatchObject({ stored: 0, known: 1 });
  });
  test.each<[string, TypeReadings['readings'], Partial<TypeReadings>, string, RegExp]>([
    ['another value at a stamp', [{ at: at(1), value: 2.1 }], {}, 'stamp-taken', /holds 2\.040 m already/],
    ['a time to come', [{ at: at(-1), value: 2 }], {}, 'reading-refused', /lies in the future/],
    [
      'a level of the sea bed',
      [{ at: at(0.3), value: 2e6 }],
      {},
      'outside-range',
      /2000000 m is outside what water level can be/,
    ],
    ['no unit of a level', [{ at: at(0.3), value: 2 }], { unit: '°C' }, 'plan-refused', /not measured in °C/],
    [
      'one stamp twice',
      [
        { at: at(0.3), value: 2 },
        { at: at(0.3), value: 2.1 },
      ],
      {},
      'typed-twice',
      /typed twice/,
    ],
    ['30 February', [{ at: '2026-02-30T10:00:00Z', value: 2 }], {}, 'bad-time', /not a usable time/],
  ])('%s is refused by name, and nothing is stored', async (_name, readings, change, code, detail) => {
    const before = await recordOf(bench.stationId);
    const said = await refusal(more(readings, change));
    expect(said.code).toBe(code);
    expect(said.detail).toMatch(detail);
    expect(await recordOf(bench.stationId)).toEqual(before);
  });
  test('a slipped decimal point is asked about, and taken when it is stood by', async () => {
    const slip = [{ at: at(0.25), value: 20.4 }];
    const said = await refusal(more(slip));
    expect(said).toMatchObject({ code: 'far-off', field: 'value', extra: { confirm: true } });
    expect(said.remedy).toMatch(/Did you mean 2\.04 m\?/);
    expect(await more(slip, { confirmed: true })).toMatchObject({ stored: 1 });
  });
  test('do not go into a channel that a logger fills', async () => {
    const logged = (await loadStation(test_.db, bench.stationId)).channels.find(
      (c) => c.row.source === 'logger',
    )!;
    const request = board({
      channel: { kind: 'existing', id: logged.row.id },
      unit: '°C',
      readings: [{ at: at(0.2), value: 16 }],
    });
    expect(await refusal(type(request))).toMatchObject({ code: 'not-typed' });
  });
  test('a slip is withdrawn, and its stamp is free for the right value', async () => {
    const slip = board({
      channel: { kind: 'existing', id: channelId },
      readings: [{ at: at(0.2), value: 1.2 }],
    });
    await type(slip);
    const withdraw = { operationId: newId(), back: false, reason: 'typed 1.2 for 2.1' };
    await (
      await withdrawImport(bench.at(), bench.stationId, slip.readingsId, withdraw)
    ).done;
    expect(await more([{ at: at(0.2), value: 2.12 }])).toMatchObject({ stored: 1 });
    const { imports } = await importStart(test_.db, bench.stationId);
    expect(imports.map((i) => i.fileName)).toContain(
      `1.2 m of ${at(0.2).slice(0, 16).replace('T', ' ')} UTC`,
    );
  });
});

describe('a station without a logger', () => {
  test('takes files and typed readings, stands in the Round, and offers no way to a device', async () => {
    const { stationId } = await addStation(bench.at(present, bench.people.administrator), {
      site: { name: 'North Slip', zone: 'Etc/UTC' },
      code: 'SLIP-9',
      name: 'Boat slip',
    });
    expect(await type(board(), stationId)).toMatchObject({ stored: 2 });
    expect(await stationBasics(test_.db, stationId)).toMatchObject({ logger: false, zone: 'Etc/UTC' });
    const sheet = await stationSheet(test_.db, stationId, new Date(present));
    expect(sheet).toMatchObject({ logger: null, clock: null, ports: [], findings: [] });
    const { stops } = await round(test_.db, new Date(present));
    expect(stops.map((s) => s.code)).toContain('SLIP-9');
    const nobody = { code: 'no-logger', detail: 'SLIP-9 has no logger.' };
    expect(await refusal(collect(bench.at(), stationId, newId()))).toMatchObject(nobody);
    expect(await refusal(stationLive(bench.at(), stationId))).toMatchObject(nobody);
  });
  test('a logger without a port is half a description', async () => {
    const admin = bench.at(present, bench.people.administrator);
    const logger = {
      model: 'x',
      serial: 'x-1',
      address: '127.0.0.1:1',
      utcOffsetMinutes: 0,
      supplyVoltage: 12,
    };
    const half = { site: { name: 'North Slip', zone: 'Etc/UTC' }, code: 'SLIP-8', name: 'x', logger };
    expect(await refusal(addStation(admin, half))).toMatchObject({ code: 'half-described', field: 'port' });
  });
});
