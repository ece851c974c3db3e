import fc from 'fast-check';
import { DateTime } from 'luxon';
import { tickText, timeTicks, valueAxis } from './ticks';

const zone = 'Europe/London';
const at = (text: string) => DateTime.fromISO(text, { zone }).toMillis();
const texts = (from: string, until: string, n = 8) =>
  timeTicks(at(from), at(until), zone, n).map((t) => tickText(t, at(until) - at(from), zone));

test('a week has its days, by the site’s clock', () =>
  expect(texts('2026-06-01T02:03', '2026-06-08T02:03')).toEqual(
    [2, 3, 4, 5, 6, 7, 8].map((d) => `${d} Jun`),
  ));
test('a day has its hours, and midnight says which day', () =>
  expect(texts('2026-06-01T14:20', '2026-06-02T14:20')).toEqual([
    '15:00',
    '18:00',
    '21:00',
    '2 Jun',
    '03:00',
    '06:00',
    '09:00',
    '12:00',
  ]));
test('over the night the clocks go back the days stay whole', () => {
  const ticks = timeTicks(at('2026-10-23T12:00'), at('2026-10-28T12:00'), zone, 5);
  expect(ticks.map((t) => DateTime.fromMillis(t).setZone(zone).hour)).toEqual(ticks.map(() => 0));
});
test('years', () => expect(texts('2019-03-01T00:00', '2026-03-01T00:00')).toContain('2024'));

test('values: round ends, round ticks, all within', () => {
  expect(valueAxis(17.1, 21.7, 5)).toMatchObject({ low: 17, high: 22 });
  expect(valueAxis(17.1, 21.7, 5).ticks).toEqual([17, 18, 19, 20, 21, 22]);
  expect(valueAxis(0.0121, 0.0187, 5).ticks[0]).toBe(0.012);
  expect(valueAxis(5, 5, 5)).toMatchObject({ low: 4.94, high: 5.06 });
});
test('whatever the values, the axis holds them', () => {
  const finite = fc.double({ min: -1e6, max: 1e6, noNaN: true });
  fc.assert(
    fc.property(finite, finite, (a, b) => {
      const [low, high] = [Math.min(a, b), Math.max(a, b)];
      const axis = valueAxis(low, high, 5);
      const rounding = 1e-9 * Math.max(1, Math.abs(low), Math.abs(high));
      expect(axis.low <= low + rounding && axis.high >= high - rounding).toBe(true);
      expect(axis.low).toBeLessThan(axis.high);
    }),
  );
});
