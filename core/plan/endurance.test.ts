import { catalogue, catalogueWith, device, planOf } from '@/test/plan';
import { shipped } from '@/catalogue/profiles';
import { planContext } from './context';
import { energyOf } from './energy';
import { endurance, intervalText, switches } from './endurance';

const n2 = shipped('logger', 'noust-n2')!;
const three = [
  device('noust-t1', {}, { id: 'a', name: 'Upper' }),
  device('noust-t1', {}, { id: 'b', name: 'Lower' }),
  device('ayre-r2', {}, { id: 'c', name: 'Rain' }),
];

test('three channels every five minutes fill 43 000 readings in 49.8 days', () => {
  // Common practice, no source.
  const profiles = catalogueWith({ ...n2, memory: 43_000 });
  const plan = { ...planOf('noust-n2', three), storeEvery: 300 };
  const found = endurance(planContext(plan, profiles))();
  expect(found.channels).toBe(3);
  expect(found.memoryDays).toBeCloseTo(49.77, 2);
  expect(found).toMatchObject({ batteryDays: null, first: 'memory' });
});

test('a battery is used by what the plan draws, and the shorter of the two ends it', () => {
  const plan = {
    ...planOf('noust-n2', three),
    storeEvery: 86_400,
    supply: { ...planOf('noust-n2', three).supply, volts: 3.6, batteryAh: 2 },
  };
  const found = endurance(planContext(plan, catalogue))();
  // A reading a day of each: 60 000 ÷ 3 = 20 000 days of memory.
  expect(found.memoryDays).toBe(20_000);
  expect(found.first).toBe('battery');
  // 2 Ah × 3.6 V × 0.5 = 3.6 Wh, over what it draws in a day.
  expect(found.batteryDays).toBeCloseTo(3.6 / energyOf(planContext(plan, catalogue))!.wattHours, 9);
  expect(found.sums[1]).toMatch(/^2 Ah × 3.6 V × 0.5 ÷ /);
});

test('nothing stored, and a logger nobody described: it does not end', () => {
  expect(endurance(planContext(planOf('noust-n2', []), catalogue))()).toMatchObject({
    memoryDays: null,
    first: null,
    sums: [],
  });
  const unknown = { ...planOf('noust-n2', three), logger: { code: 'nobody', revision: 1 } };
  expect(endurance(planContext(unknown, catalogue))()).toMatchObject({ memoryDays: null, first: null });
});

test('what each switch buys', () => {
  const plan = { ...planOf('noust-n2', three), storeEvery: 1800, measureEvery: 60 };
  const now = endurance(planContext(plan, catalogue))().memoryDays!;
  const bought = switches(planContext(plan, catalogue), catalogue);
  expect(bought.map((s) => s.says)).toEqual([
    'stored every 1 h',
    'channels of Upper off',
    'channels of Lower off',
    'channels of Rain off',
  ]);
  expect(bought[0]!.then.memoryDays).toBeCloseTo(2 * now, 9);
  expect(bought[1]!.then.memoryDays).toBeCloseTo(1.5 * now, 9);
  // Where a battery ends it, measuring less often buys something too.
  const fed = { ...plan, supply: { ...plan.supply, volts: 3.6, batteryAh: 0.2 } };
  expect(switches(planContext(fed, catalogue), catalogue).map((s) => s.says)).toContain(
    'measured every 30 min too',
  );
  const longest = switches(
    planContext({ ...plan, storeEvery: 86_400, measureEvery: 86_400 }, catalogue),
    catalogue,
  );
  expect(longest.map((s) => s.says)).toEqual([
    'channels of Upper off',
    'channels of Lower off',
    'channels of Rain off',
  ]);
});

test.each([
  [60, '1 min'],
  [900, '15 min'],
  [3600, '1 h'],
  [90, '90 s'],
  [5400, '90 min'],
])('%d s is said as %s', (seconds, text) => expect(intervalText(seconds)).toBe(text));
