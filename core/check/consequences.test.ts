import { limitsCrossed } from './consequences';
import { outsideProved } from './provedSpan';

const limits = { farLow: 10, low: 18, high: 22, farHigh: null };

test('an adjustment that carries a value over a limit, and one that brings it back', () => {
  expect(limitsCrossed(limits, 21.8, 0.5)).toEqual([{ limit: 'high', value: 22, isBeyond: true }]);
  expect(limitsCrossed(limits, 22.4, -0.5)).toEqual([{ limit: 'high', value: 22, isBeyond: false }]);
  expect(limitsCrossed(limits, 18.2, -9).map((c) => c.limit)).toEqual(['farLow', 'low']);
  expect(limitsCrossed(limits, 20, 0.5)).toEqual([]);
  expect(() => limitsCrossed(limits, 20, Number.NaN)).toThrow('by');
});

test('of a record that goes from 2 to 24 °C most lies where a check at 16 °C proves nothing', () => {
  const day = (min: number, max: number) => ({ min, max, n: 144 });
  const record = [day(15, 17), day(14.6, 16), day(2, 9), day(12, 24), { min: null, max: null, n: 0 }];
  expect(outsideProved(record, { low: 15.9, high: 16.1 }, 0.3)).toEqual({ share: 0.5, from: 2, to: 24 });
  expect(outsideProved(record, { low: 2, high: 24 }, 0.3)!.share).toBe(0);
  expect(outsideProved([], { low: 1, high: 2 }, 1)).toBeNull();
});
