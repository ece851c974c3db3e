import { row } from '@/db/database';
import { bookTexts, refusal } from '@/test/bench';
import { begin, bench, capture, close, iso, minute, now, onChecks, test_, view, wait } from '@/test/onChecks';
import { newId } from '../id';
import { captureReading } from './capture';

onChecks();

const typed = (value: number, more: object = {}) => ({
  typed: { sensor: { value, unit: '°C' as const }, stoodStill: true, ...more },
  watched: [],
});
const reference = { value: 16, unit: '°C' as const };

test('typed off the display: no logger is asked, the person’s word stands for the rest, the sum is the same', async () => {
  const id = await begin('temperature');
  // Nothing answers there: whoever asked would be refused.
  const { address } = (await row(test_.db.logger, { where: { stationId: bench.stationId } }))!;
  const moveTo = (to: string) =>
    test_.db.logger.update({ address: to }, { where: { stationId: bench.stationId } });
  await moveTo('127.0.0.1:1');
  for (const value of [16.3, 16.4, 16.3]) await capture(id, 'airTemperature', { ...typed(value), reference });
  await moveTo(address);
  const v = await view(id);
  expect(v.readings.map((r) => r.settling.state)).toEqual(['said', 'said', 'said']);
  expect(v.asFound).toBeCloseTo((16.3 + 16.4 + 16.3) / 3 - 16, 9);
  expect(v.verdict!.kind).not.toBe('not-settled');
  expect((await bookTexts(test_.db, bench.stationId)).at(-1)).toMatch(
    /sensor 16\.30? read off the display, reference 16\.00? °C, said to stand still/,
  );
  const stored = await row(test_.db.observation, {
    where: { readingId: v.readings[0]!.id, role: 'sensor' },
  });
  expect(stored!.entered).toMatchObject({ typed: { sensor: { unit: '°C' }, stoodStill: true }, watched: 0 });
  await close(id);
});
test('nobody said that it stood still: kept, and it does not count as settled', async () => {
  const id = await begin('temperature');
  await capture(id, 'airTemperature', { ...typed(16.3, { stoodStill: false }), reference });
  expect((await view(id)).readings[0]!.settling.state).toBe('watching');
});
test('another unit is converted; a wrong one is named', async () => {
  const id = await begin('temperature');
  await capture(id, 'airTemperature', {
    ...typed(0, { sensor: { value: 61, unit: '°F' } }),
    reference,
  });
  expect((await view(id)).readings[0]!.sensorValue).toBeCloseTo((61 - 32) / 1.8, 9);
  expect(
    await refusal(
      capture(id, 'airTemperature', { ...typed(0, { sensor: { value: 61, unit: '%RH' } }), reference }),
    ),
  ).toMatchObject({ code: 'wrong-unit', field: 'typed.sensor' });
});
test('a slip of the decimal point on the display is asked about as one on the reference is', async () => {
  const id = await begin('temperature');
  expect(await refusal(capture(id, 'airTemperature', { ...typed(163), reference }))).toMatchObject({
    code: 'far-from-sensor',
  });
});
test('humidity needs its temperature', async () => {
  const id = await begin('humidity');
  expect(
    await refusal(
      capture(id, 'humidity', {
        typed: { sensor: { value: 55, unit: '%RH' }, stoodStill: true },
        watched: [],
      }),
    ),
  ).toMatchObject({ code: 'companion-missing', field: 'companions.sensorTemperature' });
});
test('a reading that waited to be sent is not paired with what the sensor reads by then', async () => {
  const id = await begin('temperature');
  const taken = now;
  wait(20 * minute);
  const send = (more: object) =>
    captureReading(bench.at(now), bench.stationId, id, {
      readingId: newId(),
      reference,
      watched: [],
      occurredAt: iso(taken),
      ...more,
    });
  expect(await refusal(send({}))).toMatchObject({ code: 'too-late-to-ask', field: 'occurredAt' });
  await expect(send(typed(16.2))).resolves.toHaveProperty('difference');
});
