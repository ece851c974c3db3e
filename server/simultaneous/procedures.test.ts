import { rows } from '@/db/database';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { checkBy, instrument, iso, later, procedureBench, type ProcedureBench } from '@/test/procedureBench';
import { present } from '@/test/bench';
import { excludeObservation, observeLater } from '../check/later';
import { closeCheck } from '../check/close';
import type { Context } from '../context';
import { newId } from '../id';
import { noCare } from '@/core/kit/care';
import { keepCalibration, keepCare, keepCrossCheck } from '../kit/calibration';
import { keepFinding, takeFindingBack } from '../kit/foundOff';
import { addStandard, retireStandard } from '../kit/standards';

/** The same of standards, and of what comes later than the sensor. */
let bench: ProcedureBench;
beforeAll(async () => (bench = await procedureBench()));
afterAll(async () => {
  await bench.stand.close();
  await bench.test_.close();
});
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => bench.at(later(0)), act);
const { count, audited } = counterOf(() => ({
  db: bench.test_.db,
  stationId: bench.stationIds['KELP-1']!,
}));

test('a standard put into the kit by six is there once; put away by six, once', async () => {
  const add = (ctx: Context) =>
    addStandard(ctx, {
      standardId: newId(),
      name: 'Borax',
      quantity: 'ph',
      lot: '77',
      values: [{ temperature: null, value: 9.18 }],
      tolerance: 0.02,
      openedOn: null,
      expiresOn: new Date(present + 1e9).toISOString(),
    });
  expect(told(await six(add)).done).toBe(1);
  const [there] = await rows(bench.test_.db.standard, { where: { lot: '77' } });
  const away = (ctx: Context) => retireStandard(ctx, there!.id, { reason: 'spilt' });
  expect(told(await six(away))).toEqual({ done: 1, codes: ['retired-already'] });
});

test('an instrument found off by six keeps six findings; one of them taken back by six, once', async () => {
  const instrumentId = await instrument(bench, 'bulkMoisture', 0.4);
  const keep = (ctx: Context, n: number) =>
    keepFinding(ctx, instrumentId, {
      findingId: newId(),
      quantity: 'bulkMoisture',
      by: 0.5 + n,
      goodUntil: iso(present - 1e9),
      why: 'compared',
      occurredAt: iso(),
    });
  const kept = await six(keep);
  expect(told(kept)).toEqual({ done: 6, codes: [] });
  const [first] = kept as PromiseFulfilledResult<{ id: string }>[];
  const back = (ctx: Context) =>
    takeFindingBack(ctx, instrumentId, first!.value.id, {
      findingId: newId(),
      why: 'a slip',
    });
  expect(told(await six(back))).toEqual({ done: 1, codes: ['taken-back-already'] });
});

test('a calibration, a care and a comparison of an instrument by six: once each of the same day, once on what was seen, six of six', async () => {
  const instrumentId = await instrument(bench, 'bulkMoisture', 0.4);
  const otherId = await instrument(bench, 'bulkMoisture', 0.4);
  const calibrate = (ctx: Context) =>
    keepCalibration(ctx, instrumentId, {
      calibrationId: newId(),
      doneOn: iso(present - 1e8),
      dueOn: iso(present + 1e10),
      certificate: 'L 44',
      says: [],
    });
  expect(told(await six(calibrate))).toEqual({ done: 1, codes: ['calibrated-already'] });
  const look = (ctx: Context) =>
    keepCare(ctx, instrumentId, {
      careId: newId(),
      basedOn: null,
      care: { ...noCare, switchesOffAfter: 300 },
    });
  expect(told(await six(look))).toEqual({ done: 1, codes: ['changed-meanwhile'] });
  const compare = (ctx: Context) =>
    keepCrossCheck(ctx, instrumentId, {
      crossCheckId: newId(),
      otherId,
      quantity: 'bulkMoisture',
      pairs: [{ one: 17, other: 17.2 }],
      place: 'one sample',
      occurredAt: iso(),
    });
  expect(told(await six(compare)).done).toBe(6);
});

test('a test of a sample sent by six under one name is one; taken back by six, once; beside a close none is lost', async () => {
  bench.state.places['KELP-1/Auger outlet'] = { bulkMoisture: { base: 17 } };
  const check = await checkBy(bench, 'KELP-1', 'K2-0059', 'bulkMoisture', 'sampled', {
    instrumentId: await instrument(bench, 'bulkMoisture', 0.4),
  });
  const { readingId } = await check.read();
  const observationId = newId();
  const observe = (ctx: Context, name = observationId, value = 17.2) =>
    observeLater(ctx, check.stationId, check.checkId, readingId, {
      observationId: name,
      role: 'reference',
      entered: { value, unit: '%' },
      occurredAt: iso(),
    });
  expect(told(await six((ctx) => observe(ctx)))).toEqual({ done: 6, codes: [] });
  expect(await count('observation where station_id = :s and id = :observationId', { observationId })).toBe(1);
  expect(await audited('check.observe')).toBe(1);
  // Six with names of their own, of one value, within a moment: one test, and five that are asked about.
  expect(told(await six((ctx) => observe(ctx, newId(), 17.4)))).toEqual({
    done: 1,
    codes: ['entered-twice'],
  });
  // What is there only once, typed by six.
  const weigh = (ctx: Context, n: number) =>
    observeLater(ctx, check.stationId, check.checkId, readingId, {
      observationId: newId(),
      role: 'sampleTemperature',
      entered: { value: 20 + n, unit: '°C' },
      occurredAt: iso(),
    });
  expect(told(await six(weigh))).toEqual({ done: 1, codes: ['there-already'] });
  const exclude = (ctx: Context) =>
    excludeObservation(ctx, check.stationId, check.checkId, readingId, observationId, { reason: 'a slip' });
  expect(told(await six(exclude))).toEqual({ done: 1, codes: ['excluded-already'] });
  const end = (ctx: Context) =>
    closeCheck(ctx, check.stationId, check.checkId, { abandon: true, reason: 'enough', occurredAt: iso() });
  const results = await Promise.allSettled([
    observe(bench.at(later(1000)), newId(), 17.6),
    end(bench.at(later(0))),
    observe(bench.at(later(0)), newId(), 17.8),
  ]);
  for (const code of told(results).codes) expect(['check-closed']).toContain(code);
});
