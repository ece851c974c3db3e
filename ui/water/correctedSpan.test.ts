import type { LevelReadingView } from '@/contract/water';
import { agreedBefore, correctedSpan } from './correctedSpan';

/** Values are logged every ten minutes; instants in minutes. */
const minute = 60_000;
const reading = (
  at: number,
  kind: 'agree' | 'adjust' | null,
  channelId = 'c',
  between: readonly [number, number] = [10 * Math.floor(at / 10), 10 * Math.ceil(at / 10)],
) =>
  ({
    id: String(at),
    at: at * minute,
    against:
      kind === null
        ? null
        : {
            channelId,
            value: 2,
            logged: 2,
            between: [between[0] * minute, between[1] * minute],
            comparison: { difference: 0.04, verdict: { kind } },
          },
  }) as unknown as LevelReadingView;

test('back to the last that agreed, by the same channel', () => {
  const off = reading(95, 'adjust');
  const all = [
    off,
    reading(62, 'agree', 'another'),
    reading(53, null),
    reading(41, 'agree'),
    reading(12, 'agree'),
  ];
  expect(agreedBefore(all, off)!.id).toBe('41');
  expect(agreedBefore([off, reading(41, 'adjust')], off)).toBeNull();
  expect(agreedBefore(all, reading(95, null))).toBeNull();
  // A later one says nothing of what was before.
  expect(agreedBefore([reading(99, 'agree'), off], off)).toBeNull();
});

test('the values beside the one that is off are corrected, those beside the one that agreed are not', () => {
  const [agreed, off] = [reading(41, 'agree'), reading(95, 'adjust')];
  const { from, until } = correctedSpan(agreed, off);
  expect(Date.parse(from)).toBeGreaterThan(50 * minute);
  expect(Date.parse(from)).toBeLessThan(60 * minute);
  expect(Date.parse(until)).toBe(100 * minute);
  // One that shares a value with it cannot be told apart from it.
  const beside = reading(88, 'agree');
  expect(agreedBefore([off, beside, agreed], off)!.id).toBe('41');
  // Read at the very stamp of a value.
  expect(agreedBefore([off, reading(80, 'agree')], off)!.id).toBe('80');
});
