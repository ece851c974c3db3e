import { profiles as shipped, shippedProfile } from '@/catalogue/profiles';
import { refuseDevice } from '@/core/device/equipment';
import { query } from '@/db/database';
import { storedProfile } from '@/db/stored/profile';
import { busSerial } from '@/simulator/scenario';
import { archiveSensor, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newId } from '../id';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { round } from '../trust/round';
import { verifyList, verifyQuery } from '../verify/list';
import { connectView } from './connect';
import { installTransmitter } from './install';
import { newestProfiles, stockProfiles } from './profiles';
import { proposedSettings, stageSettings, writeSettings } from './settings';
import { talk } from './talk';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const now = new Date(present);
const S = () => bench.stationId;

describe('the catalogue that ships', () => {
  test.each(shipped.map((p) => [p.code, p] as const))(
    '%s is whole, and read back as it was written',
    (_, p) => {
      expect(refuseDevice(p)).toBeNull();
      expect(storedProfile.read(JSON.parse(JSON.stringify(p)))).toEqual(p);
      if (p.kind === 'sensor' && p.connection.kind === 'modbus-rtu')
        for (const signal of ['supply+', 'supply−', 'data+', 'data−'])
          expect(p.leads.some((l) => l.signal === signal)).toBe(true);
    },
  );
  test('is put on file once; what was released under a number stays what it was', async () => {
    expect(await stockProfiles(test_.db)).toBe(0);
    await test_.arrange(`update device_profile set sha256 = 'another' where code = 'quern-th3'`);
    await expect(stockProfiles(test_.db)).rejects.toThrow('profile quern-th3 revision 1 differs');
    await test_.arrange(`delete from device_profile where code = 'quern-th3'`);
    expect(await stockProfiles(test_.db)).toBe(1);
  });
  test('cannot be written over by the application', async () => {
    await expect(query(test_.db, `update device_profile set body = '{}'`)).rejects.toThrow(
      /permission denied/,
    );
    await expect(query(test_.db, 'delete from device_profile')).rejects.toThrow(/permission denied/);
  });
});

describe('a sensor keeps the revision it was installed with', () => {
  const changed = { ...shippedProfile('quern-th3')!, revision: 2 };
  const second = {
    ...changed,
    outputs: changed.outputs.map((o) => ({
      ...o,
      key: `${o.key}New`,
      accuracy: { absolute: 0.1, ofReading: 0, ofRange: 0 },
    })),
  };
  const addSecond = () =>
    test_.arrange(
      `insert into device_profile (code, revision, body, sha256) values ('quern-th3', 2, $1, 'x')`,
      [JSON.stringify(second)],
    );
  const element = async () =>
    (await stationSheet(test_.db, S(), now)).paths.find((p) => p.channelId === ids.temperature)!.hops[0]!
      .configured;
  test('its tolerance stays; what is installed today takes the newest', async () => {
    expect(await element()).toBe('Quern TH-3 air transmitter, ±0.3 °C');
    await addSecond();
    expect(await element()).toBe('Quern TH-3 air transmitter, ±0.3 °C');
    expect((await newestProfiles(test_.db)).find((p) => p.code === 'quern-th3')!.revision).toBe(2);
    const { installationId } = await installTransmitter(bench.at(), S(), {
      installationId: newId(),
      portId: bench.portId,
      ...archiveSensor,
      serial: 'TH3-1240',
      busId: 2,
      zoneName: 'Chart drawers',
      occurredAt: now.toISOString(),
    });
    const { installations } = await loadStation(test_.db, S());
    expect(installations.find((i) => i.row.id === installationId)!.sensor.profileRevision).toBe(2);
  });
});

test('a sensor that hung elsewhere before is connected by the revision it has, not by the newest', async () => {
  await test_.arrange(
    `insert into sensor (id, profile_code, profile_revision, serial) values ($1, 'quern-th3', 1, 'TH3-1003')`,
    [newId()],
  );
  const { channelIds } = await installTransmitter(bench.at(), S(), {
    installationId: newId(),
    portId: bench.portId,
    ...archiveSensor,
    serial: 'TH3-1003',
    busId: 9,
    zoneName: 'Attic',
    occurredAt: now.toISOString(),
  });
  const { channels } = await loadStation(test_.db, S());
  const outputs = channels.filter((c) => channelIds.includes(c.row.id)).map((c) => c.output?.key);
  expect(outputs).toEqual(['airTemperature', 'humidity']);
});

