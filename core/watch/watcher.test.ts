import fc from 'fast-check';
import { arrivalsAt } from '@/test/arrivals';
import { compare, atRest, type Comparator } from './comparator';
import { lastRead } from './beside';
import { steepest } from './rate';
import { noRule, type WatchRule } from './rule';
import {
  watcher,
  watchingNothing,
  type Arrivals,
  type Missed,
  type WatchEvent,
  type WatchGround,
} from './watcher';

const minute = 60_000;
const always: WatchGround = { holds: [{ from: -Infinity, until: Infinity }], offLine: [], gap: Infinity };

/** Values a minute apart from minute 1 on, each arriving as it is stamped. */
const byMinute = (values: readonly number[], more: Partial<Arrivals> = {}): Arrivals =>
  arrivalsAt(
    values.map((_, i) => (i + 1) * minute),
    values,
    more,
  );
const humid: WatchRule = {
  ...noRule,
  limits: { farLow: null, low: 35, high: 72, farHigh: 80 },
  hysteresis: 6,
};

function watched(rule: WatchRule, arrivals: Arrivals, ground: WatchGround = always, until?: number) {
  const events: string[] = [];
  const missed: Missed[] = [];
  const all: WatchEvent[] = [];
  const state = watchingNothing();
  const w = watcher(
    rule,
    ground,
    state,
    (e) => {
      const time = e.kind === 'returned' ? e.ring.returned! : e.kind === 'raised' ? e.ring.raised : NaN;
      events.push(
        `${e.kind} ${e.ring.cause} ${e.ring.level}${Number.isNaN(time) ? '' : ` @${time / minute}`}`,
      );
      all.push({ ...e, ring: { ...e.ring } });
    },
    (m) => missed.push({ ...m }),
  );
  w.take(arrivals);
  w.finish(until ?? arrivals.arrived.at(-1) ?? 0);
  return { events, missed, all, state };
}

describe('a comparator, beside a table worked by hand', () => {
  // Value, and whether it is beyond and active after it: limit 72, deadband 6, on-delay 2 min, off-delay 1 min.
  const table: readonly (readonly [value: number, beyond: boolean, active: boolean])[] = [
    [70, false, false],
    [72, false, false], // on the limit is not beyond it
    [72.1, true, false],
    [71, true, false], // within the deadband it is beyond still
    [73, true, true], // two minutes since it went beyond
    [66.1, true, true],
    [66, false, true], // back on the deadband's edge
    [66.5, false, false], // a minute back
    [72, false, false],
    [90, true, false],
    [60, false, false], // shorter than the delay
  ];
  test('limit, deadband and delays', () => {
    const c: Comparator = { limit: 72, side: 1, hysteresis: 6, onDelay: 2 * minute, offDelay: minute };
    const s = atRest();
    table.forEach(([value, beyond, active], i) => {
      compare(c, s, i * minute, i === 0 ? 0 : minute, value);
      expect([value, s.beyond, s.active]).toEqual([value, beyond, active]);
    });
  });

  /** The same by its words, for every value anew: beyond since the last crossing, and for how long. */
  function byDefinition(c: Comparator, values: readonly number[]): boolean[] {
    const out: boolean[] = [];
    let active = false;
    values.forEach((_, i) => {
      const sides: boolean[] = [];
      for (let k = 0; k <= i; k++) {
        const over = c.side * (values[k]! - c.limit);
        sides.push(over > 0 || (over > -c.hysteresis && (sides[k - 1] ?? false)));
      }
      let since = i;
      while (since > 0 && sides[since - 1] === sides[i]) since--;
      const held = (i - since) * minute;
      if (sides[i] && held >= c.onDelay) active = true;
      if (!sides[i] && held >= c.offDelay) active = false;
      out.push(active);
    });
    return out;
  }
  test('agrees with its definition for any series', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 40 }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 0, max: 4 }),
        fc.integer({ min: 0, max: 4 }),
        fc.constantFrom(1 as const, -1 as const),
        (values, hysteresis, on, off, side) => {
          const c: Comparator = { limit: 10, side, hysteresis, onDelay: on * minute, offDelay: off * minute };
          const s = atRest();
          const found = values.map((v, i) => {
            compare(c, s, i * minute, i === 0 ? 0 : minute, v);
            return s.active;
          });
          expect(found).toEqual(byDefinition(c, values));
        },
      ),
    );
  });
});

