import type { CheckView } from '@/contract/checkViews';
import type { PlannedCompanion } from '@/core/check/plan';
import type { QuantityCode } from '@/core/quantity/quantity';
import { quantityOf } from '@/core/quantity/quantity';
import {
  besideReference,
  referenceOf,
  zoneProcedure,
  zoneReading,
  zonesOf,
  type ZoneRow,
} from './zoneReading';

const act = { readingId: 'r', occurredAt: '2026-11-27T10:00:00.000Z' };
const companion = (key: string): PlannedCompanion => ({
  key,
  channel: null,
  tolerance: 0.2,
  range: [-40, 70],
  certificate: null,
});
const row = (
  quantity: QuantityCode,
  more: { typed?: string; linked?: number; instrument?: string; lentOff?: number } = {},
): ZoneRow => ({
  check: {
    id: quantity,
    unit: quantityOf(quantity).unit,
    instrument: { id: more.instrument ?? 'handheld' },
    plan: {
      quantity,
      procedure: zoneProcedure(quantity),
      companions: quantity === 'humidity' ? [companion('referenceTemperature')] : [],
    },
  } as unknown as CheckView,
  watch: {
    live: {
      t: 0,
      value: 1,
      companions: {},
      instrument: {
        value: more.linked ?? null,
        companions: { referenceTemperature: more.lentOff ?? null },
      },
    },
    watched: [{ t: 0, value: 1 }],
    reference: [{ t: 0, value: 2 }],
    at: 0,
    error: null,
  },
  settling: { state: 'said', window: 60 },
  reference: null,
  typed: more.typed ?? '',
  unit: quantityOf(quantity).unit,
});

test('the temperature that is typed once is lent to the humidity read off the same instrument', () => {
  const temperature = row('airTemperature', { typed: '21.4' });
  const humidity = row('humidity', { typed: '48,5' });
  const rows = [temperature, humidity];
  expect(zoneReading(humidity, rows, act)).toEqual({
    ...act,
    reference: { value: 48.5, unit: '%RH' },
    companions: { referenceTemperature: { value: 21.4, unit: '°C' } },
    watched: [{ t: 0, value: 1 }],
  });
  expect(zoneReading(temperature, rows, act)).toMatchObject({ reference: { value: 21.4 }, companions: {} });
});

test('another instrument’s temperature is not that of the humidity: it waits, unless its own display says it', () => {
  const temperature = row('airTemperature', { typed: '21.4', instrument: 'another' });
  const humidity = row('humidity', { typed: '48' });
  expect(zoneReading(humidity, [temperature, humidity], act)).toBeNull();
  expect(besideReference(humidity, [temperature, humidity]).missing.map((m) => m.key)).toEqual([
    'referenceTemperature',
  ]);
  const linked = row('humidity', { linked: 47, lentOff: 21.1 });
  expect(zoneReading(linked, [temperature, linked], act)).toMatchObject({
    reference: { value: 47, unit: '%RH' },
    companions: { referenceTemperature: { value: 21.1, unit: '°C' } },
    referenceWatched: [{ t: 0, value: 2 }],
  });
});

test('what is typed goes before what the link shows; nothing of either is no reading', () => {
  expect(referenceOf(row('co2', { typed: '455', linked: 470 }))).toEqual({ value: 455, unit: 'ppm' });
  expect(referenceOf(row('co2', { linked: 470 }))).toEqual({ value: 470, unit: 'ppm' });
  expect(referenceOf(row('co2'))).toBeNull();
  expect(zoneReading(row('co2'), [], act)).toBeNull();
});

test('a bulk good is sampled by itself: it has no place in a walk through the zones', () => {
  expect(zoneProcedure('bulkMoisture')).toBeNull();
  expect(zoneProcedure('humidity')).toBe('one-air');
  const channel = (id: string, zoneName: string, quantity: QuantityCode) => ({ id, zoneName, quantity });
  const zones = zonesOf({
    channels: [
      channel('a', 'Loft 2', 'humidity'),
      channel('b', 'Press', 'bulkMoisture'),
      channel('c', 'Loft 1', 'humidity'),
      channel('d', 'Loft 1', 'radiation'),
    ] as never,
    instruments: [{ quantities: [{ quantity: 'humidity' }, { quantity: 'bulkMoisture' }] }] as never,
  });
  expect([...zones].map(([name, all]) => [name, all.map((c) => c.id)])).toEqual([
    ['Loft 2', ['a']],
    ['Loft 1', ['c']],
  ]);
});
