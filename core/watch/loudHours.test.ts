import fc from 'fast-check';
import { arrivalsAt } from '@/test/arrivals';
import { thorough } from '@/test/thorough';
import { canSkipHours, loudHours, type HourOfRecord } from './loudHours';
import { rehearse } from './rehearse';
import { noRule, type WatchRule } from './rule';

const minute = 60_000;
const hour = 60 * minute;
const rule: WatchRule = {
  ...noRule,
  limits: { farLow: null, low: 20, high: 60, farHigh: 75 },
  hysteresis: 4,
  delay: 1200,
  returnDelay: 0,
  silentAfter: 3 * 3600,
};

test('what rests on every value is not rehearsed by hours', () => {
  expect(canSkipHours(rule)).toBe(true);
  expect(canSkipHours({ ...rule, silentAfter: 3600 })).toBe(false);
  expect(canSkipHours({ ...rule, returnDelay: 60 })).toBe(false);
  expect(canSkipHours({ ...rule, rate: { by: 1, within: 60 } })).toBe(false);
  expect(canSkipHours({ ...rule, twin: { channelId: 'x', tolerance: 1, delay: 0 } })).toBe(false);
});

const ground = { holds: [{ from: -Infinity, until: Infinity }], offLine: [], gap: 30 * minute };

test('rehearsed by its loud hours, any record says the same as by every value', () => {
  // A walk every ten minutes, with hours left out now and then.
  const step = fc.record({ by: fc.integer({ min: -6, max: 6 }), jump: fc.nat(30), hole: fc.nat(60) });
  fc.assert(
    fc.property(
      fc.array(step, { minLength: 20, maxLength: 250 }),
      fc.constantFrom(0, 4, 9),
      fc.constantFrom(0, 1200, 5400),
      fc.array(fc.tuple(fc.nat(2500), fc.nat(300)), { maxLength: 3 }),
      (steps, hysteresis, delay, off) => {
        const own = { ...rule, hysteresis, delay };
        let t = 5 * hour + 7 * minute;
        let v = 45;
        const at: number[] = [];
        const value: number[] = [];
        for (const { by, jump, hole } of steps) {
          t += (hole === 0 ? 26 * 10 : hole === 1 ? 70 : 10) * minute;
          v = jump === 0 ? 78 : jump === 1 ? 12 : Math.min(70, Math.max(15, v + by));
          at.push(t);
          value.push(v);
        }
        const span = { from: 5 * hour, until: t + 9 * hour };
        const offLine = off.map(([from, lasts]) => ({
          from: 5 * hour + from * minute,
          until: 5 * hour + (from + lasts) * minute,
          knownFrom: -Infinity,
          knownUntil: Infinity,
        }));
        const around = { ...ground, offLine };
        const hours = new Map<number, HourOfRecord>();
        at.forEach((a, i) => {
          const begin = Math.floor(a / hour) * hour;
          const known = hours.get(begin);
          hours.set(begin, {
            at: begin,
            n: (known?.n ?? 0) + 1,
            min: Math.min(known?.min ?? Infinity, value[i]!),
            max: Math.max(known?.max ?? -Infinity, value[i]!),
          });
        });
        const { loud, quiet } = loudHours(own, [...hours.values()], span, offLine);
        const isLoud = (a: number) => loud.some((s) => a >= s.from && a < s.until);
        const kept = at.map((a, i) => [a, value[i]!] as const).filter(([a]) => isLoud(a));
        const some = [...kept, ...quiet.map((q) => [q.at + hour / 2, (q.min + q.max) / 2] as const)].sort(
          (a, b) => a[0] - b[0],
        );
        const whole = rehearse(own, arrivalsAt(at, value), around, span);
        const part = rehearse(
          own,
          arrivalsAt(
            some.map(([a]) => a),
            some.map(([, x]) => x),
          ),
          around,
          span,
        );
        const said = (r: typeof whole) => [r.rings, r.missed, r.missedCount];
        expect(said(part)).toEqual(said(whole));
        expect(loud.length + quiet.length).toBeLessThanOrEqual(hours.size);
      },
    ),
    { numRuns: thorough(20_000, 300) },
  );
});
