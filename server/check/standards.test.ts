import { adjust } from './adjust';
import { newId } from '../id';
import type { Habit } from '@/core/check/habits';
import { handheldDisplay } from '@/simulator/lab';
import { bookTexts, refusal } from '@/test/bench';
import { practise, practiceView } from '../practice/stand';
import {
  checkBy,
  endCheck,
  instrument,
  into,
  iso,
  later,
  onProcedures,
  sensorOf,
  standard,
  type ProcedureBench,
} from '@/test/procedureBench';

/** Procedures against standards and nature on loggers that are told in steps: against the stand. */
let bench: ProcedureBench;
onProcedures((made) => (bench = made), ['ARCH-3', 'HATCH-2']);
const end = (stationId: string, checkId: string, abandon = false) =>
  endCheck(bench, stationId, checkId, abandon);
type Begun = Awaited<ReturnType<typeof checkBy>>;
const give = (check: Begun, by: number, mode: 'added' | 'absolute' = 'added') =>
  adjust(bench.at(later(60_000)), check.stationId, check.checkId, {
    actionId: newId(),
    adjustmentId: newId(),
    by,
    mode,
    occurredAt: iso(),
  });

describe('humidity over saturated salts', () => {
  // Greenspan (1977), from memory: at 20 °C 33.1 and 75.5 %RH.
  const salts = async () => [
    await standard(
      bench,
      'humidity',
      'Magnesium chloride',
      [
        [15, 33.3],
        [20, 33.1],
        [25, 32.8],
      ],
      0.5,
    ),
    await standard(
      bench,
      'humidity',
      'Sodium chloride',
      [
        [15, 75.6],
        [20, 75.5],
        [25, 75.3],
      ],
      0.5,
    ),
  ];
  const run = async () => {
    const check = await checkBy(bench, 'ARCH-3', 'TC3-0041', 'humidity', 'salts', {
      standardIds: await salts(),
      repeats: 2,
    });
    for (const [medium, point] of [
      ['magnesium chloride', 'p1'],
      ['sodium chloride', 'p2'],
    ] as const) {
      into(bench, 'TC3-0041', medium);
      for (let i = 0; i < 2; i++) await check.read({ point });
    }
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    into(bench, 'TC3-0041', null);
    return v;
  };
  test('a sound one agrees at both, each salt by its own table at the temperature of its air', async () => {
    const v = await run();
    expect(v.readings.map((r) => Number(r.compared!.reference.toFixed(1)))).toEqual([33.1, 33.1, 75.5, 75.5]);
    expect(v.verdict).toEqual({ kind: 'agree' });
    expect(v.proved).toMatchObject({
      low: expect.closeTo(33.1, 0) as number,
      high: expect.closeTo(75.5, 0) as number,
    });
  });
  test('one that lost slope is off at one end only: an offset would spoil the other', async () => {
    sensorOf(bench, 'TC3-0041').truths.humidity = { noise: 0, slope: { share: 0.88, about: 33.1 } };
    const v = await run();
    expect(v.points.map((p) => Math.abs(p.asFound) <= p.limit)).toEqual([true, false]);
    expect(v.verdict).toMatchObject({ kind: 'adjust' });
    expect(v.coefficients!.gain).toBeCloseTo(1 / 0.88, 2);
    expect(v.ways).toEqual([]);
    sensorOf(bench, 'TC3-0041').truths.humidity = { noise: 0 };
  });
});

