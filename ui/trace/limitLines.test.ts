import { defaultThresholds } from '@/core/quality/thresholds';
import { limitLines } from './limitLines';

const day = (text: string) => Date.parse(`${text}T00:00Z`);

test('both ends of a range over the whole window; tests without a range draw nothing', () => {
  const lines = limitLines(defaultThresholds('airTemperature'), 0, 1000);
  expect(lines.map((l) => [l.test, l.value, l.from, l.until])).toEqual([
    ['gross', -60, 0, 1000],
    ['gross', 80, 0, 1000],
  ]);
});
test('months step where they meet, and an empty month has no line', () => {
  const low = Array.from({ length: 12 }, (_, m) => (m === 1 ? null : m));
  const high = low.map((v) => (v === null ? null : v + 10));
  const lines = limitLines({ climatology: { low, high } }, day('2026-01-20'), day('2026-03-10'));
  expect(lines.map((l) => [l.value, l.from, l.until])).toEqual([
    [0, day('2026-01-20'), day('2026-02-01')],
    [10, day('2026-01-20'), day('2026-02-01')],
    [2, day('2026-03-01'), day('2026-03-10')],
    [12, day('2026-03-01'), day('2026-03-10')],
  ]);
});
