import { counterOf, sixTimes, told } from '@/test/atOnce';
import { newCurve, newGauging, newRating, newSection } from '@/test/discharge';
import { newPoint, newReading, onPool, statedSurvey, type Pool } from '@/test/water';
import type { Context } from '../context';
import { addGauging, addSection, setCurve } from '../discharge/enter';
import { setRating } from '../discharge/rate';
import { newId } from '../id';
import { addDerived } from '../record/addDerived';
import { reckonAnew } from '../record/reckonAnew';
import { lockStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';
import { addMeasuringPoint, retireMeasuringPoint, setDatum } from '../water/points';
import { addLevelReading } from '../water/readings';
import { reviseLevels } from '../water/revise';
import { addSurvey } from '../water/surveys';
import { takeBackWater } from '../water/takeBack';

/** The same of levels of water. */
let pool: Pool;
onPool((made) => (pool = made));
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => pool.at(), act);
const { count, audited } = counterOf(() => ({ db: pool.test_.db, stationId: pool.stationId }));

test('a datum named by six: one of them, the others are told', async () => {
  const name = (ctx: Context, n: number) =>
    setDatum(ctx, pool.stationId, { datumId: newId(), basedOn: null, name: `Zero ${n}`, others: [] });
  expect(told(await six(name))).toEqual({ done: 1, codes: ['changed-meanwhile'] });
  expect(await audited('water.datum')).toBe(1);
});

test('a point added by six under one code is there once, retired by six once', async () => {
  const add = (ctx: Context) => addMeasuringPoint(ctx, pool.stationId, newPoint('ST9', 'staff'));
  expect(told(await six(add))).toEqual({ done: 1, codes: ['code-taken'] });
  const spare = newPoint('ST8', 'staff');
  await addMeasuringPoint(pool.at(), pool.stationId, spare);
  const retire = (ctx: Context) =>
    retireMeasuringPoint(ctx, pool.stationId, spare.pointId, { reason: 'swept away' });
  expect(told(await six(retire))).toEqual({ done: 1, codes: ['retired-already'] });
  expect(await audited('water.point-retire')).toBe(1);
});

test('a survey of one day by six: one; taken back by six: once', async () => {
  const survey = (ctx: Context) =>
    addSurvey(ctx, pool.stationId, statedSurvey({ [pool.point.ST1]: 0.001 }, -100));
  expect(told(await six(survey))).toEqual({ done: 1, codes: ['survey-that-day'] });
  const day = await count(
    `level_survey where station_id = :s and surveyed_at > now() - interval '100 years'`,
  );
  expect(day).toBe(2);
  const back = (ctx: Context) =>
    takeBackWater(ctx, pool.stationId, 'survey', pool.surveyId, { reason: 'tried by six' });
  const spare = await six(back);
  expect(told(spare)).toEqual({ done: 1, codes: ['taken-back-already'] });
});

test('one reading sent by six is there once; six corrections of it: one', async () => {
  const request = newReading(pool.point.WW1, { kind: 'wire', reads: 2.1 }, null, -0.5);
  const read = (ctx: Context) => addLevelReading(ctx, pool.stationId, request);
  expect(told(await six(read))).toEqual({ done: 1, codes: ['already-there'] });
  const assume = (ctx: Context, n: number) =>
    reviseLevels(ctx, pool.stationId, {
      revisions: [{ revisionId: newId(), readingId: request.readingId, adds: n / 1000 }],
      because: 'assumed',
      surveyId: null,
      reason: 'as in spring',
    });
  expect(told(await six(assume))).toEqual({ done: 1, codes: ['has-correction'] });
  expect(await count('level_revision where station_id = :s')).toBe(1);
  const back = (ctx: Context) =>
    takeBackWater(ctx, pool.stationId, 'reading', request.readingId, { reason: 'tried by six' });
  expect(told(await six(back))).toEqual({ done: 1, codes: ['taken-back-already'] });
  expect([await audited('water.reading'), await audited('water.revise')]).toEqual([1, 1]);
});

test('a section of one day and a curve led from one by six: one each; taken back by six: once', async () => {
  const section = (ctx: Context) => addSection(ctx, pool.stationId, newSection());
  expect(told(await six(section))).toEqual({ done: 1, codes: ['section-that-day'] });
  const led = (ctx: Context) => setCurve(ctx, pool.stationId, newCurve());
  expect(told(await six(led))).toEqual({ done: 1, codes: ['led-meanwhile'] });
  const request = newGauging();
  const gauge = (ctx: Context) => addGauging(ctx, pool.stationId, request);
  expect(told(await six(gauge))).toEqual({ done: 1, codes: ['already-there'] });
  const back = (ctx: Context) =>
    takeBackWater(ctx, pool.stationId, 'gauging', request.gaugingId, { reason: 'tried by six' });
  expect(told(await six(back))).toEqual({ done: 1, codes: ['taken-back-already'] });
  expect(await count('k_curve where station_id = :s')).toBe(1);
  const rated = (ctx: Context) => setRating(ctx, pool.stationId, newRating());
  expect(told(await six(rated))).toEqual({ done: 1, codes: ['led-meanwhile'] });
});

test('a derived record asked by six to be reckoned anew: one runs', async () => {
  const channelId = newId();
  await addDerived(pool.at(), pool.stationId, {
    channelId,
    formula: 'levelAboveDatum',
    zoneName: 'Above the map',
    inputs: { level: pool.channelId },
    parameters: { zero: 10 },
  });
  // While values are being stored there none of them ends before the last has asked.
  const { db } = pool.test_;
  const { station } = await loadStation(db, pool.stationId);
  const begun: Promise<void>[] = [];
  await db.transact(async (tx) => {
    await lockStation(db, tx, station.key);
    const reckon = async (ctx: Context) =>
      void begun.push((await reckonAnew(ctx, pool.stationId, newId())).done);
    expect(told(await six(reckon))).toEqual({ done: 1, codes: ['already-running'] });
  });
  await Promise.all(begun);
  expect(await count(`operation where station_id = :s and kind = 'derive' and state = 'done'`)).toBe(1);
});
