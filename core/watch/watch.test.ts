import { DateTime } from 'luxon';
import fc from 'fast-check';
import { arrivalsAt } from '@/test/arrivals';
import { ruleDoubts, ruleFault, type RuleGround } from './fault';
import { spansOf, within } from './hours';
import { ladderOf, zoneOf } from './ladder';
import { alarmLoad, compareRings, mostWithin, rehearse } from './rehearse';
import { channelsBeside, noRule, type WatchRule } from './rule';
import type { Arrivals, WatchGround } from './watcher';

const hour = 3_600_000;
const day = 24 * hour;
const always: WatchGround = { holds: [{ from: -Infinity, until: Infinity }], offLine: [], gap: Infinity };
const hourly = (values: readonly number[]): Arrivals =>
  arrivalsAt(
    values.map((_, i) => (i + 1) * hour),
    values,
  );
const high: WatchRule = { ...noRule, limits: { ...noRule.limits, high: 65 } };

describe('a rehearsal', () => {
  const span = { from: 0, until: 30.44 * day };
  // A day of sixty, each tenth day an hour or two above the limit.
  const values = Array.from({ length: 720 }, (_, i) => (i % 240 === 100 ? 70 : i % 240 === 101 ? 66 : 60));

  test('rings, their rate in a month, how long anything rang', () => {
    const found = rehearse(high, hourly(values), always, span);
    expect(found.rings.map((r) => [r.raised / hour, r.returned! / hour, r.peak])).toEqual([
      [101, 103, 70],
      [341, 343, 70],
      [581, 583, 70],
    ]);
    expect(found.ringsPerMonth).toBeCloseTo(3, 10);
    expect(found.share).toBeCloseTo(6 / 730.56, 6);
    expect(found.mostInTenMinutes).toBe(1);
    expect(found.missedCount).toBe(0);
  });
  test('what rang on values that are doubted today says so', () => {
    const doubted = [
      { kind: 'flagged' as const, from: 100 * hour, until: 101 * hour },
      { kind: 'off-line' as const, from: 582 * hour, until: 590 * hour },
    ];
    expect(rehearse(high, hourly(values), always, span, doubted).rings.map((r) => r.doubt)).toEqual([
      'flagged',
      null,
      null,
    ]);
  });
  test('a longer delay trades rings for what it misses', () => {
    const found = rehearse({ ...high, delay: 7200 }, hourly(values), always, span);
    expect(found.rings).toEqual([]);
    expect([found.missedCount, found.missed[0]!.depth, found.missed[0]!.why]).toEqual([3, 5, 'short']);
  });
  test('two settings beside one another', () => {
    const a = rehearse(high, hourly(values), always, span).rings;
    const b = rehearse({ ...high, limits: { ...high.limits, high: 68 } }, hourly(values), always, span).rings;
    const c = rehearse(high, hourly(values.slice(0, 300)), always, span).rings;
    expect(compareRings(a, b)).toEqual({ both: 3, onlyA: 0, onlyB: 0 });
    expect(compareRings(a, c)).toEqual({ both: 1, onlyA: 2, onlyB: 0 });
  });
  test('a rate begins with what was before', () => {
    const rule: WatchRule = { ...noRule, rate: { by: 5, within: 3 * 3600 } };
    const prime = { at: [-hour], value: [50] };
    expect(rehearse(rule, hourly([60]), always, span, [], prime).rings).toHaveLength(1);
    expect(rehearse(rule, hourly([60]), always, span).rings).toHaveLength(0);
  });
  test('a wider deadband or a longer delay never rings more often', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 50, max: 80 }), { minLength: 1, maxLength: 80 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 5 }),
        (v, hysteresis, delay) => {
          const count = (r: Partial<WatchRule>) =>
            rehearse({ ...high, ...r }, hourly(v), always, span).rings.length;
          expect(count({ hysteresis: hysteresis + 1 })).toBeLessThanOrEqual(count({ hysteresis }));
          expect(count({ delay: (delay + 1) * 3600 })).toBeLessThanOrEqual(count({ delay: delay * 3600 }));
        },
      ),
    );
  });
});

test('the load of whoever answers, by EEMUA 191 and ISA-18.2 (from memory)', () => {
  // 144 a day is one in ten minutes, 288 two.
  expect(alarmLoad(140 * 30.44, 10)).toBe('acceptable');
  expect(alarmLoad(150 * 30.44, 3)).toBe('manageable');
  expect(alarmLoad(300 * 30.44, 3)).toBe('too many');
  expect(alarmLoad(1, 11)).toBe('too many');
  expect(mostWithin([], 600)).toBe(0);
});

