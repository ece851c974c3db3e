import type { DischargeView } from '@/contract/discharge';
import type { AddSection } from '@/contract/discharge';
import { allTogether } from '@/core/discharge/agreement';
import { curvesOf } from '@/core/discharge/stationDischarge';
import { refusal } from '@/test/bench';
import { newCurve, newGauging, newRating, newSection } from '@/test/discharge';
import { isoAt, onPool, poolLevel, type Pool } from '@/test/water';
import { query } from '@/db/database';
import { addDerived } from '../record/addDerived';
import { traces } from '../record/trace';
import { traceFile } from '../record/traceFile';
import { mendDerived } from '../record/mendDerived';
import { typeReadings } from '../record/typeReadings';
import { correctSpan } from '../verify/correct';
import { newId } from '../id';
import { addGauging, addSection, setCurve } from './enter';
import { takeBackWater } from '../water/takeBack';
import { dischargeProvenance } from './provenance';
import { setRating } from './rate';
import { dischargeView } from './view';

let pool: Pool;
onPool((made) => (pool = made));

const view = (): Promise<DischargeView> => dischargeView(pool.at(), pool.stationId);
const section = (change: Partial<AddSection> = {}) =>
  addSection(pool.at(), pool.stationId, newSection(change));
const curve = (change: Parameters<typeof newCurve>[0] = {}) =>
  setCurve(pool.at(), pool.stationId, newCurve(change));
const gauging = (change: Parameters<typeof newGauging>[0] = {}) =>
  addGauging(pool.at(), pool.stationId, newGauging(change));

describe('what a discharge rests on', () => {
  test('a section that cannot be is told by its point; one a day', async () => {
    const crossed = [...newSection().points];
    crossed[3] = { across: 4, elevation: 3 };
    expect(await refusal(section({ points: crossed }))).toMatchObject({
      code: 'bad-section',
      field: 'points.3',
      detail: expect.stringMatching(/crosses itself/) as string,
    });
    await section();
    expect(await refusal(section())).toMatchObject({ code: 'section-that-day' });
  });
  test('a curve out of order, outside the usual, or led from another is told', async () => {
    const first = await curve();
    expect(first.number).toBe(1);
    expect(await refusal(curve())).toMatchObject({ code: 'led-meanwhile' });
    const basedOn = first.curveId;
    const at = (level: number, k: number) => ({ level, k });
    expect(await refusal(curve({ basedOn, forward: [at(1, 0.8), at(1, 0.9)] }))).toMatchObject({
      code: 'out-of-order',
    });
    expect(await refusal(curve({ basedOn, forward: [at(1, 1.4)] }))).toMatchObject({
      code: 'look-again',
      field: 'forward.0.k',
    });
    expect(
      await curve({ basedOn, forward: [at(1, 1.4)], lookedAgain: true, holdsFrom: isoAt(-1) }),
    ).toMatchObject({ number: 2 });
  });
  test('a gauging: what the record says meanwhile, or what somebody typed; against the stream both', async () => {
    expect(await refusal(gauging({ meanwhile: null }))).toMatchObject({ code: 'no-record' });
    expect(await gauging()).toMatchObject({ discharge: 4.2 });
    expect(await refusal(gauging({ meanwhile: { level: 2, levelChange: 0, velocity: -0.5 } }))).toMatchObject(
      { code: 'gauging-against' },
    );
    expect(await refusal(gauging({ meanwhile: { level: -1, levelChange: 0, velocity: 0.5 } }))).toMatchObject(
      {
        detail: expect.stringMatching(/the section is dry/) as string,
      },
    );
    expect(
      await refusal(gauging({ meanwhile: { level: 3.2, levelChange: 0, velocity: 0.5 } })),
    ).toMatchObject({
      code: 'outside-section',
      field: 'meanwhile.level',
    });
    expect(await refusal(gauging({ endedAt: isoAt(-7) }))).toMatchObject({ code: 'empty-span' });
    expect(await refusal(gauging({ endedAt: isoAt(7) }))).toMatchObject({ code: 'future-time' });
    expect(
      await refusal(
        gauging({ sheet: { kind: 'rate', rate: 0.05, fed: 10, plateau: 12, background: 2, U: 0.05 } }),
      ),
    ).toMatchObject({ code: 'bad-gauging', detail: expect.stringMatching(/no stronger/) as string });
    expect(
      await refusal(gauging({ sheet: { kind: 'stated', discharge: 4, U: 5, by: 'profiler' } })),
    ).toMatchObject({ detail: expect.stringMatching(/500/) as string });
  });
  test('what was taken back does not count, and is taken back once', async () => {
    const { gaugingId } = await gauging();
    const before = (await view()).gaugings.length;
    const back = () =>
      takeBackWater(pool.at(), pool.stationId, 'gauging', gaugingId, { reason: 'wrong day' });
    await back();
    expect((await view()).gaugings).toHaveLength(before - 1);
    expect(await refusal(back())).toMatchObject({ code: 'taken-back-already' });
    expect(
      await refusal(takeBackWater(pool.at(), pool.stationId, 'curve', newId(), { reason: 'none' })),
    ).toMatchObject({ code: 'not-found' });
    expect(allTogether([{ share: 0.05, U: 0.05 }]).n).toBe(1);
  });
});

