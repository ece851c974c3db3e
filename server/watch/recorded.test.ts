import { rehearseRecorded } from '@/core/watch/recorded';
import { noRule, type WatchRule } from '@/core/watch/rule';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { uniform } from '@/test/simulate';
import { arrive, humid } from '@/test/watch';
import { beginOffLine, endOffLine } from '../device/offLine';
import { channelOf, loadStation } from '../station/stationGraph';
import { loadRecorded, rehearsalRecord, rehearseHere } from './recorded';

/** A record long enough to be read by its loud hours: thirty days of minutes, with holes and an off-line window. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
const day = 1440 * minute;
const [from, until] = [present, present + 30 * day];
const iso = (ms: number) => new Date(ms).toISOString();

beforeAll(async () => {
  const random = uniform(7);
  const values: [number, number][] = [];
  let walk = 0;
  for (let at = from + minute; at < until; at += minute) {
    walk = Math.max(-6, Math.min(6, walk + random() - 0.5));
    // A day's course, now and then a peak, twice a hole of hours.
    const hole = (at - from) % (11 * day) < 5 * 60 * minute && at - from > day;
    const peak = (at - from) % (4 * day) < 50 * minute ? 15 : 0;
    if (!hole) values.push([at, Math.round(10 * (52 + 5 * Math.sin(at / day / 0.16) + walk + peak)) / 10]);
  }
  await arrive(bench.at(until), bench.stationId, { [ids.humidity]: values });
  const off = (ms: number) => ({ reason: 'strip pulled', occurredAt: iso(ms) });
  await beginOffLine(bench.at(from + 8 * day), bench.stationId, ids.installationId, off(from + 8 * day));
  const end = from + 8 * day + 200 * minute;
  await endOffLine(bench.at(end), bench.stationId, ids.installationId, { occurredAt: iso(end) });
});

/** The same from every value of the record. */
async function byEveryValue(rule: WatchRule) {
  const graph = await loadStation(test_.db, bench.stationId);
  const channel = channelOf(graph, ids.humidity);
  const whole = await loadRecorded(test_.db, graph, channel, { from, until, beside: [], before: 0 });
  const interval = channel.written!.settings.storageInterval;
  return rehearseRecorded(rule, whole, {
    asArrived: false,
    zone: graph.site.zone,
    gap: 3 * interval * 1000,
    besideOldest: 2 * interval * 1000,
  });
}
const here = (rule: WatchRule, more: { from?: number; until?: number } = {}) =>
  rehearseHere(bench.at(until), bench.stationId, ids.humidity, {
    rule,
    from: iso(more.from ?? from),
    until: iso(more.until ?? until),
    asArrived: false,
  });
const limits = (low: number | null, high: number | null) => ({ farLow: null, low, high, farHigh: null });

test.each<[string, Partial<WatchRule>]>([
  ['a limit that rings now and then', { limits: limits(null, 66), hysteresis: 2, delay: 600 }],
  ['both sides, without a deadband', { limits: limits(43, 64), hysteresis: 0 }],
  ['a wide deadband and a long delay', { limits: limits(null, 62), hysteresis: 8, delay: 3600 }],
  ['a silence of hours', { limits: limits(null, 70), hysteresis: 1, silentAfter: 3 * 3600 }],
  [
    'hours of the day',
    {
      limits: limits(null, 62),
      hysteresis: 2,
      hours: { months: null, weekdays: null, fromMinute: 480, untilMinute: 1080 },
    },
  ],
])('%s: read by its loud hours it is what every value says', async (_, change) => {
  const rule = { ...noRule, ...change };
  const [skipped, whole] = [await here(rule), await byEveryValue(rule)];
  expect(whole.rings.length).toBeGreaterThan(1);
  expect(skipped.rings).toEqual(whole.rings);
  expect([skipped.missed, skipped.missedCount, skipped.ringsPerMonth]).toEqual([
    whole.missed,
    whole.missedCount,
    whole.ringsPerMonth,
  ]);
  expect(skipped.readings).toBeGreaterThan(40_000);
});

test('in the window of the off-line sensor nothing rang, and what it logged there is missed for that', async () => {
  const played = await here(humid({ limits: limits(null, 61) }), {
    from: from + 8 * day,
    until: from + 8 * day + 200 * minute,
  });
  expect(played.rings).toEqual([]);
  expect(new Set(played.missed.map((m) => m.why))).toEqual(new Set(['off-line']));
});

describe('what is sent to a browser', () => {
  const sent = (a: number, b: number, more: { beside?: string[]; before?: number } = {}) =>
    rehearsalRecord(bench.at(until), bench.stationId, ids.humidity, {
      from: iso(a),
      until: iso(b),
      beside: more.beside ?? [],
      before: more.before ?? 0,
    });
  test('values with their arrivals, run by run, and what lies over them', async () => {
    const record = await sent(from + 8 * day, from + 9 * day);
    expect([record.at.length, record.value.length, record.tooLong]).toEqual([1440, 1440, false]);
    expect(record.runs).toEqual([[0, 0]]);
    expect(record.arrived).toEqual([[0, until]]);
    // While the window was open nobody knew its end; from then on both ends are known.
    const [begun, ended] = [from + 8 * day, from + 8 * day + 200 * minute];
    expect(record.offLine).toEqual([
      { from: begun, until: null, knownFrom: begun, knownUntil: ended },
      { from: begun, until: ended, knownFrom: ended, knownUntil: null },
    ]);
    expect(record.doubted.some((d) => d.kind === 'off-line')).toBe(true);
  });
  test('what a rate looks back at, no further than a day; another channel, as far as it goes', async () => {
    const record = await sent(from + 3 * day, from + 4 * day, { before: 3600, beside: [ids.temperature] });
    expect(record.before.at.length).toBe(60);
    expect(record.before.at.every((t) => t < 0)).toBe(true);
    expect(record.beside[ids.temperature]!.at).toEqual([]);
    expect(
      (await sent(from + 3 * day, from + 4 * day, { before: 1e9 })).before.at.length,
    ).toBeLessThanOrEqual(1440);
    expect(
      await refusal(sent(from, until, { beside: ['00000000-0000-7000-8000-000000000009'] })),
    ).toMatchObject({
      status: 404,
    });
  });
  test('a window that ends before it begins is refused, an empty one is empty', async () => {
    expect(await refusal(sent(until, from))).toMatchObject({ code: 'empty-window' });
    const none = await sent(from - 60 * day, from - 59 * day);
    expect([none.at, none.readings, none.tooLong]).toEqual([[], 0, false]);
  });
});
