import fc from 'fast-check';
import { v4, v7 } from 'uuid';
import { may, roles, rolesWith, type Permission } from './permission';
import * as requests from './requests';

const at = '2026-03-02T10:00:00.000Z';
const capture = () => ({
  readingId: v7(),
  reference: { value: 21.4, unit: '°C' },
  watched: [{ t: 1, value: 21 }],
  occurredAt: at,
});
const fails = (
  schema: { validate(v: unknown): { error?: { details: { path: (string | number)[] }[] } } },
  value: unknown,
) => schema.validate(value).error?.details[0]!.path.join('.') ?? null;

describe('numbers', () => {
  test.each([
    ['NaN', Number.NaN],
    ['Infinity', Infinity],
    ['−Infinity', -Infinity],
    ['1e308', 1e308],
    ['text', 'warm'],
    ['null', null],
    ['a list', [1]],
  ])('%s is no reference value', (_, value) => {
    expect(fails(requests.captureReading, { ...capture(), reference: { value, unit: '°C' } })).toBe(
      'reference.value',
    );
  });
  test('any finite number of the trade passes', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) => {
        expect(fails(requests.captureReading, { ...capture(), reference: { value, unit: '°C' } })).toBeNull();
      }),
    );
  });
  test('watched values are checked one by one, and there are not endlessly many', () => {
    expect(
      fails(requests.captureReading, {
        ...capture(),
        watched: [
          { t: 1, value: 1 },
          { t: 2, value: Number.NaN },
        ],
      }),
    ).toBe('watched.1.value');
    expect(
      fails(requests.captureReading, {
        ...capture(),
        watched: Array.from({ length: 2001 }, (_, t) => ({ t, value: 1 })),
      }),
    ).toBe('watched');
  });
});

describe('words, units, ids, times', () => {
  test('ids are UUIDv7, made by the caller', () => {
    expect(fails(requests.captureReading, { ...capture(), readingId: v4() })).toBe('readingId');
    expect(fails(requests.talk, { actionId: v7(), installationId: 'x' })).toBe('installationId');
  });
  test('units the application knows', () => {
    expect(fails(requests.captureReading, { ...capture(), reference: { value: 1, unit: 'furlong' } })).toBe(
      'reference.unit',
    );
  });
  test('a time has to be one', () => {
    expect(fails(requests.captureReading, { ...capture(), occurredAt: 'this morning' })).toBe('occurredAt');
    expect(fails(requests.captureReading, { ...capture(), occurredAt: undefined })).toBe('occurredAt');
  });
  test('a note has words', () => {
    const note = { lineId: v7(), stationId: v7(), text: '   ', occurredAt: at };
    expect(fails(requests.addNote, note)).toBe('text');
    expect(fails(requests.addNote, { ...note, text: ' wet gland ' })).toBeNull();
    expect(requests.addNote.validate({ ...note, text: ' wet gland ' }).value!.text).toBe('wet gland');
  });
  test('fields nobody knows are refused, not dropped', () => {
    expect(fails(requests.nothing, { extra: 1 })).toBe('extra');
    expect(fails(requests.beginWork, { operationId: v7(), from: 'x' })).toBe('from');
  });
  test('an instrument’s range goes upwards, its tolerance is above nothing', () => {
    const q = { quantity: 'ph', tolerance: 0.1, resolution: 0.01, low: 0, high: 14 };
    const instrument = {
      instrumentId: v7(),
      name: 'a',
      model: 'b',
      serial: 'c',
      calibratedOn: '2026-01-01',
      dueOn: '2027-01-01',
      quantities: [q],
    };
    expect(fails(requests.instrument, instrument)).toBeNull();
    expect(fails(requests.instrument, { ...instrument, quantities: [{ ...q, low: 14, high: 0 }] })).toBe(
      'quantities.0.high',
    );
    expect(fails(requests.instrument, { ...instrument, quantities: [{ ...q, tolerance: 0 }] })).toBe(
      'quantities.0.tolerance',
    );
    expect(fails(requests.instrument, { ...instrument, quantities: [] })).toBe('quantities');
    expect(
      fails(requests.instrument, { ...instrument, quantities: [{ ...q, quantity: 'phlogiston' }] }),
    ).toBe('quantities.0.quantity');
  });
  test('no schema falls over whatever it is given', () => {
    const schemas = Object.values(requests).filter(
      (s) => typeof (s as { validate?: unknown }).validate === 'function',
    ) as { validate(v: unknown): unknown }[];
    expect(schemas.length).toBeGreaterThan(12);
    fc.assert(
      fc.property(fc.anything(), (value) => {
        for (const schema of schemas) schema.validate(value);
      }),
    );
  });
});

describe('who may what', () => {
  test('a viewer looks, a reviewer also notes, a technician works, an administrator does all of it', () => {
    const table = Object.fromEntries(
      roles.map((r) => [r, (['view', 'note', 'measure', 'kit'] as Permission[]).filter((p) => may(r, p))]),
    );
    expect(table).toEqual({
      viewer: ['view'],
      technician: ['view', 'note', 'measure', 'kit'],
      reviewer: ['view', 'note'],
      administrator: ['view', 'note', 'measure', 'kit'],
    });
    expect(rolesWith('view')).toEqual(roles);
  });
});
