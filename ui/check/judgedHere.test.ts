import type { CaptureReading } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import { evaluateCheck } from '@/core/check/evaluate';
import { plainCheckPlan } from '@/test/plainCheckPlan';
import type { Queued } from '../outbox/queued';
import { judgedHere } from './judgedHere';

const check = (more: Partial<CheckView> = {}): CheckView =>
  ({
    id: 'k',
    plan: { ...plainCheckPlan, repeats: 2, guard: 5 },
    readings: [],
    adjustments: [],
    earlier: null,
    correction: 0,
    ...evaluateCheck({ plan: plainCheckPlan, readings: [], earlier: null }, []),
    ...more,
  }) as unknown as CheckView;
const typed = (n: number, sensor: number, reference: number, more: object = {}): Queued =>
  ({
    seq: n,
    kind: 'checkReading',
    params: { checkId: 'k' },
    state: 'waits',
    body: {
      readingId: `r${n}`,
      reference: { value: reference, unit: '°C' },
      watched: [],
      typed: { sensor: { value: sensor, unit: '°C' }, stoodStill: true },
      occurredAt: `2026-11-27T10:0${n}:00.000Z`,
      ...more,
    } satisfies CaptureReading,
  }) as unknown as Queued;

test('two readings that wait here are judged here, with their sums; what is of another check is not', () => {
  const before = check();
  const other = { ...typed(3, 25, 20), params: { checkId: 'other' } };
  const after = judgedHere(before, [typed(1, 20.4, 20.3), typed(2, 20.3, 20.3), other]);
  expect(after.readings.map((r) => r.compared?.difference.toFixed(2))).toEqual(['0.10', '0.00']);
  expect(after.readings[0]).toMatchObject({
    phase: 'as-found',
    settling: { state: 'said' },
    compared: { sum: expect.stringContaining('20.40 − 20.30') as string },
  });
  expect(after.verdict).toEqual({ kind: 'agree' });
  expect(judgedHere(before, [other])).toBe(before);
  expect(judgedHere(before, [{ ...typed(1, 1, 1), state: 'refused' }])).toBe(before);
});

test('what lies over the record belongs to what is read off the display; another unit is converted', () => {
  const after = judgedHere(check({ correction: -0.5 }), [
    typed(1, 20.5, 68, { reference: { value: 68, unit: '°F' } }),
  ]);
  // 20.5 − 0.5 beside 68 °F, which is 20 °C.
  expect(after.readings[0]!.sensorValue).toBeCloseTo(20, 9);
  expect(after.asFound).toBeCloseTo(0, 9);
});

test('what the server has already is not counted twice; what it will refuse is left out', () => {
  const once = judgedHere(check(), [typed(1, 20.4, 20.3)]);
  const known = check({ readings: once.readings });
  expect(judgedHere(known, [typed(1, 20.4, 20.3)])).toBe(known);
  const wrong = typed(2, 20, 20, { reference: { value: 20, unit: 'hPa' } });
  expect(judgedHere(known, [wrong])).toBe(known);
  const asked = typed(2, 20, 20, { typed: undefined });
  expect(judgedHere(known, [asked])).toBe(known);
});

test('tests of a sample that wait are part of it, and decide', () => {
  const plan = {
    ...plainCheckPlan,
    procedure: 'sampled' as const,
    quantity: 'bulkMoisture' as const,
    unit: '%' as const,
    repeats: 1,
    guard: 1.5,
  };
  const drawn = judgedHere(check({ plan }), [
    typed(1, 17, 0, { reference: undefined, typed: { sensor: { value: 17, unit: '%' }, stoodStill: true } }),
  ]);
  expect(drawn.verdict).toBeNull();
  const test = (n: number, value: number): Queued =>
    ({
      seq: n,
      kind: 'checkObservation',
      params: { checkId: 'k', readingId: 'r1' },
      state: 'waits',
      body: {
        observationId: `o${n}`,
        role: 'reference',
        entered: { value, unit: '%' },
        occurredAt: '2026-11-27T10:30:00.000Z',
      },
    }) as unknown as Queued;
  const tested = judgedHere(check({ plan, readings: drawn.readings }), [
    test(2, 16.9),
    test(3, 17.1),
    test(4, 17),
  ]);
  expect(tested.readings[0]!.compared).toMatchObject({ how: 'mean of 3 tests' });
  expect(tested.verdict).toEqual({ kind: 'agree' });
});
