import { rows } from '@/db/database';
import { begin, bench, capture, close, onChecks, test_, threeOf, view } from '@/test/onChecks';
import { correctionProposals } from '../verify/correct';
import { channelOf, loadStation } from '../station/stationGraph';

/** A dirty sensor: cleaned in its check, judged by what is left, its record proposed for both. */
onChecks();

test('what cleaning changes is fouling; the verdict is of what is left, and the record is put right by both', async () => {
  const first = await begin('temperature', { school: 'gum' });
  await threeOf(first, 'airTemperature');
  await close(first);
  const truths = bench.logger.sensors[0]!.truths;
  truths.airTemperature = { noise: 0.004, bias: -0.9 };
  const id = await begin('temperature', { school: 'gum' });
  await threeOf(id, 'airTemperature');
  expect((await view(id)).verdict).toMatchObject({ kind: 'adjust' });
  truths.airTemperature = { noise: 0.004, bias: 0.02 };
  await capture(id, 'airTemperature', { afterCleaning: true });
  expect((await view(id)).verdict).toEqual({ kind: 'not-settled', why: 'too-few' });
  // What was cleaned stays clean, said or not.
  await capture(id, 'airTemperature');
  await capture(id, 'airTemperature');
  const v = await view(id);
  expect(v.readings.map((r) => r.afterCleaning)).toEqual([false, false, false, true, true, true]);
  expect(v.verdict).toEqual({ kind: 'agree' });
  expect(v.fouling!.value).toBeCloseTo(0.92, 1);
  expect(v.fouling!.doubt).toBeLessThan(0.2);
  await close(id);
  const sums = (await rows(test_.db.fieldBook, { where: { stationId: bench.stationId } })).map((l) => l.sum);
  expect(sums).toContainEqual(expect.stringMatching(/cleaning changed it by \+0\.[89]\d °C/));
  const graph = await loadStation(test_.db, bench.stationId);
  const [proposal] = await correctionProposals(test_.db, bench.stationId, channelOf(graph, v.channelId));
  // It logged 0.9 too little until it was cleaned.
  expect(proposal!.foundAtSecond).toBeCloseTo(-0.9, 0);
  expect(proposal).toMatchObject({ worthwhile: true });
  expect(proposal!.linear.untilOffset).toBeCloseTo(0.9, 0);
});
