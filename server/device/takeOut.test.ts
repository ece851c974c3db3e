import type { SwapSensor } from '@/contract/requests';
import { query } from '@/db/database';
import { busSerial } from '@/simulator/scenario';
import { archiveSensor, bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onCollectedBench, type Connected } from '@/test/onBench';
import { newId } from '../id';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { clockStrip } from '../trust/round';
import { activeLayers } from '../verify/layers';
import { connectView } from './connect';
import { installTransmitter } from './install';
import { beginOffLine } from './offLine';
import { writeSettings } from './settings';
import { swapSensor, takeOut } from './takeOut';
import { talk } from './talk';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onCollectedBench((made) => ({ test_, bench, ids } = made));

const iso = (ms: number) => new Date(ms).toISOString();
const S = () => bench.stationId;
const swapAt = present + day;
const { zoneName: _, ...sensor } = archiveSensor;
const swap = (change: Partial<SwapSensor> = {}, old = ids.installationId) =>
  swapSensor(bench.at(swapAt), S(), old, {
    installationId: newId(),
    ...sensor,
    serial: 'TH3-1502',
    reason: 'yearly exchange',
    occurredAt: iso(swapAt),
    ...change,
  });
const channel = async (id = ids.temperature) =>
  (await loadStation(test_.db, S())).channels.find((c) => c.row.id === id)!;
const hangs = (serial: string, busId: number, bias: number) =>
  bench.logger.sensors.push({
    serial,
    model: 'quern-th3',
    busId,
    serialSettings: busSerial,
    place: 'ARCH-1/Lantern room',
    powered: true,
    truths: { airTemperature: { bias, noise: 0 }, humidity: { noise: 0 } },
  });

describe('a sensor swapped in the middle of a record', () => {
  let newOne = '';
  test.each<[string, Partial<SwapSensor>, string, string]>([
    [
      'a model that measures something else',
      { profileCode: 'harrow-k2', landedLeads: [] },
      'supply-outside',
      'supply',
    ],
    [
      'a model without its quantity',
      { profileCode: 'ness-d1', landedLeads: [] },
      'output-missing',
      'profileCode',
    ],
    [
      'a time before the old one came',
      { occurredAt: iso(present - 400 * day) },
      'ends-before-begin',
      'occurredAt',
    ],
    [
      'another speed',
      { serialSettings: { ...busSerial, baud: 9600 } },
      'serial-differs',
      'serialSettings.baud',
    ],
    ['the serial number of the old one', { serial: 'TH3-1188' }, 'same-sensor', 'serial'],
  ])('%s is refused by name, and nothing changes', async (_name, change, code, field) => {
    const before = await loadStation(test_.db, S());
    expect(await refusal(swap(change))).toMatchObject({ code, field });
    expect(await loadStation(test_.db, S())).toEqual(before);
  });
  test('takes over channels and zone; the logger is told of the other ID once it is written', async () => {
    await talk(bench.at(swapAt - 3_600_000), S(), { actionId: newId(), installationId: ids.installationId });
    bench.logger.sensors[0]!.powered = false;
    hangs('TH3-1502', 4, 0.4);
    const { installationId, staged } = await swap({ busId: 4 });
    newOne = installationId;
    expect(staged).toBe(2);
    const c = await channel();
    expect(c.installation!.sensor.serial).toBe('TH3-1502');
    expect(c.staged!.settings).toEqual(c.written!.settings);
    for (const id of [ids.temperature, ids.humidity]) {
      const revisionId = (await channel(id)).staged!.id;
      expect(
        await writeSettings(bench.at(swapAt + 60_000), S(), id, { actionId: newId(), revisionId }),
      ).toMatchObject({ state: 'done' });
    }
    expect(bench.logger.channels[0]!.history.at(-1)!.source).toMatchObject({ kind: 'modbus-rtu', busId: 4 });
  });
  test('its first reading is set beside the last of the old one, in the field book', async () => {
    // An attempt that fails is no reading.
    bench.logger.busFault = { kind: 'silent', left: 1 };
    await talk(bench.at(swapAt + 90_000), S(), { actionId: newId(), installationId: newOne });
    bench.logger.busFault = null;
    await talk(bench.at(swapAt + 120_000), S(), { actionId: newId(), installationId: newOne });
    await talk(bench.at(swapAt + 180_000), S(), { actionId: newId(), installationId: newOne });
    const sums = (
      await query<{ sum: string }>(
        test_.db,
        `select sum from field_book_line where station_id = :s and sum like '%first reading%' order by occurred_at`,
        { s: S() },
      )
    ).map((l) => l.sum);
    // Said of the first talk alone; the hidden bias of the new one is 0.4 °C.
    expect(sums).toHaveLength(1);
    const difference = Number(
      /air temperature [\d.]+ − [\d.]+ = ([+−][\d.]+) °C/.exec(sums[0]!)![1]!.replace('−', '-'),
    );
    expect(difference).toBeGreaterThan(0.1);
    expect(difference).toBeLessThan(0.8);
    expect((await bookTexts(test_.db, S())).find((t) => t.startsWith('Swapped'))).toMatch(
      /TH3-1188 in Lantern room for Quern TH-3 air transmitter TH3-1502, RS-485 port 1, ID 4: .*: yearly exchange; 2 channels to be written/,
    );
  });
  test('the record goes on in the same channel, from the new one', async () => {
    await (
      await collect(bench.at(swapAt + 6 * 3_600_000), S(), newId())
    ).done;
    const { row } = await channel();
    const values = await query<{ at: Date; value: number }>(
      test_.db,
      'select at, value from reading where channel_key = :key order by at desc limit 3',
      { key: row.key },
    );
    expect(values[0]!.at.getTime()).toBeGreaterThan(swapAt + 5 * 3_600_000);
    const sheet = await stationSheet(test_.db, S(), new Date(swapAt + 6 * 3_600_000));
    expect(sheet.paths[0]!.hops[2]!.configured).toContain('ID 4');
  });
  test('sent twice under one id it is swapped once', async () => {
    expect(await swap({ installationId: newOne, busId: 4 })).toEqual({ installationId: newOne, staged: 0 });
  });
});

