import fc from 'fast-check';
import { betterMeasure, correction, inServerTime, measureClock, wasSet } from './deviceClock';

const measure = (ahead: number, doubt: number, at = 0) => ({ ahead, doubt, at });

test('RFC 5905, section 8: offset ½((T2 − T1) + (T3 − T4)), with T2 = T3', () => {
  const [t1, t2, t4] = [1_000, 700_250, 1_300];
  const theta = (t2 - t1 + (t2 - t4)) / 2 / 1000;
  expect(measureClock(t1, t4, t2)).toEqual({ ahead: -theta, doubt: 0.15, at: t4 });
});

test('whatever the way there and back took, the true difference lies within the doubt', () =>
  fc.assert(
    fc.property(
      fc.double({ min: -4e7, max: 4e7, noNaN: true }),
      fc.nat(20_000),
      fc.nat(20_000),
      (ahead, there, back) => {
        const sent = 1.7e12;
        const server = sent - ahead * 1000 + there;
        const m = measureClock(sent, sent + there + back, server)!;
        expect(Math.abs(m.ahead - ahead)).toBeLessThanOrEqual(m.doubt + 1e-3);
      },
    ),
  ));

test('a clock set back in between, or a stamp that is none, measures nothing', () => {
  expect(measureClock(1000, 999, 5)).toBeNull();
  expect(measureClock(1000, 1001, Number.NaN)).toBeNull();
});

test('a day ahead is taken off; a difference within its doubt is not', () => {
  expect(inServerTime(86_400_000, measure(86_400, 0.2))).toBe(0);
  expect(inServerTime(5, measure(0.1, 0.2))).toBe(5);
  expect(inServerTime(5, null)).toBe(5);
  expect(correction(measure(-3, 0.2))).toBe(-3);
});

test('the surer measure holds, until the clock was set or it has grown old', () => {
  const sure = measure(1, 0.05);
  const slow = measure(1.4, 2, 60_000);
  expect(betterMeasure(sure, slow)).toBe(sure);
  expect(betterMeasure(null, slow)).toBe(slow);
  const later = measure(1.4, 2, 86_400_000);
  expect(betterMeasure(sure, later)).toBe(later);
  const set = measure(61, 2, 60_000);
  expect(wasSet(sure, set)).toBe(true);
  expect(betterMeasure(sure, set)).toBe(set);
  const backInTime = measure(0, 1, -5);
  expect(betterMeasure(sure, backInTime)).toBe(backInTime);
});

test('a day of a poor clock is not taken for one that was set', () =>
  expect(wasSet(measure(0, 0.1), measure(86_400 * 50e-6, 0.1, 86_400_000))).toBe(false));