describe('two outputs of one quantity', () => {
  let channelIds: string[] = [];
  let installationId = '';
  beforeAll(async () => {
    bench.state.places['ARCH-1/Cistern/temperature30cm'] = { waterTemperature: { base: 9 } };
    bench.state.places['ARCH-1/Cistern/temperature90cm'] = { waterTemperature: { base: 7.5 } };
    bench.logger.sensors.push({
      serial: 'S2-0007',
      model: 'ness-s2',
      busId: 5,
      serialSettings: busSerial,
      place: 'ARCH-1/Cistern',
      powered: true,
      truths: { temperature30cm: { noise: 0 }, temperature90cm: { noise: 0 } },
    });
    installationId = newId();
    const before = present - 86_400_000;
    ({ channelIds } = await installTransmitter(bench.at(before), S(), {
      installationId,
      portId: bench.portId,
      ...archiveSensor,
      profileCode: 'ness-s2',
      serial: 'S2-0007',
      busId: 5,
      zoneName: 'Cistern',
      occurredAt: new Date(before).toISOString(),
    }));
    for (const channelId of channelIds) {
      const channel = (await loadStation(test_.db, S())).channels.find((c) => c.row.id === channelId)!;
      const revisionId = newId();
      const settings = proposedSettings(channel);
      await stageSettings(bench.at(before), S(), channelId, { revisionId, basedOn: 0, settings });
      expect(
        await writeSettings(bench.at(before), S(), channelId, { actionId: newId(), revisionId }),
      ).toMatchObject({ state: 'done' });
    }
    bench.at();
  });
  test('are talked to apart: floats, low word first, in holding registers', async () => {
    const said = await talk(bench.at(), S(), { actionId: newId(), installationId });
    expect(said.fault).toBeNull();
    // Holding registers 100 to 103 in one request: 05 03 0064 0004.
    expect(said.frames[0]!.hex).toMatch(/^05 03 00 64 00 04 /);
    const [upper, lower] = said.decoded;
    expect(upper).toMatchObject({ output: 'temperature30cm', register: 100 });
    expect(upper!.value).toBeCloseTo(9, 0);
    expect(lower!.value).toBeCloseTo(7.5, 0);
    expect(upper!.value! - lower!.value!).toBeGreaterThan(1);
  });
  test('are stored apart, each from its own registers', async () => {
    await (
      await collect(bench.at(), S(), newId())
    ).done;
    const { channels } = await loadStation(test_.db, S());
    const mean = async (id: string) =>
      (
        await query<{ mean: number; n: number }>(
          test_.db,
          'select avg(value) as mean, count(*)::int as n from reading where channel_key = :key',
          { key: channels.find((c) => c.row.id === id)!.row.key },
        )
      )[0]!;
    const [upper, lower] = [await mean(channelIds[0]!), await mean(channelIds[1]!)];
    expect(upper.n).toBeGreaterThan(100);
    expect(upper.n).toBe(lower.n);
    expect(upper.mean - lower.mean).toBeCloseTo(1.5, 1);
    expect(channels.filter((c) => channelIds.includes(c.row.id)).map((c) => c.row.zoneName)).toEqual([
      'Cistern 30 cm down',
      'Cistern 90 cm down',
    ]);
  });
});

describe('a profile that is not there', () => {
  test.each([
    ['gone', `delete from device_profile where code = 'quern-th3' and revision = 1`],
    [
      'of a form nobody reads',
      `insert into device_profile (code, revision, body, sha256) values ('quern-th3', 1, '{"v": 99}', 'x')`,
    ],
  ])('%s: a finding, and every list goes on', async (_name, sql) => {
    await test_.arrange(sql);
    await test_.arrange('insert into standing_mark (station_id) values ($1)', [S()]);
    const sheet = await stationSheet(test_.db, S(), now);
    expect(sheet.findings.filter((f) => f.code === 'profile-missing')).toMatchObject([
      {
        text: '2 sensors: its profile quern-th3 1 is not on file',
        stone: 'settings',
        state: 'displaced',
      },
    ]);
    expect((await round(test_.db, now)).stops.map((s) => s.code)).toContain('ARCH-1');
    const { rows } = await verifyList(test_.db, verifyQuery(new URLSearchParams()), now);
    expect(rows.find((r) => r.channelId === ids.temperature)).toMatchObject({ word: 'no profile' });
    expect((await connectView(test_.db, S())).installations.map((i) => i.modelName)).toContain(
      'unknown model quern-th3',
    );
    expect(
      await refusal(talk(bench.at(), S(), { actionId: newId(), installationId: ids.installationId })),
    ).toMatchObject({ code: 'profile-missing' });
  });
});
