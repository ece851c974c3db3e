import { rows } from '@/db/database';
import { type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onCollectedBench, type Connected } from '@/test/onBench';
import { withLease } from '../device/lease';
import { busLine } from '../device/line';
import { newId } from '../id';
import { stationLive } from './live';
import { loadStation } from './stationGraph';

/** What an open station page asks for: fresh values of every hop, without a trace in the books. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onCollectedBench((made) => ({ test_, bench, ids } = made));
const look = async () => {
  const live = await stationLive(bench.at(), bench.stationId);
  return Object.fromEntries(live.channels.map((c) => [c.channelId, c.hops]));
};

test('element, input, conversion and record at this moment; nothing is written', async () => {
  const before = await rows(test_.db.fieldBook);
  const { [ids.temperature]: hops } = await look();
  expect(hops).toEqual({
    element: '16.00 °C',
    input: 'answered',
    conversion: 'raw 1600',
    record: '16.00 °C',
  });
  expect(await rows(test_.db.fieldBook)).toHaveLength(before.length);
  expect(await rows(test_.db.deviceAction, { where: { kind: 'talk' } })).toHaveLength(0);
});

test('a sensor without power: its hops stay as they were, the logger says what it has', async () => {
  bench.logger.sensors[0]!.powered = false;
  const { [ids.temperature]: hops } = await look();
  bench.logger.sensors[0]!.powered = true;
  expect(hops!.element).toBeUndefined();
  expect(hops!.input).not.toBe('answered');
});

test('while somebody else talks on the line it waits, and asks when the line is free', async () => {
  const { ports } = await loadStation(test_.db, bench.stationId);
  let ended = false;
  const other = withLease(test_.db, busLine(ports[0]!.gatewayAddress!), newId(), async () => {
    await new Promise((r) => setTimeout(r, 600));
    ended = true;
  });
  await new Promise((r) => setTimeout(r, 100));
  const { [ids.temperature]: hops } = await look();
  expect([ended, hops!.input]).toEqual([true, 'answered']);
  await other;
});
