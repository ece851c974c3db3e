import type { WaterView } from '@/contract/water';
import { levelSum } from '@/core/water/levelSum';
import { barProposals, surveyProposals } from '@/core/water/proposals';
import { refusal } from '@/test/bench';
import { isoAt, newPoint, newReading, onPool, poolLevel, statedSurvey, type Pool } from '@/test/water';
import { correctSpan } from '../verify/correct';
import { newId } from '../id';
import { fieldBook } from '../book/fieldBook';
import { stationBasics } from '../station/stationBasics';
import { addMeasuringPoint, retireMeasuringPoint, setDatum } from './points';
import { addLevelReading } from './readings';
import { reviseLevels } from './revise';
import { addSurvey } from './surveys';
import { takeBackWater } from './takeBack';
import { waterView } from './view';

let pool: Pool;
onPool((made) => (pool = made));

const view = (hours = 0): Promise<WaterView> => waterView(pool.at(hours), pool.stationId);
const readingIn = (v: WaterView, id: string) => v.readings.find((r) => r.id === id)!;
const sumIn = (v: WaterView, id: string) => levelSum(readingIn(v, id), v);
const down = (length: number) => ({ kind: 'tape', direction: 'down', length }) as const;

describe('a level that was read', () => {
  let id = '';
  test('stands beside the record of its own instant, with its sum in the field book', async () => {
    // 2.155 m by the pool; the tape says 2.152.
    id = await pool.read('RP1', down(2.848), -5.5);
    const v = await view();
    expect(sumIn(v, id)).toMatchObject({ level: 2.152, text: '5.000 − 2.848 = 2.152 m' });
    expect(readingIn(v, id).against).toMatchObject({
      channelId: pool.channelId,
      value: expect.closeTo(poolLevel(-5.5), 9) as number,
      comparison: { sum: '2.155 − 2.152 = +0.003 m', verdict: { kind: 'agree' } },
    });
    const [line] = await fieldBook(pool.test_.db, { station: pool.stationId, kind: 'level', limit: 1 });
    expect(line).toMatchObject({ sum: '5.000 − 2.848 = 2.152 m' });
  });
  test('off the record it says by how much; corrected, the record agrees, and says what it was', async () => {
    const off = await pool.read('ST1', { kind: 'staff', reads: 2.105 }, -3);
    const { against } = readingIn(await view(), off);
    expect(against!.comparison).toMatchObject({ difference: 0.025, verdict: { kind: 'adjust', by: -0.025 } });
    await correctSpan(pool.at(), pool.stationId, pool.channelId, {
      layerId: newId(),
      shape: 'linear',
      from: isoAt(-5.5),
      until: isoAt(-2),
      fromOffset: 0,
      untilOffset: -0.035,
      reason: 'staff of noon',
    });
    // Typed every two hours: the values before and after it.
    expect(against!.between.map((ms) => new Date(ms).toISOString())).toEqual([isoAt(-4), isoAt(-2)]);
    const after = readingIn(await view(), off).against!;
    expect(after.comparison!.verdict.kind).toBe('agree');
    expect(after.logged - after.value).toBeCloseTo(0.025, 2);
  });
  test('before the record begins nothing is compared', async () => {
    const early = await pool.read('RP1', down(2), -30);
    expect(readingIn(await view(), early).against).toBeNull();
  });
  test('taken back it counts no more, once', async () => {
    const wrong = await pool.read('ST1', { kind: 'staff', reads: 2.12 }, -1);
    const back = () => takeBackWater(pool.at(), pool.stationId, 'reading', wrong, { reason: 'weed on it' });
    await back();
    expect((await view()).readings.some((r) => r.id === wrong)).toBe(false);
    expect(await refusal(back())).toMatchObject({ code: 'taken-back-already' });
    expect(
      await refusal(takeBackWater(pool.at(), pool.stationId, 'reading', newId(), { reason: 'weed' })),
    ).toMatchObject({ code: 'not-found' });
  });
  test('what it cannot be, and what it hardly is, is told with field and remedy; looked at again it is kept', async () => {
    const send = (change: object) =>
      addLevelReading(pool.at(-4), pool.stationId, {
        ...newReading(pool.point.RP1, down(2.86), pool.surveyId, -4),
        ...change,
      });
    expect(await refusal(send({ read: down(-0.3) }))).toMatchObject({
      code: 'not-a-level',
      field: 'read.length',
      remedy: expect.stringMatching(/tape-up/) as string,
    });
    // 2.86 m are 9.383 ft.
    expect(await refusal(send({ read: down(9.383) }))).toMatchObject({
      code: 'look-again',
      remedy: expect.stringMatching(/feet/) as string,
    });
    expect(await refusal(send({ read: down(4.7) }))).toMatchObject({ code: 'look-again' });
    expect(await send({ read: down(4.7), lookedAgain: true })).toMatchObject({ level: 0.3 });
    expect(await refusal(send({ surveyId: newId() }))).toMatchObject({ code: 'no-such-survey' });
    expect(await refusal(send({ surveyId: null }))).toMatchObject({
      code: 'not-a-level',
      detail: expect.stringMatching(/no elevation on file/) as string,
    });
    expect(await refusal(send({ pointId: newId() }))).toMatchObject({ code: 'not-found' });
    expect(await refusal(send({ occurredAt: isoAt(9) }))).toMatchObject({ code: 'future-time' });
    expect(await refusal(send({ occurredAt: isoAt(-1500) }))).toMatchObject({ code: 'later-survey' });
    const twice = newReading(pool.point.RP1, down(2.86), pool.surveyId, -4);
    await addLevelReading(pool.at(-4), pool.stationId, twice);
    expect(await refusal(addLevelReading(pool.at(-4), pool.stationId, twice))).toMatchObject({
      code: 'already-there',
    });
    const sum = newReading(null, { kind: 'sum', sum: '5.000 − 2.860 = 2.140' }, null, -4);
    expect(await addLevelReading(pool.at(-4), pool.stationId, sum)).toMatchObject({ level: 2.14 });
  });
});

