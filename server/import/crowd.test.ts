import { query, row } from '@/db/database';
import { refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { bytesOf, importText, streamOf } from '@/test/importText';
import { onBench } from '@/test/onBench';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { plainStation } from '@/test/plainStation';
import { addStation } from '../administer/addStation';
import { newId } from '../id';
import { cancelOperation } from '../process/operation';
import { importView } from './view';

let test_: TestDatabase;
let bench: TestBench;
onBench((made) => ({ test_, bench } = made));

const start = Date.UTC(2022, 0, 1);
const text = `time,t\n${Array.from({ length: 4000 }, (_, i) => `${new Date(start + i * 60_000).toISOString().slice(0, 19)},${i % 9}`).join('\n')}`;
const stations: { stationId: string }[] = [];
beforeAll(async () => {
  const admin = bench.at(undefined, bench.people.administrator);
  for (let i = 0; i < 14; i++) stations.push(await addStation(admin, plainStation(`CROWD-${i}`)));
});
/** Slow enough that all of them are under way together. */
const importAt = (stationId: string, zone: string, id = newId()) =>
  importText({ ...bench, stationId }, text, plainPlan([newTemperature(1, zone)]), {
    id,
    stream: streamOf(bytesOf(text), 4096, 30),
  });

test('more files at once than the database has connections for: each goes through, and the rest of the work too', async () => {
  let slowest = 0;
  let over = false;
  const others = (async () => {
    while (!over) {
      const began = Date.now();
      await query(test_.db, 'select 1 as x');
      slowest = Math.max(slowest, Date.now() - began);
      await new Promise((r) => setTimeout(r, 20));
    }
  })();
  const results = await Promise.all(stations.map(({ stationId }) => importAt(stationId, 'Crowd')));
  over = true;
  await others;
  expect(results.map((r) => r.stored)).toEqual(stations.map(() => 4000));
  expect(slowest).toBeLessThan(5000);
});

test('one that is stopped while it waits for its turn is absent, and says so', async () => {
  const busy = Promise.all(stations.slice(0, 4).map(({ stationId }) => importAt(stationId, 'Busy')));
  await new Promise((r) => setTimeout(r, 200));
  const { stationId } = stations[5]!;
  const id = newId();
  const waiting = refusal(importAt(stationId, 'Waiting', id));
  for (let i = 0; i < 50 && !(await row(test_.db.operation, { where: { id } })); i++)
    await new Promise((r) => setTimeout(r, 20));
  expect(await cancelOperation(test_.db, id)).toMatchObject({ message: 'Waiting for others to end' });
  expect((await waiting).code).toBe('import-cancelled');
  expect(await importView(test_.db, stationId, id)).toMatchObject({
    state: 'absent',
    message: 'The import was cancelled. Nothing of it was kept.',
  });
  await busy;
});
