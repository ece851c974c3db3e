import { isUnlike, usualBand } from './unlike';

describe('unlike everything stored', () => {
  test('the band is the stored extremes, widened by half on either side', () => {
    expect(usualBand({ n: 1000, min: 10, max: 20 })).toEqual({ low: 5, high: 25 });
    expect(usualBand({ n: 5, min: 10, max: 20 })).toBeNull();
    expect(usualBand(null)).toBeNull();
  });
  test('more than half outside is unlike', () => {
    expect([isUnlike(100, 50), isUnlike(100, 51), isUnlike(0, 0)]).toEqual([false, true, false]);
  });
});