describe('the channel of the discharge', () => {
  const channelId = newId();
  const valueAt = async (hours: number): Promise<number | null> => {
    await mendDerived(pool.test_.db, pool.stationId);
    const [found] = await query<{ value: number }>(
      pool.test_.db,
      `select r.value from reading r join channel c on c.key = r.channel_key
        where c.id = :channelId and r.at = :at::timestamptz`,
      { channelId, at: isoAt(hours) },
    );
    return found?.value ?? null;
  };

  test('is k · v · A at the stamps of both, by the curve that held then', async () => {
    await typeReadings(pool.at(), pool.stationId, {
      readingsId: newId(),
      channel: { kind: 'new', quantity: 'velocity', zoneName: 'Outlet' },
      unit: 'm/s',
      readings: [-8, -6, -4, -2, 0].map((h) => ({ at: isoAt(h), value: h === -2 ? -0.5 : 0.5 })),
    });
    const { velocity } = await view();
    await addDerived(pool.at(), pool.stationId, {
      channelId,
      formula: 'surfaceVelocity',
      zoneName: 'Outlet',
      inputs: { level: pool.channelId, velocity: velocity!.id },
      parameters: {},
    });
    const q = (hours: number, k: number, v = 0.5) => k * v * 5 * poolLevel(hours);
    expect(await valueAt(-6)).toBeCloseTo(q(-6, 0.8), 9);
    expect(await valueAt(-2)).toBeCloseTo(q(-2, 0.8, -0.5), 9);
    // Curve 2 holds from an hour ago on.
    expect(await valueAt(0)).toBeCloseTo(q(0, 1.4), 9);
    // No velocity, no discharge.
    expect(await valueAt(-10)).toBeNull();
  });
  test('follows when the curve is led anew, and back when that is taken back', async () => {
    const last = (await view()).curves.at(-1)!;
    const led = await curve({
      basedOn: last.id,
      forward: [{ level: 1, k: 0.9 }],
      reverse: [{ level: 1, k: 0.7 }],
      holdsFrom: isoAt(-7),
    });
    expect(await valueAt(-6)).toBeCloseTo(0.9 * 0.5 * 5 * poolLevel(-6), 9);
    expect(await valueAt(-2)).toBeCloseTo(-0.7 * 0.5 * 5 * poolLevel(-2), 9);
    expect(await valueAt(-8)).toBeCloseTo(0.8 * 0.5 * 5 * poolLevel(-8), 9);
    // It takes the place of curve 2, too, which held from an hour ago on.
    expect(await valueAt(0)).toBeCloseTo(0.9 * 0.5 * 5 * poolLevel(0), 9);
    await takeBackWater(pool.at(), pool.stationId, 'curve', led.curveId, { reason: 'looked again' });
    expect(await valueAt(-6)).toBeCloseTo(0.8 * 0.5 * 5 * poolLevel(-6), 9);
  });
  test('follows when the section is measured anew, and when the level is corrected', async () => {
    const wide = newSection().points.map((p) => ({ ...p, across: 2 * p.across }));
    const { sectionId } = await section({ points: wide, holdsFrom: isoAt(-5) });
    expect(await valueAt(-4)).toBeCloseTo(0.8 * 0.5 * 10 * poolLevel(-4), 9);
    expect(await valueAt(-6)).toBeCloseTo(0.8 * 0.5 * 5 * poolLevel(-6), 9);
    await takeBackWater(pool.at(), pool.stationId, 'section', sectionId, {
      reason: 'of the other channel',
    });
    await correctSpan(pool.at(), pool.stationId, pool.channelId, {
      layerId: newId(),
      shape: 'step',
      from: isoAt(-6),
      until: isoAt(-6),
      fromOffset: 0.1,
      untilOffset: 0.1,
      reason: 'gauge of noon',
    });
    expect(await valueAt(-6)).toBeCloseTo(0.8 * 0.5 * 5 * (poolLevel(-6) + 0.1), 9);
  });
  test('every value has its provenance: section, curve, gaugings', async () => {
    const { series } = await traces(pool.test_.db, [{ stationId: pool.stationId, channelId }], {
      from: pool.at(-12).now().getTime(),
      until: pool.at().now().getTime(),
      pixels: 800,
    });
    expect(series[0]!.derived).toMatch(
      /^discharge of .*; section of \d{4}-\d\d-\d\d; curve 1 \(no gauging yet\); curve 2 from \d{4}-\d\d-\d\d/,
    );
    const nothing = await dischargeProvenance(pool.test_.db, pool.bench.stationId, 'surfaceVelocity', 0, 1);
    expect(nothing).toBe('nothing on file that it rests on');
  });
  test('its trace and its files carry what it is good to', async () => {
    const refs = [{ stationId: pool.stationId, channelId }];
    const window = {
      from: pool.at(-9).now().getTime(),
      until: pool.at(1).now().getTime(),
      pixels: 800,
    };
    // Section ± 3 %, k ± 5 %; tolerances a count as a / √3 of level and velocity; a box 5 m wide.
    const { level, velocity } = await view();
    const U = (h: number, k: number) => {
      const [q, a] = [k * 0.5 * 5 * h, 5 * h];
      const sensors = [(q * level!.tolerance) / h, k * a * velocity!.tolerance].map((x) => x / Math.sqrt(3));
      return 2 * Math.hypot(q * 0.015, q * 0.025, ...sensors);
    };
    const { series } = await traces(pool.test_.db, refs, window);
    const points = series[0]!.points.filter((p) => p.mean !== null);
    expect(points).toHaveLength(5);
    expect(points[0]!.uncertainty).toBeCloseTo(U(poolLevel(-8), 0.8), 6);
    expect(points.at(-1)!.uncertainty).toBeCloseTo(U(poolLevel(0), 1.4), 6);
    const { series: levels } = await traces(
      pool.test_.db,
      [{ stationId: pool.stationId, channelId: pool.channelId }],
      window,
    );
    expect(levels[0]!.points.every((p) => p.uncertainty === undefined)).toBe(true);

    const whole = async (pieces: AsyncGenerator<string>) => {
      let text = '';
      for await (const piece of pieces) text += piece;
      return text;
    };
    const file = await traceFile(pool.test_.db, refs, window);
    const [head, first] = (await whole(file.csv())).split('\r\n');
    expect(head).toBe(
      'logger_stamp_utc,corrected_stamp_utc,clock_run,logged_discharge,corrected_discharge,uncertainty_95,marks',
    );
    expect(Number(first!.split(',')[5])).toBeCloseTo(U(poolLevel(-8), 0.8), 6);
    const { readings } = JSON.parse(await whole(file.json())) as { readings: { uncertainty: number }[] };
    expect(readings.at(-1)!.uncertainty).toBeCloseTo(U(poolLevel(0), 1.4), 6);
    const both = await traceFile(
      pool.test_.db,
      [...refs, { stationId: pool.stationId, channelId: pool.channelId }],
      window,
    );
    // A level among them has none: its column stands empty.
    expect((await whole(both.csv())).split('\r\n').at(-2)).toMatch(/,2\.1,2\.1,,$/);
  });
  test('the page has the same moments, and a gauging takes them from the record', async () => {
    const v = await view();
    expect(v.dischargeId).toBe(channelId);
    expect(v.record.at).toHaveLength(5);
    expect(curvesOf(v.curves[0]!).reverse).toBeNull();
    const { gaugingId } = await gauging({ meanwhile: null, begunAt: isoAt(-8), endedAt: isoAt(-6) });
    const its = (await view()).gaugings.find((g) => g.id === gaugingId)!;
    expect(its.velocity).toBeCloseTo(0.5, 9);
    // From 2.180 to 2.160 m, which was corrected by a decimetre.
    expect(its.levelChange).toBeCloseTo(0.08, 9);
  });
});

