import type { ThresholdPreviewView } from '@/contract/recordViews';
import { setTests } from '@/core/quality/tests';
import { refuseThresholds } from '@/core/quality/thresholds';
import { contextNeeded, runTests } from '@/core/quality/runTests';
import { usualInterval } from '@/core/quality/timing';
import { readSeries } from '@/db/bulk';
import type { Context } from '../context';
import type { PreviewThresholds } from '@/contract/verifyRequests';
import { badField } from '../problem';
import { channelOf, loadStation } from '../station/stationGraph';
import { traceWindow } from '../record/trace';

/** So many readings are tested for a look; a longer window is tested when it is saved. */
const mostReadings = 400_000;

/** How many values of a window each test would flag by thresholds that are not saved. Nothing is written. */
export async function previewThresholds(
  ctx: Context,
  stationId: string,
  channelId: string,
  { from, until, thresholds }: PreviewThresholds,
): Promise<ThresholdPreviewView> {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  const { key, quantity } = channel.row;
  const refused = refuseThresholds(quantity, thresholds);
  if (refused) throw badField('bad-threshold', refused.field, refused.value, refused.detail, refused.remedy);
  const window = traceWindow(from, until, null, ctx.now());
  return ctx.db.transact(async (tx) => {
    const read = (a: number, b: number, limit?: number) =>
      readSeries(tx, graph.station.key, key, a, b, limit);
    const first = await read(window.from, window.until, mostReadings + 1);
    const n = Math.min(first.times.length, mostReadings);
    const interval =
      channel.written?.settings.storageInterval ?? usualInterval(first.times.subarray(0, 5000)) ?? 600;
    const before = contextNeeded(thresholds, interval) * interval * 1000;
    const end = n < first.times.length ? first.times[n]! * 1000 : window.until + 3 * interval * 1000;
    const series = await read(window.from - before, end);
    const at = series.times.findIndex((t) => t * 1000 >= window.from);
    const judged =
      at < 0 ? { from: 0, until: 0 } : { from: at, until: Math.min(series.times.length, at + n) };
    const spans = runTests(series, quantity, thresholds, interval, judged);
    const count = (test: string, flag: number) =>
      spans.filter((s) => s.test === test && s.flag === flag).reduce((sum, s) => sum + s.n, 0);
    return {
      readings: judged.until - judged.from,
      whole: n === first.times.length,
      counts: Object.fromEntries(
        setTests.map((test) => [test, { suspect: count(test, 3), failed: count(test, 4) }]),
      ) as ThresholdPreviewView['counts'],
    };
  });
}
