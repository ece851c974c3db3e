import { row } from '@/db/database';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { bytesOf, importText } from '@/test/importText';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { collect } from '../record/collect';
import { newId } from '../id';
import { inTime, requirePace } from '../import/pace';
import { operationView, startOperation } from './operation';
import { readLoggerRecord } from '../record/loggerRecord';
import { loadStation } from '../station/stationGraph';
import { sweep } from './sweep';
import { approveSpan } from '../verify/mark';

/** Long work whose process is gone, clocks that jump, lines that go silent. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

/** An operation as a killed process leaves it; its last beat so many seconds from now. */
async function leftBehind(kind: string, beat: number): Promise<string> {
  const id = newId();
  await test_.arrange(
    `insert into operation (id, station_id, kind, person_id, state, beat_at)
     values ($1, $2, $3, $4, 'running', clock_timestamp() + make_interval(secs => $5))`,
    [id, bench.stationId, kind, bench.people.technician.id, beat],
  );
  return id;
}
const state = async (id: string) => (await row(test_.db.operation, { where: { id } }))!.state;

describe('after a crash', () => {
  test.each([
    ['nobody has beaten for a minute', -60],
    ['the clock was set back: its last beat lies hours ahead', 7200],
  ])('%s: said to be lost, in nobody’s way, swept', async (_, beat) => {
    const id = await leftBehind('import', beat);
    expect((await operationView(test_.db, id)).state).toBe('lost');
    await importText(
      bench,
      `time,t\n2025-01-01T00:00:0${beat < 0 ? 1 : 2},4\n`,
      plainPlan([newTemperature(1, `Loft ${beat}`)]),
    );
    expect(await state(id)).toBe('failed');
    const other = await leftBehind('quality', beat);
    await sweep(test_.db);
    expect(await state(other)).toBe('failed');
  });
  test('a record can be signed while an operation of a dead process still says that it runs', async () => {
    await (
      await collect(bench.at(), bench.stationId, newId())
    ).done;
    const dead = await leftBehind('collect', -120);
    const { layerId } = await approveSpan(
      bench.at(present, bench.people.reviewer),
      bench.stationId,
      ids.temperature,
      {
        layerId: newId(),
        from: new Date(present - 5 * 864e5).toISOString(),
        until: new Date(present - 4 * 864e5).toISOString(),
      },
    );
    expect(await row(test_.db.layer, { where: { id: layerId } })).not.toBeNull();
    expect(await state(dead)).toBe('running');
  });
  test('one that lives is left alone, and what ended stays as it ended', async () => {
    let go = () => {};
    const { operation, done } = await startOperation(
      bench.at(),
      { id: newId(), stationId: bench.stationId, kind: 'withdraw' },
      async () => {
        await new Promise<void>((r) => (go = r));
        return { message: 'ended', result: null };
      },
    );
    await sweep(test_.db);
    expect(await state(operation.id)).toBe('running');
    go();
    await done;
    expect(await state(operation.id)).toBe('done');
    await expect(
      test_.db.operation.update({ message: 'other' }, { where: { id: operation.id } }),
    ).rejects.toThrow(/closed/);
  });
});

test('a record without a line break ends with its limit, and the line is closed', async () => {
  let cancelled = false;
  let sent = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      sent++;
      controller.enqueue(bytesOf('7'.repeat(8192)));
    },
    cancel: () => void (cancelled = true),
  });
  const graph = await loadStation(test_.db, bench.stationId);
  const sink = { reading: () => {}, refused: () => {}, piece: async () => {} };
  await expect(readLoggerRecord(body, graph, sink)).rejects.toThrow(/a row of the record is longer than/);
  expect(cancelled).toBe(true);
  expect(sent).toBeLessThan(40);
});

test('a file that stops coming, or trickles, is given up; one that comes is waited for', async () => {
  expect(await inTime(Promise.resolve(7), 50)).toBe(7);
  expect(await refusal(inTime(new Promise(() => {}), 50))).toMatchObject({
    code: 'upload-too-slow',
    status: 408,
  });
  expect(() => requirePace(1000, 59_000)).not.toThrow();
  expect(() => requirePace(1_000_000, 61_000)).not.toThrow();
  expect(() => requirePace(61_000, 61_000)).toThrow(/1000 bytes a second/);
});
