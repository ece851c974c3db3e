import { shippedProfile } from '@/catalogue/profiles';
import { addProfile as request } from '@/contract/planRequests';
import type { SensorProfile } from '@/core/device/profile';
import { query } from '@/db/database';
import { busSerial } from '@/simulator/scenario';
import { day, present, testBench, type TestBench } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { onBench } from '@/test/onBench';
import { device, planOf } from '@/test/plan';
import { describeLogger } from '../administer/describeLogger';
import { newId } from '../id';
import { installPlanned } from '../plan/installPlanned';
import { savePlan } from '../plan/plan';
import { collect } from '../record/collect';
import { loadStation, toleranceOf } from '../station/stationGraph';
import { addProfile, profileOnFile } from './addProfile';
import { proposedSettings, stageSettings, writeSettings } from './settings';

/** A profile of one's own in two installations: where it was made, and where its JSON was brought in. */
let here: { test_: TestDatabase; bench: TestBench };
let there: { test_: TestDatabase; bench: TestBench };
onBench((made) => (here = made));
beforeAll(async () => {
  const test_ = await testDatabase();
  there = { test_, bench: await testBench(test_.db) };
});
afterAll(async () => {
  await there.bench.close();
  await there.test_.close();
});

/** A level float of one's own making: 0–5 V over 0.2 to 4.2 m, ± 3 cm. */
const own = (): SensorProfile => {
  const like = shippedProfile('kelda-x1')!;
  const [output] = like.outputs;
  return {
    ...like,
    code: 'own-float',
    revision: 1,
    name: 'Float of our own',
    outputs: [
      {
        ...output!,
        key: 'waterLevel',
        quantity: 'waterLevel',
        conversion: [{ step: 'linear', gain: 0.8, offset: 0.2 }],
        range: [0.2, 4.2],
        accuracy: { absolute: 0.03, ofReading: 0, ofRange: 0 },
        resolution: 0.001,
      },
    ],
  };
};

/** Plans, installs and reads one; what is in the record at nine o'clock, and its tolerance. */
async function used({ test_, bench }: typeof here): Promise<{ value: number; tolerance: number }> {
  const S = bench.stationId;
  const ctx = () => bench.at(present - day);
  await describeLogger(ctx(), S, 'brannoch-b4');
  const id = newId();
  const planned = device('kelda-x1', { red: 'SW', black: 'AG1', yellow: 'A1' }, { id, name: 'Weir' });
  await savePlan(ctx(), S, {
    basedOn: 0,
    plan: planOf('brannoch-b4', [
      { ...planned, profile: { code: 'own-float', revision: 1 }, mapped: ['waterLevel'] },
    ]),
  });
  const { channelIds } = await installPlanned(ctx(), S, {
    deviceId: id,
    revision: 1,
    serial: 'F-1',
    landed: [
      { colour: 'red', terminal: 'SW' },
      { colour: 'black', terminal: 'AG1' },
      { colour: 'yellow', terminal: 'A1' },
    ],
    mounted: [],
    deviation: '',
    occurredAt: new Date(present - day).toISOString(),
  });
  // What hangs there puts out 2.5 V; what that means, the logger is told.
  bench.state.places['ARCH-1/Weir'] = { signal: { base: 2.5 } };
  bench.logger.sensors.push({
    serial: 'F-1',
    model: 'kelda-x1',
    busId: null,
    wired: { red: 'SW', black: 'AG1', yellow: 'A1' },
    serialSettings: busSerial,
    place: 'ARCH-1/Weir',
    powered: true,
    truths: { signal: { noise: 0 } },
  });
  const channelId = channelIds[0]!;
  const channel = async () => (await loadStation(test_.db, S)).channels.find((c) => c.row.id === channelId)!;
  const revisionId = newId();
  const settings = proposedSettings(await channel(), 600);
  await stageSettings(ctx(), S, channelId, { revisionId, basedOn: 0, settings });
  await writeSettings(ctx(), S, channelId, { actionId: newId(), revisionId });
  await (
    await collect(bench.at(), S, newId())
  ).done;
  const [read] = await query<{ value: number }>(
    test_.db,
    `select r.value from reading r join channel c on c.key = r.channel_key
      where c.id = :channelId and r.at = '2026-03-02T09:00:00Z'`,
    { channelId },
  );
  return { value: read!.value, tolerance: toleranceOf(await channel()) };
}

test('made here, exported, brought in there: the same profile, the same reading', async () => {
  await addProfile(here.bench.at(), own());
  const text = JSON.stringify(await profileOnFile(here.bench.at(), 'own-float', null));
  const { value, error } = request.validate({ profile: JSON.parse(text) as unknown });
  expect(error).toBeUndefined();
  await addProfile(there.bench.at(), value.profile);
  const hashes = await Promise.all(
    [here, there].map(async ({ test_ }) =>
      query(test_.db, `select sha256, body from device_profile where code = 'own-float'`),
    ),
  );
  expect(hashes[0]).toEqual(hashes[1]);
  // 0.8 × 2.5 + 0.2 = 2.2 m.
  for (const installation of [here, there]) {
    const { value: level, tolerance } = await used(installation);
    expect(level).toBeCloseTo(2.2, 3);
    expect(tolerance).toBe(0.03);
  }
});

test('edited there, nothing that hangs is another: its conversion, its tolerance, its reading', async () => {
  const { test_, bench } = there;
  const [output] = own().outputs;
  await addProfile(bench.at(), {
    ...own(),
    revision: 2,
    outputs: [
      {
        ...output!,
        conversion: [{ step: 'linear', gain: 1.6, offset: 0 }],
        accuracy: { absolute: 0.5, ofReading: 0, ofRange: 0 },
      },
    ],
  });
  const graph = await loadStation(test_.db, bench.stationId);
  const channel = graph.channels.find((c) => c.row.quantity === 'waterLevel')!;
  expect(toleranceOf(channel)).toBe(0.03);
  expect(channel.output!.conversion).toEqual([{ step: 'linear', gain: 0.8, offset: 0.2 }]);
  await (
    await collect(bench.at(present + 3_600_000), bench.stationId, newId())
  ).done;
  const read = await query<{ value: number }>(
    test_.db,
    `select r.value from reading r join channel c on c.key = r.channel_key where c.id = :id`,
    { id: channel.row.id },
  );
  expect(read.every((r) => Math.abs(r.value - 2.2) < 0.001)).toBe(true);
});