describe('carbon dioxide from the cylinder', () => {
  const run = async (pressure?: number) => {
    const check = await checkBy(bench, 'ARCH-3', 'TC3-0042', 'co2', 'gas', {
      standardIds: [
        await standard(bench, 'co2', 'Zero gas', [[null, 0]], 5),
        await standard(bench, 'co2', 'Span gas', [[null, 1000]], 20),
      ],
    });
    for (const [medium, point] of [
      ['zero gas', 'p1'],
      ['span gas', 'p2'],
    ] as const) {
      into(bench, 'TC3-0042', medium);
      for (let i = 0; i < 2; i++)
        await check.read({
          point,
          ...(pressure && { companions: { pressure: { value: pressure, unit: 'hPa' as const } } }),
        });
    }
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    into(bench, 'TC3-0042', null);
    return v;
  };
  test('a sound cell agrees at zero and span', async () => {
    sensorOf(bench, 'TC3-0042').truths.carbonDioxide = { noise: 0 };
    expect((await run()).verdict).toEqual({ kind: 'agree' });
  });
  test('outdoor air alone finds a cell that is 240 ppm off, and lets one pass that is 30 off', async () => {
    const air = await standard(bench, 'co2', 'Outdoor air', [[null, 427]], 25);
    const by = async (bias: number) => {
      sensorOf(bench, 'TC3-0042').truths.carbonDioxide = { noise: 0, bias };
      const check = await checkBy(bench, 'ARCH-3', 'TC3-0042', 'co2', 'gas', { standardIds: [air] });
      into(bench, 'TC3-0042', 'outdoor air');
      for (let i = 0; i < 2; i++) await check.read({ point: 'p1' });
      const { verdict } = await check.view();
      await end(check.stationId, check.checkId, true);
      into(bench, 'TC3-0042', null);
      return verdict!.kind;
    };
    expect([await by(240), await by(30)]).toEqual(['beyond-guard', 'agree']);
    sensorOf(bench, 'TC3-0042').truths.carbonDioxide = { noise: 0 };
  });
  test('an uncompensated cell at 900 m reads a tenth low: the fact stands beside the difference', async () => {
    // ICAO standard atmosphere: 909.7 hPa at 900 m (check value); ideal gas: 1000 · 909.7 / 1013.25 = 898.
    sensorOf(bench, 'TC3-0042').truths.carbonDioxide = { noise: 0, slope: { share: 0.898, about: 0 } };
    const v = await run(909.7);
    const span = v.readings.at(-1)!;
    expect(span.compared!.difference).toBeCloseTo(-102, 0);
    expect(span.compared!.facts[0]!.value).toBeCloseTo(span.sensorValue, 0);
    expect(v.verdict!.kind).not.toBe('agree');
    sensorOf(bench, 'TC3-0042').truths.carbonDioxide = { noise: 0 };
  });
});

test('a light meter at night: what it shows in the dark is its zero', async () => {
  const at = 'HATCH-2/Trough light';
  const { illuminance } = bench.state.places[at]!;
  bench.state.places[at] = { illuminance: { base: 0 } };
  const run = async () => {
    const check = await checkBy(bench, 'HATCH-2', 'L1B-0305', 'illuminance', 'night-zero');
    for (let i = 0; i < 3; i++) await check.read({ point: 'night' });
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    return v;
  };
  expect(await run()).toMatchObject({ verdict: { kind: 'agree' }, asFound: 0 });
  sensorOf(bench, 'L1B-0305').truths.illuminance = { noise: 0, bias: 60 };
  const lit = await run();
  expect(lit.asFound).toBeCloseTo(60, 0);
  expect(lit.verdict!.kind).not.toBe('agree');
  sensorOf(bench, 'L1B-0305').truths.illuminance = { noise: 0 };
  bench.state.places[at] = { illuminance: illuminance! };
});

