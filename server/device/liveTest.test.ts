import type { LiveTestResult } from '@/core/check/liveTest';
import { obey } from '@/simulator/lab';
import { onHungStation } from '@/test/hungStation';
import type { OnStation } from '@/test/onStation';
import { newId } from '../id';
import { operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { testChannel } from './liveTest';

/** A live test of a radar that says how it hangs. */
let sluice: OnStation;
onHungStation('SLUICE-1', 30, (made) => (sluice = made));
const radar = () => sluice.logger.sensors.find((s) => s.model === 'ness-l2')!;
const hang = (tilt: number) =>
  obey(sluice.stand.state, { sensor: { serial: radar().serial, set: { tilt } } });
async function tested(tries: number, meanwhile: () => void = () => {}): Promise<LiveTestResult> {
  const { channels } = await loadStation(sluice.test_.db, sluice.stationId);
  const level = channels.find((c) => c.row.quantity === 'waterLevel')!;
  const operationId = newId();
  const { done } = await testChannel(sluice.at(), sluice.stationId, level.row.id, { operationId, tries });
  meanwhile();
  await done;
  return (await operationView(sluice.test_.db, operationId)).result as LiveTestResult;
}

test('it hangs right: every try is good', async () => {
  expect(await tested(2)).toMatchObject({ tries: 2, good: 2, failures: [] });
});

test('tilted, and put right while it is tested: n of m, and why not the others', async () => {
  hang(4.2);
  const result = await tested(4, () => setTimeout(() => hang(0.3), 1500));
  expect(result.good).toBeGreaterThan(0);
  expect(result.failures).toEqual([
    { why: 'tilted: 4.2° from the vertical, 2° at most', n: 4 - result.good },
  ]);
}, 240_000);