describe('a wire-weight gauge', () => {
  test('a bar off by 12 mm, then set: each reading with the correction of its time; one without waits', async () => {
    const before = await pool.read('WW1', { kind: 'wire', reads: 2.05 }, -10.2, false);
    await pool.read(
      'WW1',
      { kind: 'bar', reads: 5.988, changed: { reads: 6, at: pool.at(-10).now().getTime() + 60_000 } },
      -10,
    );
    const after = await pool.read('WW1', { kind: 'wire', reads: 2.199 }, -9.9, false);
    const forgotten = await pool.read('WW1', { kind: 'wire', reads: 2.25 }, -200, false);
    const v = await view();
    expect(sumIn(v, before).text).toBe('2.050 + 0.012 = 2.062 m');
    expect(sumIn(v, after).text).toBe('2.199 + 0.000 = 2.199 m');
    expect(sumIn(v, forgotten)).toMatchObject({ level: null, text: '2.250 + ? (correction) m' });
    const [proposal, ...more] = barProposals(v);
    expect(more).toEqual([]);
    expect(proposal).toMatchObject({ readingId: forgotten, correction: 0.012, how: 'as found after' });
    const assume = () =>
      reviseLevels(pool.at(), pool.stationId, {
        revisions: [{ revisionId: newId(), readingId: forgotten, adds: proposal!.correction }],
        because: 'bar',
        surveyId: null,
        reason: 'as the bar was found after',
      });
    await assume();
    const assumed = await view();
    expect(sumIn(assumed, forgotten)).toMatchObject({ level: 2.262, text: '2.250 + 0.012 = 2.262 m' });
    expect(barProposals(assumed)).toEqual([]);
    expect(await refusal(assume())).toMatchObject({ code: 'has-correction' });
    const [revision] = assumed.revisions;
    await takeBackWater(pool.at(), pool.stationId, 'revision', revision!.id, { reason: 'not so sure' });
    expect(sumIn(await view(), forgotten).level).toBeNull();
  });
});

describe('a crest-stage gauge', () => {
  test('offers crests of the record since it was recharged', async () => {
    const at = pool.at(-15).now().getTime();
    const crest = (mark: number | null, hours: number, peakAt: number | null, recharged: boolean) =>
      pool.read(
        'CS1',
        {
          kind: 'crest',
          mark,
          condition: 'sound',
          cork: 'line',
          peakAt,
          rechargedAt: recharged ? pool.at(hours).now().getTime() : null,
        },
        hours,
        mark !== null,
      );
    await crest(null, -15, null, true);
    const offered = (await view()).crests[pool.point.CS1]!;
    expect(offered[0]).toMatchObject({ level: poolLevel(-14) });
    expect(offered.every((p) => p.at >= at)).toBe(true);
    const id = await crest(0.24, -0.5, offered[0]!.at, false);
    expect(readingIn(await view(), id).against?.comparison?.verdict.kind).toBe('agree');
    expect(await refusal(crest(0.3, -0.2, at - 1, false))).toMatchObject({ field: 'read.peakAt' });
  });
});

