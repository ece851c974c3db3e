import { quantityCodes } from '../quantity/quantity';
import { expectDocTable } from '@/test/docTable';
import { setTests, testOf } from './tests';
import { defaultThresholds, refuseThresholds } from './thresholds';

describe('thresholds', () => {
  test('every quantity has some that are sound', () => {
    for (const code of quantityCodes) expect(refuseThresholds(code, defaultThresholds(code))).toBeNull();
  });
  test.each([
    [{ gross: { low: 5, high: 5 } }, 'gross'],
    [{ user: { low: 9, high: 1 } }, 'user'],
    [{ spike: { suspect: 3, fail: 1 } }, 'spike'],
    [{ rate: { perHour: 0 } }, 'rate'],
    [{ flat: { eps: -1, suspectHours: 1, failHours: 2 } }, 'flat'],
    [{ flat: { eps: 0, suspectHours: 3, failHours: 2 } }, 'flat'],
  ])('%j is refused', (change, field) => {
    const refused = refuseThresholds('airTemperature', { ...defaultThresholds('airTemperature'), ...change });
    expect(refused!.field).toBe(field);
    expect(refused!.remedy).toMatch(/\S/);
  });
  test('a sector of directions may run through north', () => {
    expect(
      refuseThresholds('windDirection', {
        ...defaultThresholds('windDirection'),
        user: { low: 330, high: 30 },
      }),
    ).toBeNull();
  });
});

test('docs/quality-tests.md shows the tests as they are', () => {
  expectDocTable(
    'docs/quality-tests.md',
    'tests',
    ['test', 'file', 'definition'],
    [
      [
        'timing and gap',
        '`core/quality/timing.ts`',
        'more than the storage interval and a tenth between two stamps: at least one value missing',
      ],
      ...setTests.map((code) => {
        const { name, file, definition } = testOf(code);
        return [name, `\`core/quality/${file}\``, definition];
      }),
    ],
  );
});