describe('hours', () => {
  const night = { months: null, weekdays: null, fromMinute: 22 * 60, untilMinute: 6 * 60 };
  const at = (text: string, zone = 'Europe/Berlin') => DateTime.fromISO(text, { zone }).toMillis();

  test('run over midnight, and are an hour longer in the night of autumn', () => {
    // The night from 24 to 25 October 2026 has the hour from two to three twice: IANA time zone database.
    const spans = spansOf(night, 'Europe/Berlin', at('2026-10-24T12:00'), at('2026-10-26T12:00'));
    expect(spans.map((s) => (s.until - s.from) / hour)).toEqual([9, 8]);
    expect(spans[0]!.from).toBe(at('2026-10-24T22:00'));
  });
  test('months and days of the week; a window that begins within them', () => {
    const spring = { months: [4], weekdays: [6, 7], fromMinute: 0, untilMinute: 0 };
    const spans = spansOf(spring, 'Etc/UTC', Date.UTC(2026, 2, 25), Date.UTC(2026, 3, 12));
    // The first weekend of April 2026 is the 4th and 5th.
    expect(spans).toEqual([
      { from: Date.UTC(2026, 3, 4), until: Date.UTC(2026, 3, 6) },
      { from: Date.UTC(2026, 3, 11), until: Date.UTC(2026, 3, 12) },
    ]);
    expect(spansOf(night, 'Etc/UTC', Date.UTC(2026, 0, 1, 3), Date.UTC(2026, 0, 1, 4))).toEqual([
      { from: Date.UTC(2026, 0, 1, 3), until: Date.UTC(2026, 0, 1, 4) },
    ]);
    expect(() => spansOf(night, 'Nowhere/None', 0, day)).toThrow(/zone/);
  });
  test('asked in any order', () => {
    const inside = within([
      { from: 10, until: 20 },
      { from: 30, until: 40 },
    ]);
    expect([5, 10, 19, 20, 35, 40, 12, 31].map(inside)).toEqual([
      false,
      true,
      true,
      false,
      true,
      false,
      true,
      true,
    ]);
  });
});

describe('the ladder', () => {
  const limits = { farLow: 25, low: 35, high: 65, farHigh: 80 };
  test('bands of one height, values by their share of them', () => {
    const { rungs, place } = ladderOf(limits, [40, 50])!;
    expect(rungs.map((r) => r.at)).toEqual([0.2, 0.4, 0.6, 0.8]);
    expect(place(50)).toBeCloseTo(0.5);
    expect(place(72.5)).toBeCloseTo(0.7);
    expect([place(-100), place(1000)]).toEqual([0, 1]);
  });
  test('never falls, whatever the limits', () => {
    const levels = fc.uniqueArray(fc.integer({ min: -50, max: 50 }), { minLength: 4, maxLength: 4 });
    fc.assert(
      fc.property(levels, fc.nat(15), fc.integer(), fc.integer(), (four, mask, a, b) => {
        const [w, x, y, z] = four.sort((p, q) => p - q).map((n, i) => (mask & (1 << i) ? n : null));
        const ladder = ladderOf({ farLow: w!, low: x!, high: y!, farHigh: z! }, [0, 1]);
        if (!ladder) return expect(mask).toBe(0);
        expect(ladder.place(Math.min(a, b))).toBeLessThanOrEqual(ladder.place(Math.max(a, b)));
        for (const r of ladder.rungs) expect(ladder.place(r.limit)).toBeCloseTo(r.at);
      }),
    );
  });
  test('a single limit has bands as high as what was seen', () => {
    const ladder = ladderOf({ ...noRule.limits, high: 10 }, [4, 8])!;
    expect(ladder.place(7)).toBeCloseTo(0.2727, 4);
    const low = ladderOf({ ...noRule.limits, farLow: 5, low: 7 }, [9, 11])!;
    expect([low.place(11) < 1, low.place(11) > 0.9, low.place(100)]).toEqual([true, true, 1]);
    expect(ladderOf(noRule.limits, [0, 1])).toBeNull();
  });
  test.each([
    [20, -2],
    [25, -1],
    [30, -1],
    [35, 0],
    [65, 0],
    [65.1, 1],
    [80, 1],
    [81, 2],
  ])('%d is in zone %d', (value, zone) => expect(zoneOf(limits, value)).toBe(zone));
});

