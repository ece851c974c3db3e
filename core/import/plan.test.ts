import { existingChannel, plainPlan } from '@/test/plainPlan';
import type { Dialect } from './dialect';
import { refusePlan, type ImportPlan } from './plan';

/** A temperature in the second column, unless a test says otherwise. */
const plan = (more: Partial<ImportPlan> = {}, layout: Partial<Dialect> = {}): ImportPlan =>
  plainPlan([existingChannel(1, 'c1')], more, layout);

describe('plans', () => {
  const target = existingChannel;
  test.each([
    [
      'a column twice',
      plan({ columns: [target(1, 'a'), target(1, 'b')] }, { width: 3 }),
      /Column 2 is used twice/,
    ],
    ['the time column as a value', plan({ columns: [target(0, 'a')] }), /Column 1 is used twice/],
    [
      'two columns to one channel',
      plan({ columns: [target(1, 'a'), target(2, 'a')] }, { width: 3 }),
      /Columns 2 and 3 go to one channel/,
    ],
    ['no column', plan({ columns: [] }), /No column is given a channel/],
    ['a column that is not there', plan({ columns: [target(7, 'a')] }), /no column 8/],
    ['an unknown zone', plan({ zone: { kind: 'zone', name: 'Moon/Copernicus' } }), /no time zone/],
    ['an offset beyond all', plan({ zone: { kind: 'fixed', minutes: 2000 } }), /cannot be/],
    [
      'another quantity’s unit',
      plan({ columns: [{ ...target(1, 'a'), unit: 'hPa' }] }),
      /not measured in hPa/,
    ],
    ['one mark for two things', plan({}, { decimal: ',' }), /are the same/],
  ])('%s is refused by name', (_, p, detail) => {
    const refused = refusePlan(p)!;
    expect(refused.detail).toMatch(detail);
    expect(refused.remedy).toMatch(/\S/);
  });
  test('a sound one passes', () => expect(refusePlan(plan())).toBeNull());
});
