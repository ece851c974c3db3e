import { cellNumber } from './cellNumber';

describe('numbers', () => {
  test.each([
    ['12.5', '.', 12.5],
    ['-0.25', '.', -0.25],
    ['\u22124.5', '.', -4.5],
    ['.5', '.', 0.5],
    ['1e-3', '.', 0.001],
    ['12,5', ',', 12.5],
    ['1.234', '.', 1.234],
    ['1.234', ',', 'decimal-mark'],
    ['12,5', '.', 'decimal-mark'],
    ['1,234.5', '.', 'thousands'],
    ['1.234,5', ',', 'thousands'],
    ["1'234.5", '.', 'thousands'],
    ['1 234 567', '.', 'thousands'],
    ['0x1F', '.', 'not-a-number'],
    ['Infinity', '.', 'not-a-number'],
    ['1e308', '.', 'not-finite'],
    ['12 °C', '.', 'not-a-number'],
  ] as const)('%s with "%s" is %s', (text, decimal, want) => {
    expect(cellNumber(text, decimal)).toBe(want);
  });
});
