import { arrivalsAt } from '@/test/arrivals';
import { carryOver } from './carry';
import { noRule, type WatchRule } from './rule';
import { alarmSays, limitOfLevel, ruleSays } from './says';
import { watcher, watchingNothing, type WatchEvent, type WatchState } from './watcher';

const minute = 60_000;
const always = { holds: [{ from: -Infinity, until: Infinity }], offLine: [], gap: Infinity };
const one = (m: number, value: number) => arrivalsAt([m * minute], [value]);
const rule: WatchRule = {
  ...noRule,
  limits: { farLow: null, low: 35, high: 65, farHigh: 80 },
  hysteresis: 3,
};
const at = (high: number | null): WatchRule => ({ ...rule, limits: { ...rule.limits, high } });

/** Rings at 70 by the rule, then goes on by another. */
function goesOn(other: WatchRule, ...values: number[]) {
  const state = watchingNothing();
  watcher(rule, always, state, () => {}).take(one(1, 70));
  const carried = carryOver(JSON.parse(JSON.stringify(state)) as WatchState, other);
  const events: WatchEvent[] = [];
  const w = watcher(other, always, carried.state, (e) => events.push(e));
  values.forEach((v, i) => w.take(one(2 + i, v)));
  return {
    over: carried.over.length,
    events: events.map((e) => `${e.kind} ${e.ring.level} @${e.ring.at / minute}`),
  };
}

describe('a rule changed while it rings', () => {
  test('by limits that hold still, it goes on ringing and is over as usual', () => {
    expect(goesOn(at(60), 64, 61, 57)).toEqual({ over: 0, events: ['returned 1 @1'] });
  });
  test('by a limit above the value, the next value ends it', () => {
    expect(goesOn(at(75), 74)).toEqual({ over: 0, events: ['returned 1 @1'] });
  });
  test('what is not watched any more is over at once', () => {
    expect(goesOn(at(null), 70)).toEqual({ over: 1, events: [] });
    expect(goesOn({ ...at(null), limits: { ...rule.limits, high: null, farHigh: null } }, 70).over).toBe(1);
  });
  test('far out, it is beyond the nearer limit as well, whose delay is not waited for again', () => {
    const slow = { ...rule, delay: 1800 };
    const state = watchingNothing();
    watcher(rule, always, state, () => {}).take(one(1, 90));
    const events: WatchEvent[] = [];
    const w = watcher(slow, always, carryOver(state, slow).state, (e) =>
      events.push({ ...e, ring: { ...e.ring } }),
    );
    w.take(one(2, 72));
    w.take(one(3, 60));
    expect(events.map((e) => [e.kind, e.ring.level])).toEqual([
      ['eased', 1],
      ['returned', 1],
    ]);
  });
  test('delays begin anew', () => {
    const state = watchingNothing();
    watcher({ ...rule, delay: 120 }, always, state, () => {}).take(one(1, 70));
    const events: WatchEvent[] = [];
    const w = watcher(rule, always, carryOver(state, { ...rule, delay: 180 }).state, (e) => events.push(e));
    w.take(one(2, 70));
    expect(events).toHaveLength(1);
  });
});

describe('in words', () => {
  const alarm = { cause: 'limits' as const, level: 1 as const, value: 74.2, at: Date.UTC(2026, 4, 1, 8, 30) };
  test('what rang', () => {
    expect(alarmSays(alarm, 'humidity', rule)).toBe('too high, 74.2 %RH (limit 65.0)');
    expect(
      alarmSays({ ...alarm, cause: 'silent', value: null }, 'humidity', { ...rule, silentAfter: 7200 }),
    ).toBe('no value for 2 h: the newest is stamped 2026-05-01 08:30 UTC');
    expect(
      alarmSays({ ...alarm, cause: 'rate', value: -8 }, 'humidity', {
        ...rule,
        rate: { by: 5, within: 3600 },
      }),
    ).toBe('moves too fast, −8.0 %RH within 60 min');
    const twin = { channelId: 'x', tolerance: 4, delay: 0 };
    expect(alarmSays({ ...alarm, cause: 'twin', value: 6 }, 'humidity', { ...rule, twin })).toBe(
      'differs from its twin by +6.0 %RH (limit ±4.0)',
    );
    expect(alarmSays(alarm, 'humidity', null)).toBe('too high, 74.2 %RH');
  });
  test('a rule, and the limit of a level', () => {
    expect(ruleSays({ ...rule, delay: 600, silentAfter: 7200 }, 'humidity')).toBe(
      'too low < 35.0, too high > 65.0, far too high > 80.0 %RH, back by 3.0; after 10 min; no value for 2 h',
    );
    expect([
      limitOfLevel(rule.limits, 2),
      limitOfLevel(rule.limits, -2),
      limitOfLevel(rule.limits, 0),
    ]).toEqual([80, null, null]);
  });
});
