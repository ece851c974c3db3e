import { judgeLiveTest, tiltFailure, type Try } from './liveTest';

const shown = { decimals: 1, unit: '°C' };
const value = (v: number): Try => ({ value: v, why: null });
const not = (why: string): Try => ({ value: null, why });

test('all well: n of n, with how far it moved', () => {
  expect(judgeLiveTest([value(8.1), value(8.3), value(8.2)], [-15, 65], shown)).toEqual({
    tries: 3,
    good: 3,
    failures: [],
    low: 8.1,
    high: 8.3,
    last: 8.2,
  });
});

test('a test that succeeds after failures says n of m and why, the commonest first', () => {
  const tries = [not('No answer'), not('No answer'), value(99), value(8), not('checksum'), value(8.1)];
  expect(judgeLiveTest(tries, [-15, 65], shown)).toMatchObject({
    tries: 6,
    good: 2,
    last: 8.1,
    failures: [
      { why: 'No answer', n: 2 },
      { why: 'out of range: its sensor shows −15.0 to 65.0 °C', n: 1 },
      { why: 'checksum', n: 1 },
    ],
  });
});

test('nothing good, and nothing tried', () => {
  expect(judgeLiveTest([not('No answer')], null, shown)).toMatchObject({ good: 0, low: null, last: null });
  expect(judgeLiveTest([], null, shown)).toMatchObject({ tries: 0, good: 0 });
});

test('a tilted sensor says so in words; at its limit it hangs right', () => {
  expect(tiltFailure(2, 2)).toBeNull();
  expect(tiltFailure(-2.5, 2)).toBe('tilted: 2.5° from the vertical, 2° at most');
  expect(() => tiltFailure(Number.NaN, 2)).toThrow(RangeError);
});