describe('a sensor taken out', () => {
  const leftAt = swapAt + 8 * 3_600_000;
  test('ends its mapping and its open off-line window; its channels keep their record', async () => {
    const { installation } = await channel();
    const id = installation!.row.id;
    await beginOffLine(bench.at(leftAt - 600_000), S(), id, {
      reason: 'leads off',
      occurredAt: iso(leftAt - 600_000),
    });
    const request = { reason: 'sent to the laboratory', occurredAt: iso(leftAt) };
    expect(await takeOut(bench.at(leftAt), S(), id, request)).toEqual({ channels: 2, staged: 2 });
    const c = await channel();
    expect([c.installation, c.output]).toEqual([null, null]);
    // The logger is to be told: it would go on storing what its open input shows.
    expect(c.staged!.settings).toEqual({ ...c.written!.settings, enabled: false });
    expect((await clockStrip(test_.db)).offLine).toEqual([]);
    const windows = await activeLayers(test_.db, S(), ids.temperature, leftAt - day, leftAt + day);
    expect(windows.filter((l) => l.kind === 'off-line' && l.reason === 'leads off')).toMatchObject([
      { untilAt: new Date(leftAt) },
    ]);
    expect(await refusal(takeOut(bench.at(leftAt), S(), id, request))).toMatchObject({
      code: 'taken-out-already',
    });
    expect((await connectView(test_.db, S())).installations).toEqual([]);
  });
  test('can hang elsewhere, with the revision it was first installed with', async () => {
    await installTransmitter(bench.at(leftAt + 60_000), S(), {
      installationId: newId(),
      portId: bench.portId,
      ...archiveSensor,
      serial: 'TH3-1502',
      busId: 6,
      zoneName: 'Stair',
      occurredAt: iso(leftAt + 60_000),
    });
    const { installations } = await loadStation(test_.db, S());
    expect(installations.map((i) => [i.sensor.serial, i.row.zoneName, i.sensor.profileRevision])).toEqual([
      ['TH3-1502', 'Stair', 1],
    ]);
  });
});