describe('a rating by level alone', () => {
  const rating = (change: Parameters<typeof newRating>[0] = {}) =>
    setRating(pool.at(), pool.stationId, newRating(change));
  const gauge = (level: number, discharge: number, hours: number) =>
    addGauging(
      pool.at(),
      pool.stationId,
      newGauging({
        sheet: { kind: 'stated', discharge, U: 0.05, by: 'profiler' },
        meanwhile: { level, levelChange: 0, velocity: null },
        begunAt: isoAt(hours - 1),
        endedAt: isoAt(hours),
      }),
    );

  test('is refused where it ran back, and where two gaugings at one level lie apart', async () => {
    // A velocity against the stream was recorded two hours ago.
    expect(await refusal(rating())).toMatchObject({
      code: 'not-one-to-one',
      detail: expect.stringMatching(/ran back for 20 % of the last days/) as string,
    });
    const { gaugingId } = await gauge(2.005, 7, -20);
    expect(await refusal(rating())).toMatchObject({
      detail: expect.stringMatching(/two gaugings found .* further apart than both/) as string,
    });
    await takeBackWater(pool.at(), pool.stationId, 'gauging', gaugingId, { reason: 'of the other channel' });
    const against = await gauge(2.4, -1, -30);
    expect(await refusal(rating())).toMatchObject({
      detail: expect.stringMatching(/ran against the stream/) as string,
    });
    await takeBackWater(pool.at(), pool.stationId, 'gauging', against.gaugingId, { reason: 'sign' });
  });
  test('holds where only a level is known; its channel follows it', async () => {
    for (const c of (await view()).curves)
      await takeBackWater(pool.at(), pool.stationId, 'curve', c.id, { reason: 'no velocity here' });
    const first = await rating();
    expect(first.number).toBe(1);
    expect(await refusal(rating())).toMatchObject({ code: 'led-meanwhile' });
    expect(
      await refusal(rating({ basedOn: first.ratingId, segments: [{ from: 1, a: 2, b: 1.5, zero: 0.5 }] })),
    ).toMatchObject({ code: 'out-of-order' });
    const channelId = newId();
    await addDerived(pool.at(), pool.stationId, {
      channelId,
      formula: 'levelRating',
      zoneName: 'By level',
      inputs: { level: pool.channelId },
      parameters: {},
    });
    const valueAt = async (hours: number) => {
      await mendDerived(pool.test_.db, pool.stationId);
      const [found] = await query<{ value: number }>(
        pool.test_.db,
        `select r.value from reading r join channel c on c.key = r.channel_key
          where c.id = :channelId and r.at = :at::timestamptz`,
        { channelId, at: isoAt(hours) },
      );
      return found?.value;
    };
    expect(await valueAt(-10)).toBeCloseTo(2 * (poolLevel(-10) - 0.5) ** 1.5, 9);
    // Weed: what flows now would have stood 5 cm lower.
    await rating({ basedOn: first.ratingId, shift: -0.05, holdsFrom: isoAt(-9) });
    expect(await valueAt(-8)).toBeCloseTo(2 * (poolLevel(-8) - 0.55) ** 1.5, 9);
    expect(await valueAt(-10)).toBeCloseTo(2 * (poolLevel(-10) - 0.5) ** 1.5, 9);
    const { series } = await traces(pool.test_.db, [{ stationId: pool.stationId, channelId }], {
      from: pool.at(-12).now().getTime(),
      until: pool.at().now().getTime(),
      pixels: 800,
    });
    expect(series[0]!.derived).toMatch(/rating 1 \(gaugings of .*\); rating 2 from/);
  });
});