describe('surveys', () => {
  test('a later one changes later readings only, and says what it would mean for earlier ones', async () => {
    const old = await pool.read('RP1', down(2.8), -12);
    const survey = statedSurvey({ [pool.point.RP1]: 4.98 }, -7);
    await addSurvey(pool.at(-7), pool.stationId, survey);
    const v = await view();
    expect(sumIn(v, old).text).toBe('5.000 − 2.800 = 2.200 m');
    const its = surveyProposals(v, v.elevations).find((p) => p.readingId === old)!;
    expect(its).toMatchObject({ step: -0.02, isLate: false });
    await reviseLevels(pool.at(), pool.stationId, {
      revisions: [{ revisionId: newId(), readingId: old, adds: its.step }],
      because: 'survey',
      surveyId: survey.surveyId,
      reason: 'struck by a branch',
    });
    expect(sumIn(await view(), old).text).toBe('5.000 − 2.800 + (−0.020) = 2.180 m');
    expect(
      await refusal(
        reviseLevels(pool.at(), pool.stationId, {
          revisions: [{ revisionId: newId(), readingId: old, adds: -0.02 }],
          because: 'survey',
          surveyId: survey.surveyId,
          reason: 'once more',
        }),
      ),
    ).toMatchObject({ code: 'revised-already' });
    // One survey a day; taken back, there is room again, and its readings go by what is left.
    expect(
      await refusal(addSurvey(pool.at(-6), pool.stationId, statedSurvey({ [pool.point.ST1]: 0 }, -6.9))),
    ).toMatchObject({ code: 'survey-that-day' });
    await takeBackWater(pool.at(), pool.stationId, 'survey', survey.surveyId, { reason: 'wrong staff' });
    expect((await view()).elevations.filter((e) => e.pointId === pool.point.RP1)).toHaveLength(1);
  });
  test('a sheet is reduced here, whatever was said of it; too bad a circuit wants a reason', async () => {
    const rows = (last: number) => [
      { point: pool.point.RP1, back: 1, between: null, fore: null },
      { point: pool.point.ST1, back: null, between: 5.99, fore: null },
      { point: pool.point.RP1, back: null, between: null, fore: last },
    ];
    const sheet = (last: number) => ({
      ...statedSurvey({}, -30, { sheet: { start: 5, end: null, rows: rows(last) } }),
      surveyId: newId(),
    });
    const add = (request: ReturnType<typeof sheet>) => addSurvey(pool.at(-30), pool.stationId, request);
    expect(await refusal(add(sheet(1.01)))).toMatchObject({
      code: 'misclosure',
      detail: expect.stringMatching(/−0\.0100 m/) as string,
    });
    expect(
      await refusal(add({ ...sheet(1), sheet: { start: 5, end: null, rows: rows(1).slice(0, 1) } })),
    ).toMatchObject({ code: 'bad-sheet' });
    expect(
      await refusal(
        add({ ...sheet(1), stated: [{ pointId: pool.point.ST1, elevation: 0, accuracy: 0.01 }] }),
      ),
    ).toMatchObject({ code: 'said-twice' });
    expect(await refusal(add(statedSurvey({}, -30) as ReturnType<typeof sheet>))).toMatchObject({
      code: 'no-points',
    });
    expect(await refusal(add(statedSurvey({ [newId()]: 3 }, -30) as ReturnType<typeof sheet>))).toMatchObject(
      {
        code: 'not-found',
      },
    );
    await add(sheet(1.0004));
    const found = (await view()).elevations.filter((e) => e.pointId === pool.point.ST1).at(-1)!;
    // 6 − 5.99, and all of the −0.4 mm, which one set-up made.
    expect(found.elevation).toBe(0.0104);
  });
});

describe('points and datum', () => {
  test('a station with a level has Water, its points codes of their own', async () => {
    expect(await stationBasics(pool.test_.db, pool.stationId)).toMatchObject({ water: true });
    expect(await stationBasics(pool.test_.db, pool.bench.stationId)).toMatchObject({ water: false });
    const add = (change: object) =>
      addMeasuringPoint(pool.at(), pool.stationId, { ...newPoint('ST1', 'staff'), ...change });
    expect(await refusal(add({}))).toMatchObject({ code: 'code-taken', field: 'code' });
    expect(await refusal(add({ code: 'Z', kind: 'sensor-zero' }))).toMatchObject({ code: 'whose-zero' });
    expect(await refusal(add({ code: 'Z', channelId: newId() }))).toMatchObject({ code: 'not-found' });
    const spare = newPoint('ST2', 'staff');
    await addMeasuringPoint(pool.at(), pool.stationId, spare);
    const retire = () =>
      retireMeasuringPoint(pool.at(), pool.stationId, spare.pointId, { reason: 'swept away' });
    await retire();
    expect(await refusal(retire())).toMatchObject({ code: 'retired-already' });
    // Its code is free again.
    await addMeasuringPoint(pool.at(), pool.stationId, newPoint('ST2', 'staff'));
  });
  test('what a channel counts from is added to what it logged', async () => {
    const zero = newPoint('Z1', 'sensor-zero', pool.channelId);
    await addMeasuringPoint(pool.at(), pool.stationId, zero);
    const survey = statedSurvey({ [zero.pointId]: 1.5 }, -60);
    await addSurvey(pool.at(-60), pool.stationId, survey);
    const { channels } = await view();
    expect(channels[0]).toMatchObject({ zero: 1.5, newest: { value: expect.closeTo(3.6, 9) as number } });
    await takeBackWater(pool.at(), pool.stationId, 'survey', survey.surveyId, { reason: 'only tried' });
  });
  test('the datum is named, and changed from what it is', async () => {
    const set = (basedOn: string | null, name = 'Pool zero') =>
      setDatum(pool.at(), pool.stationId, {
        datumId: newId(),
        basedOn,
        name,
        others: [{ name: 'Isles datum', zero: 12.5 }],
      });
    const { datumId } = await set(null);
    expect((await view()).datum).toMatchObject({ name: 'Pool zero', others: [{ zero: 12.5 }] });
    expect(await refusal(set(null))).toMatchObject({ code: 'changed-meanwhile' });
    expect(await refusal(set(datumId, 'Isles datum'))).toMatchObject({ code: 'own-datum' });
  });
});
