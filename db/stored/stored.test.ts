import { defaultThresholds } from '@/core/quality/thresholds';
import { must, number, shape, text } from '@/schema/shape';
import { testDatabase, type TestDatabase } from '@/test/database';
import { plainCheckPlan } from '@/test/plainCheckPlan';
import { row } from '../database';
import { settingIntent, talkOutcome } from './action';
import { storedCheckPlan } from './check';
import { storedLayer } from './layer';
import { storedThresholds } from './settings';
import { stored, StoredError } from './stored';

/** A kind of JSON that has had three versions. */
interface Mark {
  readonly metres: number;
  readonly by: string;
}
const mark = stored('a mark', shape<Mark>({ metres: must(number()), by: must(text()) }), [
  ({ feet, ...rest }) => ({ ...rest, metres: Number(feet) * 0.3048 }),
  (old) => ({ ...old, by: 'unknown' }),
]);

describe('JSON that is read back', () => {
  test('whatever version wrote it, it is read as the newest', () => {
    expect(mark.read({ feet: 10 })).toEqual({ metres: 3.048, by: 'unknown' });
    expect(mark.read({ v: 2, metres: 3 })).toEqual({ metres: 3, by: 'unknown' });
    expect(mark.read(mark.write({ metres: 3, by: 'IK' }))).toEqual({ metres: 3, by: 'IK' });
    expect(mark.write({ metres: 3, by: 'IK' })).toEqual({ v: 3, metres: 3, by: 'IK' });
  });
  test('what a newer program wrote, or what is no such thing, is refused in words', () => {
    expect(() => mark.read({ v: 4, metres: 3, by: 'IK' })).toThrow(
      'a mark is stored in version 4 and this program reads up to 3: run the newer program.',
    );
    expect(() => mark.read({ v: 3, metres: 'x', by: 'IK' })).toThrow(StoredError);
    expect(() => mark.read(null)).toThrow(StoredError);
    expect(() => mark.read({ v: 'two' })).toThrow(StoredError);
  });
  test('what is not read is left out, so that old extras harm nobody', () =>
    expect(storedLayer.read({ source: 'person', flag: 3, colour: 'red' })).toEqual({
      source: 'person',
      flag: 3,
    }));
});

/** A plan as the first release wrote it. */
const firstPlan = (() => {
  const {
    procedure: _,
    companions: __,
    points: ___,
    comparesDirectly: ____,
    pools: _____,
    sensorResponse: ______,
    ...shared
  } = plainCheckPlan;
  return { ...shared, temperature: null };
})();

test('plans of checks from before they had procedures, and before they had earlier repeats', () => {
  const { temperature: none, ...first } = firstPlan;
  expect(none).toBeNull();
  const shared = { ...first, pools: false, sensorResponse: 0 };
  const temperature = {
    channelNumber: 1,
    unit: '°C',
    sensorTolerance: 0.3,
    referenceTolerance: 0.2,
    referenceRange: [-30, 60],
  };
  expect(storedCheckPlan.read({ v: 2, ...shared, temperature: null })).toEqual({
    ...plainCheckPlan,
    comparesDirectly: false,
  });
  const humid = { ...shared, quantity: 'humidity', unit: '%RH' };
  const both = [
    { key: 'sensorTemperature', channel: { number: 1, unit: '°C' }, tolerance: 0.3, range: [-60, 80] },
    { key: 'referenceTemperature', channel: null, tolerance: 0.2, range: [-30, 60] },
  ];
  expect(
    storedCheckPlan.read({ v: 2, ...humid, temperature: { ...temperature, direct: true } }),
  ).toMatchObject({
    procedure: 'one-air',
    companions: both,
    comparesDirectly: true,
    points: [],
  });
  expect(
    storedCheckPlan.read({ ...firstPlan, quantity: 'humidity', unit: '%RH', temperature }),
  ).toMatchObject({
    procedure: 'one-air',
    companions: both,
    comparesDirectly: false,
    pools: false,
  });
});

test('talks and settings from before outputs had keys', () => {
  const decoded = [{ quantity: 'humidity', register: 1, raw: 5520, value: 55.2 }];
  expect(talkOutcome.read({ fault: null, detail: 'answered', frames: [], decoded }).decoded).toEqual([
    { ...decoded[0], output: 'humidity' },
  ]);
  const settings = {
    description: 'x',
    enabled: true,
    quantity: 'humidity',
    unit: '%RH',
    measurementInterval: 60,
    storageInterval: 600,
    adjustIn: 'device',
  };
  const old = { revisionId: 'r', number: 1, settings, source: { busId: 1, register: 1 }, says: 's' };
  // What a register meant stood in the catalogue of its day.
  expect(settingIntent.read(old)).toEqual({ ...old, source: null });
});

describe('in the database', () => {
  let test_: TestDatabase;
  beforeAll(async () => (test_ = await testDatabase()));
  afterAll(() => test_.close());
  const station = '01932c07-0000-7000-8000-000000000001';

  test('thresholds from before there was a climatology test: that test is off, the others hold', async () => {
    const { climatology: _, ...old } = defaultThresholds('airTemperature');
    expect(storedThresholds.read(old)).toEqual({ ...old, climatology: null });
    await test_.arrange('alter table quality_setting disable trigger all');
    await test_.arrange(
      `insert into quality_setting (station_id, id, channel_id, thresholds, person_id, set_at)
       values ('${station}', '${station}', '${station}', '${JSON.stringify(old)}', '${station}', now())`,
    );
    const found = await row(test_.db.qualitySetting, { where: { stationId: station } });
    expect(found!.thresholds).toEqual({ ...old, climatology: null });
  });
});

test('JSON is read by its parser whichever copy of the program asks', async () => {
  // The framework loads modules once per bundle, and all bundles share one set of tables.
  const test_ = await testDatabase();
  let another: typeof import('../table') | undefined;
  await jest.isolateModulesAsync(async () => {
    another = await import('../table');
  });
  const read = another!.parsed(test_.db.check, { plan: { ...firstPlan } });
  expect(read).toMatchObject({ plan: { procedure: 'side-by-side', companions: [] } });
  await test_.close();
});
