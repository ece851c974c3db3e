import { between } from './between';

test('straight between two points; beyond the first and the last, what they say', () => {
  const points = [
    [0, 1],
    [10, 2],
    [20, 6],
  ] as const;
  expect([-5, 0, 5, 10, 15, 20, 99].map((x) => between(points, x))).toEqual([1, 1, 1.5, 2, 4, 6, 6]);
  expect(between([[3, 7]], 0)).toBe(7);
  expect(() => between([], 1)).toThrow('no point');
  expect(() => between(points, Number.NaN)).toThrow('finite');
});
