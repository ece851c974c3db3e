import { plainCheckPlan } from '@/test/plainCheckPlan';
import { responses, settledAt } from '@/test/response';
import { settlingRule } from './plan';
import { atRest, judgeSettling } from './settling';
import type { TimedValue } from './timedValue';

const rule = { window: 60, band: 0.1, resolution: 0.01 };
/** First-order response sampled every second. */
const response = (
  final: number,
  start: number,
  tau: number,
  seconds: number,
  noise: (i: number) => number = () => 0,
): TimedValue[] =>
  Array.from({ length: seconds + 1 }, (_, i) => ({
    t: i,
    value: final + (start - final) * Math.exp(-i / tau) + noise(i),
  }));
const wobble = (size: number) => (i: number) => size * Math.sin(i * 12.9898) * Math.cos(i * 4.1414);

test('a sensor that is silent for its dead time and flat for long is not settled before it could have answered', () => {
  const gas = { ...plainCheckPlan, sensorResponse: 30, sensorDeadTime: 60, settleBand: 0.5 };
  // Flat, since nothing has come through its membrane yet.
  const silent = response(400, 400, 30, 140);
  expect(judgeSettling(silent, settlingRule(gas, 0))).toMatchObject({ state: 'watching', window: 150 });
  expect(judgeSettling(silent, settlingRule({ ...gas, sensorDeadTime: 0 }, 0)).state).toBe('settled');
  expect(judgeSettling(response(400, 400, 30, 160), settlingRule(gas, 0)).state).toBe('settled');
  // What hung where it hangs has had them all.
  expect(judgeSettling(silent, settlingRule(gas, null)).state).toBe('settled');
});

test('too short a watch says nothing', () => {
  expect(judgeSettling([], rule).state).toBe('watching');
  expect(judgeSettling(response(20, 20, 10, 30), rule)).toEqual({
    state: 'watching',
    watched: 30,
    window: 60,
  });
  const two = [
    { t: 0, value: 1 },
    { t: 100, value: 1 },
  ];
  expect(judgeSettling(two, rule).state).toBe('watching');
});

test('a reading at rest is settled, and says how little is still to come', () => {
  const s = judgeSettling(response(20, 20, 10, 90, wobble(0.02)), rule);
  expect(s.state).toBe('settled');
  if (s.state === 'settled') expect(Math.abs(s.movement)).toBeLessThan(0.05);
});

test('a moving reading is told where it is heading: 20.000 from 25.000 with τ = 40 s', () => {
  const s = judgeSettling(response(20, 25, 40, 80, wobble(0.01)), rule);
  expect(s.state).toBe('moving');
  if (s.state !== 'moving' || !s.projected) throw new Error('no projection');
  expect(Math.abs(s.projected.final - 20)).toBeLessThan(3 * s.projected.uncertainty + 0.02);
  expect(s.projected.tau).toBeGreaterThan(30);
  expect(s.projected.tau).toBeLessThan(50);
});

test('a straight line moves and has no end; scatter without a trend is restless, not settled', () => {
  const line = Array.from({ length: 80 }, (_, i) => ({ t: i, value: 20 + i * 0.05 }));
  expect(judgeSettling(line, rule)).toMatchObject({ state: 'moving', projected: null });
  expect(judgeSettling(response(20, 20, 10, 90, wobble(1)), rule).state).toBe('restless');
});

test('a slope that is small over the window is no rest of a slow sensor: what is still to come counts', () => {
  // 0.08 in a minute is within the band of 0.1; with ten minutes' time constant 0.8 is still to come.
  const slow = Array.from({ length: 71 }, (_, i) => ({ t: i, value: 20 + 0.0013 * i + wobble(0.01)(i) }));
  expect(judgeSettling(slow, rule).state).toBe('settled');
  expect(judgeSettling(slow, { ...rule, response: 600 }).state).not.toBe('settled');
});

test('placed just now, the flat beginning of a response is no rest; a sensor that hangs where it hung had its time', () => {
  const flat = response(20, 20, 10, 70);
  const slow = { ...rule, response: 60 };
  expect(judgeSettling(flat, slow).state).toBe('settled');
  expect(judgeSettling(flat, { ...slow, placedAt: 0 })).toEqual({
    state: 'watching',
    watched: 70,
    window: 180,
  });
  expect(judgeSettling(response(20, 20, 10, 190), { ...slow, placedAt: 0 }).state).toBe('settled');
  // What was read before it was placed is of another place.
  const moved = [
    ...response(35, 35, 10, 60),
    ...response(20, 20, 10, 190).map((r) => ({ ...r, t: r.t + 61 })),
  ];
  expect(judgeSettling(moved, { ...slow, placedAt: 61 })).toMatchObject({ state: 'settled', value: 20 });
});

test('readings in steps hide a slope of less than a step: it is allowed for', () => {
  const steps = response(20, 20, 10, 12);
  expect(judgeSettling(steps, { window: 10, band: 0.1, resolution: 0.1, response: 60 }).state).not.toBe(
    'settled',
  );
});

test('missing values are passed over; a stuck reading is settled, other tests look for that', () => {
  const holes = response(20, 20, 10, 90).map((r, i) => (i % 7 === 0 ? { ...r, value: Number.NaN } : r));
  expect(judgeSettling(holes, rule).state).toBe('settled');
  expect(judgeSettling(response(5, 5, 1, 120), rule).state).toBe('settled');
});

test.each(responses)(
  '%s: settled is not said while more than half a tolerance is to come, and it is said',
  (kind) => {
    for (const its of settledAt(kind, 8)) {
      expect([kind, its !== null]).toEqual([kind, true]);
      expect(its!.off).toBeLessThan(0.5);
    }
  },
);

test('at rest: shown to be so, or said by whoever watched the display; nothing else', () => {
  const still = { movement: 0, band: 1 };
  expect(atRest({ state: 'settled', value: 1, ...still })).toBe(true);
  expect(atRest({ state: 'said', window: 60 })).toBe(true);
  expect(atRest({ state: 'watching', watched: 0, window: 60 })).toBe(false);
  expect(atRest({ state: 'restless', scatter: 1, ...still })).toBe(false);
  expect(atRest({ state: 'moving', projected: null, ...still })).toBe(false);
});