describe('limits', () => {
  test('72 and back by 6: it rings once, and is over at 66', () => {
    const { events } = watched(humid, byMinute([70, 72, 73, 71, 67, 66.5, 66, 64]));
    expect(events).toEqual(['raised limits 1 @3', 'returned limits 1 @7']);
  });
  test('worse and better on the way are one ring', () => {
    const { events, all } = watched(humid, byMinute([75, 81, 85, 74, 70, 60]));
    expect(events).toEqual([
      'raised limits 1 @1',
      'worse limits 2',
      'eased limits 1',
      'returned limits 1 @6',
    ]);
    expect(all.at(-1)!.ring).toMatchObject({ worst: 2, peak: 85, value: 75, ended: 'back' });
  });
  test('from one side straight to the other: one is over, another rings', () => {
    const { events } = watched(
      { ...humid, hysteresis: 1, returnDelay: 300 },
      byMinute([30, 75, 75, 75, 75, 75, 75]),
    );
    expect(events).toEqual(['raised limits -1 @1', 'returned limits -1 @2', 'raised limits 1 @2']);
  });
  test('a delay is counted from value to value, and a hole does not count', () => {
    const rule = { ...humid, delay: 180 };
    expect(watched(rule, byMinute([73, 73, 73, 73, 60])).events[0]).toBe('raised limits 1 @4');
    const at = Float64Array.from([1, 2, 30, 31, 32].map((m) => m * minute));
    const holed = { ...byMinute([73, 73, 73, 73, 73]), at, arrived: at };
    expect(watched(rule, holed, { ...always, gap: 3 * minute }).events).toEqual(['raised limits 1 @32']);
  });
  test('a value that arrives too late does not ring; the first one that is young enough does', () => {
    const arrived = Float64Array.from([300, 300, 300, 300, 300].map((m) => m * minute));
    const at = Float64Array.from([60, 120, 180, 250, 299].map((m) => m * minute));
    const late = watched(humid, { ...byMinute([75, 76, 60, 75, 75]), at, arrived });
    expect(late.events).toEqual(['raised limits 1 @300']);
    expect(late.all[0]!.ring).toMatchObject({ began: 250 * minute, at: 250 * minute });
    expect(late.missed).toMatchObject([
      { from: 60 * minute, until: 120 * minute, peak: 76, depth: 4, why: 'late' },
    ]);
  });
  test('of ten thousand values of the past nothing rings', () => {
    const n = 10_000;
    const at = Float64Array.from({ length: n }, (_, i) => i * minute + 1);
    const flood: Arrivals = {
      ...byMinute(Array.from({ length: n }, (_, i) => (i % 7 === 0 ? 90 : 50))),
      at,
      arrived: new Float64Array(n).fill(2 * n * minute),
    };
    const { events, missed } = watched(humid, flood);
    expect(events).toEqual([]);
    expect(missed.length).toBeGreaterThan(1000);
  });
  test('a stamp before the last of its run is passed over', () => {
    const at = Float64Array.from([5, 6, 3, 7].map((m) => m * minute));
    const arrived = Float64Array.from([5, 6, 7, 7].map((m) => m * minute));
    expect(watched(humid, { ...byMinute([50, 50, 90, 50]), at, arrived }).events).toEqual([]);
  });
  test('a clock set back while a delay runs takes nothing from it', () => {
    const at = Float64Array.from([10, 11, 12, 5, 6, 7].map((m) => m * minute));
    const arrived = Float64Array.from([10, 11, 12, 13, 14, 15].map((m) => m * minute));
    const run = Int32Array.from([0, 0, 0, 1, 1, 1]);
    const rule = { ...humid, delay: 180 };
    expect(watched(rule, { ...byMinute([73, 73, 73, 73, 73, 73]), at, arrived, run }).events).toEqual([
      'raised limits 1 @14',
    ]);
  });
  test('off-line values are no evidence, as far as that was known', () => {
    const off = { from: 2 * minute, until: 4 * minute, knownFrom: minute, knownUntil: Infinity };
    const values = byMinute([50, 90, 90, 90, 50]);
    expect(watched(humid, values, { ...always, offLine: [off] })).toMatchObject({
      events: [],
      missed: [{ why: 'off-line', peak: 90 }],
    });
    const afterwards = { ...off, knownFrom: 10 * minute };
    expect(watched(humid, values, { ...always, offLine: [afterwards] }).events).toHaveLength(2);
  });
  test('outside its hours nothing is compared, and what rings is over', () => {
    const ground = { ...always, holds: [{ from: 0, until: 3 * minute }] };
    const { events, all } = watched(humid, byMinute([50, 75, 75, 75, 75]), ground);
    expect(events).toEqual(['raised limits 1 @2', 'returned limits 1 @3']);
    expect(all.at(-1)!.ring.ended).toBe('hours');
  });
  test('a limit that depends on another channel holds only with it, and where that is unknown', () => {
    const rule: WatchRule = {
      ...humid,
      gate: { channelId: 'flow', side: 'above', limit: 1, hysteresis: 0.2 },
    };
    const gate = Float64Array.from([NaN, 0, 2, 0.9, 0.8, NaN]);
    const { events, missed } = watched(rule, byMinute([75, 75, 75, 75, 75, 75], { gate }));
    // 0.9 is within the deadband of the gate: the limits hold on.
    expect(events).toEqual([
      'raised limits 1 @1',
      'returned limits 1 @2',
      'raised limits 1 @3',
      'returned limits 1 @5',
      'raised limits 1 @6',
    ]);
    expect(missed).toEqual([]);
  });
  test('what was beyond for too short a time is told, deepest value and all', () => {
    const { events, missed } = watched({ ...humid, delay: 600 }, byMinute([50, 90, 95, 50, 73, 50]));
    expect(events).toEqual([]);
    expect(missed.map((m) => [m.peak, m.depth, m.why])).toEqual([
      [95, 23, 'short'],
      [73, 1, 'short'],
    ]);
  });
});

