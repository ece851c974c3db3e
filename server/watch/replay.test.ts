import { query } from '@/db/database';
import { present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { uniform } from '@/test/simulate';
import { thorough } from '@/test/thorough';
import { arrive, humid, newRule } from '@/test/watch';
import { beginOffLine, endOffLine } from '../device/offLine';
import { evaluateStations } from './evaluate';
import { rehearseHere } from './recorded';
import { setWatchRule } from './rules';

/**
 * A week as it came, with collections that were late, values that were older than they may be to ring, an off-line window
 * and a silence: what watching raised then, and what a rehearsal says of it afterwards, ring for ring.
 */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
const begin = present;
const end = present + 7 * 24 * 60 * minute;

const weeks = Array.from({ length: thorough(3, 1) }, (_, i) => i + 1);

test.each(weeks)('week %d: live and rehearsed are the same, ring for ring', async (seed) => {
  const shift = (seed - 1) * 9 * 24 * 60 * minute;
  const [from, until] = [begin + shift, end + shift];
  const random = uniform(seed);
  const rule = humid({
    limits: { farLow: 30, low: 40, high: 65, farHigh: 78 },
    hysteresis: 3,
    delay: 1200,
    returnDelay: 600,
    silentAfter: 2 * 3600,
    latest: 2 * 3600,
    gate: { channelId: ids.temperature, side: 'above', limit: 15.4, hysteresis: 0.3 },
    rate: { by: 14, within: 1800 },
    hours: { months: null, weekdays: null, fromMinute: 5 * 60, untilMinute: 23 * 60 },
  });
  await arrive(bench.at(from - minute), bench.stationId, {
    [ids.humidity]: [[from - 2 * minute, 50]],
    [ids.temperature]: [[from - 2 * minute, 15]],
  });
  const [last] = await query<{ id: string }>(
    test_.db,
    'select id from watch_rule_in_force where channel_id = :id',
    { id: ids.humidity },
  );
  await setWatchRule(
    bench.at(from),
    bench.stationId,
    ids.humidity,
    newRule({ rule, basedOn: last?.id ?? null }),
  );
  let stamp = from;
  let value = 52;
  let off = false;
  for (let now = from; stamp < until;) {
    // Mostly every hour; now and then the line is down for hours.
    now += random() < 0.06 ? (60 + 300 * random()) * minute : 60 * minute;
    if (now > until) break;
    // Off-line now and then, for a few collections.
    if (random() < (off ? 0.3 : 0.03)) {
      const occurredAt = new Date(now - 5 * minute).toISOString();
      const how = { reason: 'strip pulled', occurredAt };
      await (off ? endOffLine : beginOffLine)(bench.at(now), bench.stationId, ids.installationId, how);
      off = !off;
    }
    const values: [number, number][] = [];
    const beside: [number, number][] = [];
    for (; stamp + 10 * minute <= now; stamp += 10 * minute) {
      const at = stamp + 10 * minute;
      value = Math.max(
        25,
        Math.min(95, value + 10 * (random() - 0.5) + (random() < 0.05 ? 30 * (random() - 0.4) : 0)),
      );
      values.push([at, Math.round(10 * value) / 10]);
      beside.push([at, 15 + 5 * random()]);
    }
    const came = { [ids.humidity]: values, [ids.temperature]: beside };
    await arrive(bench.at(now), bench.stationId, came, false);
    await evaluateStations(test_.db, [bench.stationId], now);
    // A look between collections, at any moment.
    if (random() < 0.3)
      await evaluateStations(test_.db, [bench.stationId], now + Math.floor(59 * minute * random()));
  }
  await evaluateStations(test_.db, [bench.stationId], until);
  if (off)
    await endOffLine(bench.at(until + minute), bench.stationId, ids.installationId, {
      occurredAt: new Date(until + minute).toISOString(),
    });
  const live = await query<{
    cause: string;
    raised: Date;
    returned: Date | null;
    worst: number;
    value: number | null;
  }>(
    test_.db,
    `select cause, raised_at as raised, returned_at as returned, worst, value from alarm
      where raised_at >= :from and raised_at <= :until order by raised_at, cause, stamp`,
    { from: new Date(from), until: new Date(until) },
  );
  const played = await rehearseHere(bench.at(until + 2 * minute), bench.stationId, ids.humidity, {
    rule,
    from: new Date(from).toISOString(),
    until: new Date(until).toISOString(),
    asArrived: true,
  });
  const said = played.rings
    .map((r) => ({
      cause: r.cause,
      raised: new Date(r.raised),
      returned: r.returned === null ? null : new Date(r.returned),
      worst: r.worst,
      value: r.value,
    }))
    .sort((a, b) => a.raised.getTime() - b.raised.getTime() || a.cause.localeCompare(b.cause));
  expect(live.length).toBeGreaterThan(5);
  expect(new Set(live.map((l) => l.cause)).size).toBeGreaterThan(2);
  expect(said).toEqual(live);
});