describe('a controller that takes an offset in steps', () => {
  const air = 'HATCH-2/Hatchery air';
  const logger = () => bench.state.loggers.find((l) => l.station === 'HATCH-2')!;
  const offsetOf = (number: number) =>
    logger()
      .channels.find((c) => c.number === number)!
      .offsets.at(-1)?.offset ?? 0;
  const found = async (quantity: 'airTemperature' | 'humidity', off: number, held = 0) => {
    bench.state.places[air] = { airTemperature: { base: 14 }, humidity: { base: 70 } };
    const truths = sensorOf(bench, 'H2-0412').truths;
    truths.airTemperature = { noise: 0 };
    truths.humidity = { noise: 0 };
    truths[quantity] = { noise: 0, bias: off - held };
    const isHumid = quantity === 'humidity';
    const check = await checkBy(bench, 'HATCH-2', 'H2-0412', quantity, isHumid ? 'one-air' : 'side-by-side', {
      instrumentId: await (isHumid
        ? instrument(bench, 'humidity', 1, { airTemperature: 0.1 })
        : instrument(bench, quantity, 0.1)),
    });
    const { channelNumber } = await check.view();
    for (const c of logger().channels)
      c.offsets = c.number === channelNumber ? [{ from: 0, offset: held }] : [];
    const read = () =>
      check.read({
        reference: isHumid ? { value: 70, unit: '%RH' } : { value: 14, unit: '°C' },
        ...(isHumid && { companions: { referenceTemperature: { value: 14, unit: '°C' } } }),
      });
    for (let i = 0; i < 3; i++) await read();
    return { check, read, channelNumber };
  };
  test('+1.3 °C in steps of half a degree: −1.5 is proposed, what stays is said, and not chased', async () => {
    const { check, read, channelNumber } = await found('airTemperature', 1.3);
    const v = await check.view();
    expect(v.plan.offsets).toEqual({ step: 0.5, most: 5 });
    expect(v.proposed).toBe(-1.5);
    expect(v.remainder).toBeCloseTo(-0.2, 1);
    expect(await give(check, v.proposed!)).toMatchObject({ state: 'done' });
    expect(offsetOf(channelNumber)).toBe(-1.5);
    for (let i = 0; i < 3; i++) await read();
    const after = await check.view();
    expect(after.asLeft).toBeCloseTo(-0.2, 1);
    expect(after.convergence).toEqual({ kind: 'converged' });
    expect(after.proposed).toBeNull();
    expect((await end(check.stationId, check.checkId, false)).outcome).toBe('adjusted');
    expect(await bookTexts(bench.test_.db, check.stationId)).toContainEqual(
      expect.stringContaining('−1.5') as string,
    );
  });
  test('beyond what it takes: refused before anything is sent, with the sum', async () => {
    const { check, channelNumber } = await found('humidity', 4.8, -7);
    const v = await check.view();
    expect(v.proposed).toBe(-5);
    expect(await refusal(give(check, v.proposed!))).toMatchObject({
      code: 'beyond-device',
      field: 'by',
      value: -5,
      detail: 'The device takes offsets up to ±10 %RH: −5.0 on top of the −7.0 it holds would be −12.0 %RH.',
    });
    expect(offsetOf(channelNumber)).toBe(-7);
    await end(check.stationId, check.checkId, true);
  });
});

describe('what the person does', () => {
  const read = async (habit: Habit | 'as it should be') => {
    process.env.PRACTICE_STAND = `127.0.0.1:${bench.state.loggers[0]!.ownPort - 1}`;
    await practise(bench.at(later(0)), { serial: 'HC-118', fault: habit });
    const { handhelds } = await practiceView(bench.at(later(0)));
    expect(handhelds.find((h) => h.serial === 'HC-118')!.habit).toBe(
      habit === 'as it should be' ? null : habit,
    );
    const shown = () => handheldDisplay(bench.state, 'HC-118', 'ARCH-3/Ground floor', later(60_000))!.co2!;
    const check = await checkBy(bench, 'ARCH-3', 'TC3-0041', 'co2', 'side-by-side', {
      instrumentId: await instrument(bench, 'co2', 20),
    });
    for (let i = 0; i < 3; i++)
      await check.read({ reference: { value: shown(), unit: 'ppm' }, confirmed: true });
    const v = await check.view();
    await end(check.stationId, check.checkId, true);
    return v;
  };
  afterAll(() => delete process.env.PRACTICE_STAND);
  test('breath and another zone make a good sensor look wrong; as it should be, it agrees', async () => {
    bench.state.places['ARCH-3/Ground floor'] = { co2: { base: 520 } };
    bench.state.places['ARCH-3/Second floor'] = { co2: { base: 800 } };
    sensorOf(bench, 'TC3-0041').truths.co2 = { noise: 0 };
    expect((await read('as it should be')).verdict).toEqual({ kind: 'agree' });
    const breathed = await read('breathed');
    expect(breathed.asFound).toBeCloseTo(-260, -2);
    expect(breathed.verdict!.kind).not.toBe('agree');
    expect((await read('wrong-zone')).asFound).toBeCloseTo(-280, -2);
    await practise(bench.at(later(0)), { serial: 'HC-118', fault: 'as it should be' });
    expect(
      await refusal(practise(bench.at(later(0)), { serial: 'HC-999', fault: 'breathed' })),
    ).toMatchObject({ code: 'unknown-handheld', field: 'serial' });
  });
});