describe('what a rule cannot be', () => {
  const ground: RuleGround = {
    channelId: 'a',
    quantity: 'humidity',
    sensorRange: [0, 100],
    interval: 600,
    latency: 900,
    others: new Map([
      ['flow', { name: 'Air flow', quantity: 'airFlow' }],
      ['b', { name: 'Other humidity', quantity: 'humidity' }],
    ]),
  };
  const good: WatchRule = {
    ...noRule,
    limits: { farLow: 25, low: 35, high: 65, farHigh: 80 },
    hysteresis: 3,
  };
  const limits = (l: Partial<WatchRule['limits']>) => ({ limits: { ...good.limits, ...l } });

  test('a good one', () => {
    expect(ruleFault(good, ground)).toBeNull();
    const gate = { channelId: 'flow', side: 'above' as const, limit: 0.5, hysteresis: 0.1 };
    expect(ruleFault({ ...good, gate, twin: { channelId: 'b', tolerance: 5, delay: 0 } }, ground)).toBeNull();
    expect(channelsBeside({ ...good, gate, twin: { channelId: 'flow', tolerance: 5, delay: 0 } })).toEqual([
      'flow',
    ]);
  });
  test.each<[string, Partial<WatchRule>, string, RegExp]>([
    ['nothing', { limits: noRule.limits }, 'limits', /Nothing is watched/],
    ['limits out of order', limits({ low: 70 }), 'limits.high', /not above too low/],
    ['a limit in another unit', limits({ farHigh: 800 }), 'limits.farHigh', /does not reach/],
    ['a limit the sensor never shows', limits({ farHigh: 100 }), 'limits.farHigh', /can never ring/],
    ['a deadband across', { hysteresis: 30 }, 'hysteresis', /30.0 %RH apart/],
    ['a deadband below nothing', { hysteresis: -1 }, 'hysteresis', /distance/],
    ['not a number', { hysteresis: NaN }, 'hysteresis', /distance/],
    ['a delay of a year', { delay: 366 * 86_400 }, 'delay', /30 days/],
    ['a silence between any two values', { silentAfter: 600 }, 'silentAfter', /would ring between any two/],
    ['a silence of half a year', { silentAfter: 180 * 86_400 }, 'silentAfter', /30 days/],
    ['no age at all', { latest: 0 }, 'latest', /between 1 s and a year/],
    ['a rate of nothing', { rate: { by: 0, within: 3600 } }, 'rate', /more than 0/],
    ['a rate between two values', { rate: { by: 5, within: 60 } }, 'rate.within', /nothing can be seen/],
    ['a twin of itself', { twin: { channelId: 'a', tolerance: 1, delay: 0 } }, 'twin.channelId', /itself/],
    [
      'a twin elsewhere',
      { twin: { channelId: 'x', tolerance: 1, delay: 0 } },
      'twin.channelId',
      /not one of/,
    ],
    [
      'a twin of another unit',
      { twin: { channelId: 'flow', tolerance: 1, delay: 0 } },
      'twin.channelId',
      /m\/s/,
    ],
    [
      'a twin that may not differ',
      { twin: { channelId: 'b', tolerance: 0, delay: 0 } },
      'twin.tolerance',
      /more than 0/,
    ],
    [
      'a gate elsewhere',
      { gate: { channelId: 'x', side: 'above', limit: 1, hysteresis: 0 } },
      'gate.channelId',
      /not one of/,
    ],
    [
      'a gate without a limit',
      { gate: { channelId: 'flow', side: 'above', limit: NaN, hysteresis: 0 } },
      'gate.hysteresis',
      /0 or more/,
    ],
    [
      'no day',
      { hours: { months: null, weekdays: [], fromMinute: 0, untilMinute: 0 } },
      'hours',
      /never count/,
    ],
  ])('%s is refused by its field', (_, change, field, says) => {
    const found = ruleFault({ ...good, ...change }, ground);
    expect(found?.field).toBe(field);
    expect(found?.says).toMatch(says);
    expect(found?.remedy).toMatch(/\w/);
  });

  test('what is worth a second look', () => {
    expect(ruleDoubts(good, { ...ground, latency: 600 }, null)).toEqual([]);
    expect(ruleDoubts(good, { ...ground, latency: null }, good.limits)).toEqual([
      'No value has arrived yet: when it would ring is not known.',
    ]);
    const day = ruleDoubts({ ...good, silentAfter: 7200 }, { ...ground, latency: 86_400 }, null);
    expect(day.map((d) => d.slice(0, 24))).toEqual(['It would not ring as val', 'A silence of 2 h rings b']);
    expect(ruleDoubts(good, { ...ground, latency: 1800 }, null)[0]).toMatch(/up to 30 min old/);
    expect(ruleDoubts(good, { ...ground, latency: 600 }, { ...good.limits, high: 60, farLow: null })).toEqual(
      ['The logger has other limits: far too low none there, 25.0 here; too high 60.0 there, 65.0 here.'],
    );
  });
});
