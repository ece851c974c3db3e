import { collect } from '@/server/record/collect';
import { newId } from '@/server/id';
import { connectSensor, testBench, type TestBench } from './bench';
import { testDatabase, type TestDatabase } from './database';

/** What one test file works on: a database of its own and a bench on it. */
export interface Made {
  readonly test_: TestDatabase;
  readonly bench: TestBench;
}

export type Connected = Awaited<ReturnType<typeof connectSensor>>;

/** Makes them before the file's tests and closes them after; nothing is connected yet. */
export function onBench(take: (made: Made) => void): void {
  let made: Made;
  beforeAll(async () => {
    const test_ = await testDatabase();
    made = { test_, bench: await testBench(test_.db) };
    take(made);
  });
  afterAll(async () => {
    await made.bench.close();
    await made.test_.close();
  });
}

/** The same with one transmitter connected, `days` before the present. */
export function onConnectedBench(take: (made: Made & { ids: Connected }) => void, days = 10): void {
  let made: Made;
  onBench((m) => (made = m));
  beforeAll(async () => take({ ...made, ids: await connectSensor(made.bench, days) }));
}

/** The same with its record collected; the sensor measures 16 °C and 55 %RH. */
export function onCollectedBench(take: (made: Made & { ids: Connected }) => void): void {
  let bench: TestBench;
  onConnectedBench((made) => {
    bench = made.bench;
    take(made);
  });
  beforeAll(async () => {
    bench.state.places['ARCH-1/Lantern room'] = { airTemperature: { base: 16 }, humidity: { base: 55 } };
    bench.logger.sensors[0]!.truths = { airTemperature: {}, humidity: {} };
    await (
      await collect(bench.at(), bench.stationId, newId())
    ).done;
  });
}