describe('other causes', () => {
  const quiet = { ...noRule, silentAfter: 300 };
  const times = (...minutes: number[]) => Float64Array.from(minutes, (m) => m * minute);

  test('a silence rings when the newest value is too old, and is over with a young one', () => {
    const at = times(1, 2, 20, 21);
    const w = watched(quiet, { ...byMinute([5, 5, 5, 5]), at, arrived: at }, always, 22 * minute);
    expect(w.events).toEqual(['raised silent 0 @7', 'returned silent 0 @20']);
  });
  test('values that come late leave it silent', () => {
    const at = times(1, 4, 21);
    const arrived = times(1, 20, 22);
    const w = watched(quiet, { ...byMinute([5, 5, 5]), at, arrived }, always, 40 * minute);
    expect(w.events).toEqual(['raised silent 0 @6', 'returned silent 0 @22', 'raised silent 0 @26']);
  });
  test('while it is off-line nothing is missed', () => {
    const off = { from: 3 * minute, until: 30 * minute, knownFrom: 3 * minute, knownUntil: Infinity };
    const at = times(1, 2);
    const w = watched(
      quiet,
      { ...byMinute([5, 5]), at, arrived: at },
      { ...always, offLine: [off] },
      29 * minute,
    );
    expect(w.events).toEqual([]);
    const later = watched(
      quiet,
      { ...byMinute([5, 5]), at, arrived: at },
      { ...always, offLine: [off] },
      31 * minute,
    );
    expect(later.events).toHaveLength(1);
    const open = { ...off, until: Infinity, knownUntil: 20 * minute };
    const closed = watched(
      quiet,
      { ...byMinute([5, 5]), at, arrived: at },
      { ...always, offLine: [open] },
      29 * minute,
    );
    expect(closed.all[0]!.ring.raised).toBe(20 * minute + 1);
  });
  test('a rate rings by the largest move within its span', () => {
    const rule: WatchRule = { ...noRule, rate: { by: 4, within: 180 } };
    const { events, all } = watched(rule, byMinute([10, 11, 12, 13, 17, 17, 17, 17]));
    expect(events).toEqual(['raised rate 0 @5', 'returned rate 0 @7']);
    expect(all[0]!.ring.value).toBe(6);
    expect(watched(rule, byMinute([20, 20, 15])).all[0]!.ring.value).toBe(-5);
  });
  test('a twin rings where both part for its delay', () => {
    const rule: WatchRule = { ...noRule, twin: { channelId: 't', tolerance: 2, delay: 60 } };
    const twin = Float64Array.from([10, 7, 7, 9, NaN]);
    expect(watched(rule, byMinute([10, 10, 10, 10, 10], { twin })).events).toEqual([
      'raised twin 0 @3',
      'returned twin 0 @4',
    ]);
  });
  test('a rate is the steepest move for any series', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -9, max: 9 }), { maxLength: 60 }),
        fc.integer({ min: 1, max: 9 }),
        (v, w) => {
          const move = steepest(w);
          v.forEach((value, i) => {
            const before = v.slice(Math.max(0, i - w), i + 1);
            const [up, down] = [value - Math.min(...before), value - Math.max(...before)];
            expect(move(i, value)).toBe(up >= -down ? up : down);
          });
        },
      ),
    );
  });
  test('the last value beside a stamp, no older than it may be', () => {
    const at = Float64Array.from([10, 20, 30]);
    const value = Float64Array.from([1, 2, 3]);
    expect([...lastRead(Float64Array.from([5, 10, 29, 36, 34, 15]), at, value, 5)]).toEqual([
      NaN,
      1,
      NaN,
      NaN,
      3,
      1,
    ]);
  });
});

