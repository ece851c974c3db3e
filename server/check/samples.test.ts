import { rows } from '@/db/database';
import { bookTexts, day, refusal } from '@/test/bench';
import {
  checkBy,
  endCheck,
  instrument,
  into,
  iso,
  later,
  onProcedures,
  sensorOf,
  type ProcedureBench,
} from '@/test/procedureBench';
import type { OpenCheck } from '@/contract/requests';
import { newId } from '../id';
import { channelVerify } from '../verify/view';
import { adjust } from './adjust';
import { checkHistory } from './history';
import { excludeObservation } from './later';
import { checkStart } from './open';

/** Samples of bulk goods against a bench tester: held averages, tests that come later, guard and material. */
let bench: ProcedureBench;
onProcedures((made) => (bench = made));
const end = (stationId: string, checkId: string, abandon = false) =>
  endCheck(bench, stationId, checkId, abandon);

describe('bulk goods against a bench tester', () => {
  const steady = () => {
    bench.state.places['KELP-1/Auger outlet'] = { bulkMoisture: { base: 17 } };
    sensorOf(bench, 'K2-0059').truths.bulkMoisture = { noise: 0.05 };
  };
  const begin = async (more: Partial<OpenCheck> = {}) =>
    checkBy(bench, 'KELP-1', 'K2-0059', 'bulkMoisture', 'sampled', {
      instrumentId: await instrument(bench, 'bulkMoisture', 0.4),
      ...more,
    });
  /** Two samples of goods at 17 %, three tests each. */
  const sampled = async (check: Awaited<ReturnType<typeof begin>>, times = 2) => {
    for (let i = 0; i < times; i++) {
      const { readingId } = await check.read();
      for (const test of [16.9, 17.1, 17.0])
        await check.add(readingId, 'reference', { value: test, unit: '%' });
    }
  };
  test('the average is held, the check waits, three tests come later, by another person: then it decides', async () => {
    steady();
    const check = await begin();
    const [first, second] = [await check.read(), await check.read()];
    const pending = await check.view();
    expect(pending.verdict).toBeNull();
    expect(pending.readings[0]).toMatchObject({
      compared: null,
      settling: { state: 'averaged', window: 30, n: 10 },
    });
    expect(pending.readings[0]!.sensorValue).toBeCloseTo(17, 1);
    for (const { readingId } of [first, second])
      for (const test of [16.9, 17.2, 17.0])
        await check.add(readingId, 'reference', { value: test, unit: '%' });
    const v = await check.view();
    expect(v.readings[0]!.compared).toMatchObject({ how: 'mean of 3 tests' });
    expect(v.readings[0]!.compared!.reference).toBeCloseTo(17.033, 3);
    expect(v.verdict).toEqual({ kind: 'agree' });
    expect(v.budget!.sum.parts.map((p) => p.name)).toContain('scatter of the tests');
    expect(await bookTexts(bench.test_.db, check.stationId)).toContainEqual(
      expect.stringMatching(/^Test 3 of sample 2 of .*: 17\.0 %$/),
    );
    expect((await end(check.stationId, check.checkId)).outcome).toBe('agree');
  });
  test('a test that lies apart is said, taken back with its reason, and the same typed twice is asked about', async () => {
    steady();
    const check = await begin();
    const { readingId } = await check.read();
    const add = (value: number, confirmed = false) =>
      check.add(readingId, 'reference', { value, unit: '%' }, confirmed);
    for (const value of [17.0, 17.1, 17.2]) await add(value);
    const { observationId } = await add(21);
    expect((await check.view()).health).toMatchObject([{ name: 'test 4 of sample 1', isGood: false }]);
    await excludeObservation(
      bench.at(later(1000)),
      check.stationId,
      check.checkId,
      readingId,
      observationId,
      {
        reason: 'spilt',
      },
    );
    expect((await check.view()).health).toEqual([]);
    await add(17.3);
    expect(await refusal(add(17.3))).toMatchObject({ code: 'entered-twice', field: 'entered' });
    await add(17.3, true);
    expect((await check.view()).readings[0]!.references).toHaveLength(6);
    // 172 for 17.2: more than the tester can show.
    expect(await refusal(add(172))).toMatchObject({ code: 'outside-instrument-range', field: 'entered' });
    expect(await refusal(check.add(readingId, 'reference', { value: 17, unit: '°C' }))).toMatchObject({
      code: 'wrong-unit',
    });
    await check.add(readingId, 'sampleTemperature', { value: 31, unit: '°C' });
    await check.add(readingId, 'testerTemperature', { value: 12, unit: '°C' });
    expect((await check.view()).health).toMatchObject([{ name: 'sample 1 and tester', isGood: false }]);
    expect(await refusal(check.add(readingId, 'sampleTemperature', { value: 30, unit: '°C' }))).toMatchObject(
      { code: 'there-already' },
    );
    expect(await refusal(check.add(readingId, 'colour', { value: 30, unit: '°C' }))).toMatchObject({
      code: 'no-such-companion',
      field: 'role',
    });
    await end(check.stationId, check.checkId, true);
    expect(await refusal(add(17))).toMatchObject({ code: 'check-closed' });
  });
  test('beyond the guard nothing is adjusted without an honest reason; with one it is, and stands in the book', async () => {
    steady();
    sensorOf(bench, 'K2-0059').truths.bulkMoisture = { noise: 0.05, bias: 3.2 };
    const check = await begin();
    for (const { readingId } of [await check.read(), await check.read()])
      for (const test of [16.9, 17.1, 17.0])
        await check.add(readingId, 'reference', { value: test, unit: '%' });
    const v = await check.view();
    expect(v.verdict).toMatchObject({ kind: 'beyond-guard' });
    expect(v.proposed).toBeNull();
    expect(v.beyond).toBeCloseTo(-3.2, 0);
    const give = (guardReason?: string) =>
      adjust(bench.at(later(60_000)), check.stationId, check.checkId, {
        actionId: newId(),
        adjustmentId: newId(),
        by: v.beyond!,
        mode: 'constant',
        byHand: { entered: 12, before: 15.2, after: 12 },
        ...(guardReason && { guardReason }),
        occurredAt: iso(),
      });
    expect(await refusal(give())).toMatchObject({
      code: 'guard-reason-missing',
      field: 'guardReason',
      remedy: expect.stringContaining('another product') as string,
    });
    expect((await check.view()).adjustments).toEqual([]);
    expect(await give('another product: barley after oats')).toMatchObject({ state: 'done' });
    expect((await check.view()).adjustments).toMatchObject([
      { guardReason: 'another product: barley after oats' },
    ]);
    expect(await bookTexts(bench.test_.db, check.stationId)).toContainEqual(
      expect.stringContaining('; beyond the guard: another product: barley after oats') as string,
    );
    steady();
    const { readingId } = await check.read();
    for (const test of [16.9, 17.1, 17.0])
      await check.add(readingId, 'reference', { value: test, unit: '%' });
    expect((await end(check.stationId, check.checkId)).outcome).toBe('adjusted');
  });
  test('an adjustment belongs to its material: the next one begins a history of its own', async () => {
    steady();
    expect(await refusal(begin({ material: '' }))).toMatchObject({
      code: 'material-missing',
      field: 'material',
    });
    const oats = await begin({ material: 'oats' });
    await sampled(oats);
    await end(oats.stationId, oats.checkId);
    const start = await checkStart(bench.test_.db, oats.stationId, new Date(later()));
    expect(start.channels.find((c) => c.id === oats.channelId)!.last).toMatchObject({ material: 'oats' });
    const history = await checkHistory(bench.test_.db, oats.stationId, oats.channelId);
    expect(new Set(history.checks.map((c) => c.material))).toEqual(new Set(['barley', 'oats']));
    // One check on oats is no history yet, however many there were on barley.
    expect(history.control).toBeNull();
    const { proved } = await channelVerify(bench.test_.db, oats.stationId, oats.channelId);
    expect(proved).toMatchObject({ material: 'oats', isAdjusted: false, checkId: oats.checkId });
    expect(proved!.low).toBeCloseTo(17, 0);
  });
  test('while a device works on itself nothing verifies it, and what it reads is marked as off-line', async () => {
    steady();
    sensorOf(bench, 'K2-0059').truths.bulkMoisture = { noise: 0.05, bias: 1.4 };
    const check = await begin({ material: 'oats' });
    await sampled(check);
    const { proposed } = await check.view();
    const at = iso(later(60_000));
    await adjust(bench.at(later(0)), check.stationId, check.checkId, {
      actionId: newId(),
      adjustmentId: newId(),
      by: proposed!,
      mode: 'constant',
      byHand: { entered: 12, before: 13.4, after: 12, runsFor: 600 },
      occurredAt: at,
    });
    const until = new Date(Date.parse(at) + 600_000).toISOString();
    expect((await check.view()).adjustments[0]).toMatchObject({ runsUntil: until });
    expect(await refusal(check.read())).toMatchObject({ code: 'calibrates-itself' });
    const windows = await rows(bench.test_.db.layer, {
      where: { stationId: check.stationId, channelId: check.channelId, kind: 'off-line' },
    });
    expect(windows.map((w) => [w.fromAt.toISOString(), w.untilAt?.toISOString(), w.reason])).toContainEqual([
      at,
      until,
      'its own calibration run',
    ]);
    later(600_000);
    steady();
    await sampled(check, 1);
    expect((await end(check.stationId, check.checkId)).outcome).toBe('adjusted');
  });
  test('a reason does not carry beyond the guard where none is honest: a wrong thermometer is wrong', async () => {
    into(bench, 'W5-0207', 'melting ice');
    sensorOf(bench, 'W5-0207').truths.waterTemperature = { noise: 0, bias: 4 };
    const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'waterTemperature', 'ice-point');
    for (let i = 0; i < 3; i++) await check.read({ point: 'ice' });
    expect(await check.view()).toMatchObject({ verdict: { kind: 'beyond-guard' }, beyond: null });
    expect(
      await refusal(
        adjust(bench.at(later(60_000)), check.stationId, check.checkId, {
          actionId: newId(),
          adjustmentId: newId(),
          by: -4,
          mode: 'added',
          guardReason: 'start-up of the plant',
          occurredAt: iso(),
        }),
      ),
    ).toMatchObject({ code: 'nothing-to-adjust' });
    await end(check.stationId, check.checkId, true);
    sensorOf(bench, 'W5-0207').truths.waterTemperature = { noise: 0 };
    into(bench, 'W5-0207', null);
  });
  test('a window that nobody watched is no average; typed, the system’s own is taken', async () => {
    steady();
    const check = await begin();
    expect(await refusal(check.read({ watched: [] }))).toMatchObject({ code: 'window-not-seen' });
    await check.read({ typed: { sensor: { value: 17.1, unit: '%' }, stoodStill: true } });
    expect((await check.view()).readings).toMatchObject([{ sensorValue: 17.1, settling: { state: 'said' } }]);
    await end(check.stationId, check.checkId, true);
  });
  test('by oven drying, days later: 125 g dried to 100 g are 20 % wet basis', async () => {
    steady();
    const check = await checkBy(bench, 'KELP-1', 'K2-0059', 'bulkMoisture', 'oven-drying');
    const { readingId } = await check.read({ point: 'sample' });
    await check.add(readingId, 'wet', { value: 125, unit: 'g' });
    await check.add(readingId, 'tare', { value: 0, unit: 'g' });
    expect((await check.view()).readings[0]!.compared).toBeNull();
    later(3 * day);
    await check.add(readingId, 'dry', { value: 0.1, unit: 'kg' });
    // 25 % dry basis = 20 % wet basis (check value).
    expect((await check.view()).readings[0]!.compared).toMatchObject({
      reference: 20,
      difference: expect.closeTo(-3, 0) as number,
    });
    await end(check.stationId, check.checkId, true);
  });
});
