import { fieldWrites } from '@/contract/fieldWrites';
import { newId } from '@/ui/shared/api';
import { broughtUp } from './broughtUp';
import type { Queued } from './queued';

const held = (kind: Queued['kind'], body: unknown): Queued =>
  ({ seq: 1, key: 'k', kind, stationId: 's', params: {}, body, state: 'waits', problem: null }) as never;
const celsius = (value: number) => ({ value, unit: '°C' });
const percent = (value: number) => ({ value, unit: '%RH' });
const former = {
  readingId: newId(),
  reference: percent(54.1),
  referenceTemperature: celsius(22.4),
  watched: [],
  typed: { sensor: percent(56), sensorTemperature: celsius(22.1), stoodStill: true },
  occurredAt: '2026-11-20T10:00:00.000Z',
};

test('a humidity kept before companions had keys of their own is taken today, with both thermometers', () => {
  const { schema } = fieldWrites.checkReading;
  expect(schema.validate(former).error?.message).toMatch(/Temperature" is not allowed/);
  const { body } = broughtUp(held('checkReading', former));
  expect(schema.validate(body).error).toBeUndefined();
  expect(body).toEqual({
    readingId: former.readingId,
    reference: percent(54.1),
    companions: { sensorTemperature: celsius(22.1), referenceTemperature: celsius(22.4) },
    watched: [],
    typed: { sensor: percent(56), stoodStill: true },
    occurredAt: former.occurredAt,
  });
});

test('one whose sensor was asked for by the server has no typed side to bring up', () => {
  const { typed: _, ...asked } = former;
  const { body } = broughtUp(held('checkReading', asked));
  expect(body).not.toHaveProperty('typed');
  expect(body).toHaveProperty('companions', { referenceTemperature: celsius(22.4) });
});

test('what is in shape already, and what is no reading, is handed through as it is', () => {
  const today = held('checkReading', { readingId: newId(), watched: [], companions: {} });
  expect(broughtUp(today)).toBe(today);
  const note = held('note', { referenceTemperature: 1 });
  expect(broughtUp(note)).toBe(note);
});