test('going on from what was kept is the same as going on: any values, any pieces', () => {
  const rule: WatchRule = {
    ...humid,
    delay: 120,
    returnDelay: 60,
    silentAfter: 240,
    twin: { channelId: 't', tolerance: 20, delay: 60 },
    latest: 600,
  };
  const value = fc.record({
    value: fc.integer({ min: 20, max: 95 }),
    twin: fc.option(fc.integer({ min: 20, max: 95 }), { nil: NaN }),
    step: fc.integer({ min: -1, max: 6 }),
    late: fc.integer({ min: 0, max: 15 }),
  });
  fc.assert(
    fc.property(
      fc.array(value, { minLength: 1, maxLength: 40 }),
      fc.array(fc.integer({ min: 1, max: 40 })),
      (vs, cuts) => {
        let t = 100;
        let a = 0;
        const stamps = vs.map((v) => (t += v.step));
        const arrivedAt = vs.map((v, i) => (a = Math.max(a, stamps[i]! + v.late)));
        const piece = (from: number, until: number): Arrivals => ({
          at: Float64Array.from(stamps.slice(from, until), (m) => m * minute),
          run: new Int32Array(until - from),
          value: Float64Array.from(vs.slice(from, until), (v) => v.value),
          arrived: Float64Array.from(arrivedAt.slice(from, until), (m) => m * minute),
          gate: null,
          twin: Float64Array.from(vs.slice(from, until), (v) => v.twin),
        });
        const end = (a + 30) * minute;
        const whole = watched(rule, piece(0, vs.length), always, end);
        // Kept as text between pieces; one arrival is never cut.
        const events: string[] = [];
        let kept = JSON.stringify(watchingNothing());
        const ends = [...new Set([...cuts.map((c) => Math.min(c, vs.length)), vs.length])]
          .sort((x, y) => x - y)
          .filter((c) => c === vs.length || arrivedAt[c] !== arrivedAt[c - 1]);
        let from = 0;
        for (const until of ends) {
          const state = JSON.parse(kept) as ReturnType<typeof watchingNothing>;
          const w = watcher(rule, always, state, (e) => {
            const time = e.kind === 'returned' ? e.ring.returned! : e.kind === 'raised' ? e.ring.raised : NaN;
            events.push(
              `${e.kind} ${e.ring.cause} ${e.ring.level}${Number.isNaN(time) ? '' : ` @${time / minute}`}`,
            );
          });
          w.take(piece(from, until));
          if (until === vs.length) w.settle(end);
          kept = JSON.stringify(state);
          from = until;
        }
        expect(events).toEqual(whole.events);
      },
    ),
  );
});
