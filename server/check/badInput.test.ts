import { refusal } from '@/test/bench';
import { adjustBy, begin, bench, capture, iso, now, onChecks, threeOf, view } from '@/test/onChecks';
import { newId } from '../id';
import { closeCheck } from './close';

/** What cannot be taken is refused with its field, its value and a remedy, and nothing is half-saved. */
onChecks();

test('the wrong zone, an instrument that cannot, one out of date without a reason', async () => {
  expect(await refusal(begin('humidity', { zoneName: 'Map store' }))).toMatchObject({
    code: 'wrong-zone',
    field: 'zoneName',
  });
  const late = await refusal(begin('humidity', { instrumentId: bench.overdueInstrumentId }));
  expect(late).toMatchObject({ code: 'reference-out-of-date', field: 'outOfDateReason' });
  expect(late.detail).toMatch(/ran out on 2025-10-01/);
  const id = await begin('humidity', {
    instrumentId: bench.overdueInstrumentId,
    outOfDateReason: 'the other one fell in the sea',
  });
  expect((await view(id)).plan.outOfDateReason).toBe('the other one fell in the sea');
  expect((await refusal(begin('humidity'))).code).toBe('check-open');
});
test.each([
  [
    '21.4 typed as 214 (here 160 for 16.0)',
    { value: 160, unit: '°C' as const },
    'outside-instrument-range',
    /Did you mean 16 °C/,
  ],
  [
    'a reading in °F taken as °C',
    { value: 60.8, unit: '°C' as const },
    'outside-instrument-range',
    /Did you mean 60.8 °F/,
  ],
  ['1e308', { value: 1e308, unit: '°C' as const }, 'outside-instrument-range', /Read the display again/],
  ['NaN', { value: Number.NaN, unit: '°C' as const }, 'not-a-number', /number on the display/],
  ['Infinity', { value: Infinity, unit: '°C' as const }, 'not-a-number', /number on the display/],
  ['a unit of something else', { value: 16, unit: '%RH' as const }, 'wrong-unit', /°C/],
  [
    '1.6 for 16: possible, so asked',
    { value: 1.6, unit: '°C' as const },
    'far-from-sensor',
    /Did you mean 16 °C.*confirm/,
  ],
])('%s', async (_, reference, code, remedy) => {
  const id = await begin('temperature');
  const refused = await refusal(capture(id, 'airTemperature', { reference }));
  expect(refused).toMatchObject({ code, field: 'reference' });
  expect(refused.remedy).toMatch(remedy);
  expect((await view(id)).readings).toHaveLength(0);
});
test('an odd value that the person stands by is taken', async () => {
  const id = await begin('temperature');
  await capture(id, 'airTemperature', { reference: { value: 1.6, unit: '°C' }, confirmed: true });
  expect((await view(id)).readings).toHaveLength(1);
});
test('°F is converted as a value, the difference stays in °C', async () => {
  const id = await begin('temperature');
  await capture(id, 'airTemperature', { reference: { value: 60.8, unit: '°F' } });
  expect((await view(id)).readings[0]!.references[0]!.value).toBeCloseTo(16, 6);
});
test('humidity without its temperature; a time in the future; a repeated send', async () => {
  const id = await begin('humidity');
  expect((await refusal(capture(id, 'humidity', { companions: {} }))).code).toBe('companion-missing');
  expect((await refusal(capture(id, 'humidity', { occurredAt: iso(now + 3_600_000) }))).code).toBe(
    'future-time',
  );
  const readingId = newId();
  await capture(id, 'humidity', { readingId });
  await capture(id, 'humidity', { readingId });
  expect((await view(id)).readings).toHaveLength(1);
});
test('an offset that the check did not find, or beyond the guard', async () => {
  bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
  const id = await begin('humidity');
  await threeOf(id, 'humidity');
  expect((await refusal(adjustBy(id, 6))).code).toBe('not-as-found');
  expect((await refusal(adjustBy(id, -9))).code).toBe('beyond-guard');
  expect(bench.logger.channels[1]!.offsets).toEqual([]);
});
test('a silent sensor or logger loses nothing that was captured', async () => {
  const id = await begin('temperature');
  await capture(id, 'airTemperature');
  bench.logger.sensors[0]!.powered = false;
  expect((await refusal(capture(id, 'airTemperature'))).code).toBe('sensor-silent');
  bench.logger.sensors[0]!.powered = true;
  await capture(id, 'airTemperature');
  expect((await view(id)).readings).toHaveLength(2);
});
test('abandoning wants a reason', async () => {
  const id = await begin('temperature');
  expect(
    (await refusal(closeCheck(bench.at(now), bench.stationId, id, { abandon: true, occurredAt: iso(now) })))
      .code,
  ).toBe('reason-missing');
});
