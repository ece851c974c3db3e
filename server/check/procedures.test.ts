import { adjust } from './adjust';
import { checkHistory } from './history';
import { retireStandard } from '../kit/standards';
import { newId } from '../id';
import { practise, practiceView } from '../practice/stand';
import { present, refusal, day } from '@/test/bench';
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

/** Each procedure against the stand: its sums beside published values, and verdicts that follow the truth. */
let bench: ProcedureBench;
onProcedures((made) => (bench = made));
const end = (stationId: string, checkId: string, abandon = false) =>
  endCheck(bench, stationId, checkId, abandon);

describe('pH in buffers', () => {
  // NIST primary buffers with their temperature, from memory.
  const neutral = () =>
    standard(
      bench,
      'ph',
      'Phosphate',
      [
        [15, 6.9],
        [20, 6.881],
        [25, 6.865],
      ],
      0.02,
    );
  const acid = () =>
    standard(
      bench,
      'ph',
      'Phthalate',
      [
        [15, 3.998],
        [20, 4.0],
        [25, 4.005],
      ],
      0.02,
    );
  const inBuffers = async () =>
    checkBy(bench, 'HATCH-1', 'W5-0207', 'ph', 'ph-buffers', {
      standardIds: [await neutral(), await acid()],
    });
  const sevenFourSeven = async (
    check: Awaited<ReturnType<typeof inBuffers>>,
    mv: [number, number] | null = null,
  ) => {
    const companions = (i: 0 | 1) =>
      mv ? { companions: { millivolts: { value: mv[i], unit: 'mV' as const } } } : {};
    for (const [medium, point, i] of [
      ['pH 6.86', 'p1', 0],
      ['pH 4.01', 'p2', 1],
      ['pH 6.86', 'p1', 0],
    ] as const) {
      into(bench, 'W5-0207', medium);
      await check.read({ point, ...companions(i) });
    }
  };
  const restore = () => {
    sensorOf(bench, 'W5-0207').truths.ph = { noise: 0 };
    into(bench, 'W5-0207', null);
  };

  test('a sound electrode: both points agree, each by its buffer’s own table at its own temperature', async () => {
    const check = await inBuffers();
    await sevenFourSeven(check, [-3, 166]);
    const v = await check.view();
    expect(v.verdict).toEqual({ kind: 'agree' });
    expect(v.points.map((p) => p.key)).toEqual(['p1', 'p2']);
    expect(v.readings.map((r) => Number(r.compared!.reference.toFixed(3)))).toEqual([6.881, 4, 6.881]);
    expect(v.readings[0]!.companions).toMatchObject([
      { key: 'temperature', value: 20 },
      { key: 'millivolts', value: -3 },
    ]);
    // 169 mV over 2.881 pH at 20 °C, where Nernst’s slope is 58.17 mV (check value): 100.8 %.
    const [slope] = v.health;
    expect(slope).toMatchObject({ name: 'slope of the electrode', isGood: true });
    expect(slope!.value).toBeCloseTo((100 * (169 / 2.881)) / 58.17, 1);
    expect((await end(check.stationId, check.checkId)).outcome).toBe('agree');
    restore();
  });

  test('one that lost a tenth of its slope: gain and offset are proposed, by hand at the device, verified at both', async () => {
    sensorOf(bench, 'W5-0207').truths.ph = { noise: 0, slope: { share: 0.9, about: 7.1 } };
    const check = await inBuffers();
    await sevenFourSeven(check, [0, 140]);
    const v = await check.view();
    expect(v.verdict).toMatchObject({ kind: 'adjust' });
    expect(v.coefficients!.gain).toBeCloseTo(1 / 0.9, 3);
    // corrected = gain · reading + offset brings each point to its buffer.
    for (const r of v.readings)
      expect(v.coefficients!.gain * r.sensorValue + v.coefficients!.offset).toBeCloseTo(
        r.compared!.reference,
        2,
      );
    expect(v.health.map((h) => h.isGood)).toEqual([false, true]);
    expect(v.ways).toEqual(['points', 'constant']);
    await adjust(bench.at(later(60_000)), check.stationId, check.checkId, {
      actionId: newId(),
      adjustmentId: newId(),
      by: v.proposed!,
      mode: 'points',
      byHand: { entered: 4, before: null, after: null },
      occurredAt: iso(),
    });
    sensorOf(bench, 'W5-0207').truths.ph = { noise: 0 };
    into(bench, 'W5-0207', 'pH 6.86');
    await check.read({ point: 'p1' });
    const half = await check.view();
    // One point proves one point: nothing converged before the other was read.
    expect(half.convergence).toBeNull();
    expect(half.missing).toEqual([expect.stringMatching(/^Phthalate/) as string]);
    expect(await refusal(end(check.stationId, check.checkId))).toMatchObject({ code: 'not-verified' });
    into(bench, 'W5-0207', 'pH 4.01');
    await check.read({ point: 'p2' });
    const whole = await check.view();
    expect(whole.convergence).toEqual({ kind: 'converged' });
    expect(whole.proved!.low).toBeCloseTo(4, 1);
    expect(whole.proved!.high).toBeCloseTo(6.88, 1);
    expect((await end(check.stationId, check.checkId)).outcome).toBe('adjusted');
    restore();
  });

  test('what cannot be is refused with its field and remedy', async () => {
    const [a, b] = [await neutral(), await neutral()];
    const begin = (standardIds: string[], more = {}) =>
      checkBy(bench, 'HATCH-1', 'W5-0207', 'ph', 'ph-buffers', { standardIds, ...more });
    expect(await refusal(begin([]))).toMatchObject({ code: 'standards-missing', field: 'standardIds' });
    expect(await refusal(begin([a, b]))).toMatchObject({ code: 'points-are-one', field: 'standardIds' });
    const old = await standard(bench, 'ph', 'Borax', [[null, 9.18]], 0.02, {
      expiresOn: iso(present - 30 * day),
    });
    expect(await refusal(begin([a, old]))).toMatchObject({
      code: 'standard-out-of-date',
      field: 'outOfDateReason',
      detail: expect.stringMatching(/Borax .* was good until/) as string,
    });
    const cloudy = await standard(bench, 'turbidity', 'Formazine', [[null, 20]], 1);
    expect(await refusal(begin([cloudy]))).toMatchObject({ code: 'standard-of-another' });
    expect(await refusal(checkBy(bench, 'HATCH-1', 'W5-0207', 'ph', 'saturated-air'))).toMatchObject({
      code: 'procedure-unfit',
      remedy: expect.stringMatching(/In buffers/) as string,
    });
    await retireStandard(bench.at(), b, { reason: 'spilt' });
    expect(await refusal(begin([b]))).toMatchObject({ status: 404 });
    expect(await refusal(retireStandard(bench.at(), b, { reason: 'spilt' }))).toMatchObject({
      code: 'retired-already',
    });
    const check = await begin([a, old], { outOfDateReason: 'the only one on the island' });
    into(bench, 'W5-0207', 'pH 6.86');
    expect(await refusal(check.read({ point: 'p9' }))).toMatchObject({
      code: 'point-missing',
      field: 'point',
    });
    expect(await refusal(check.read())).toMatchObject({ code: 'point-missing' });
    expect(await refusal(check.read({ point: 'p1', reference: { value: 7, unit: 'pH' } }))).toMatchObject({
      code: 'no-reference-here',
      field: 'reference',
    });
    // 40 °C is outside the table of its label.
    expect(
      await refusal(check.read({ point: 'p1', companions: { temperature: { value: 40, unit: '°C' } } })),
    ).toMatchObject({ code: 'not-comparable', detail: expect.stringMatching(/outside its table/) as string });
    expect((await check.view()).readings).toHaveLength(0);
    await end(check.stationId, check.checkId, true);
    restore();
  });
});

test('the checks of an electrode, one after the other: as found, as left, and how it wears', async () => {
  const { stationId, channelId } = await checkBy(bench, 'HATCH-1', 'W5-0207', 'ph', 'side-by-side', {
    instrumentId: await instrument(bench, 'ph', 0.03),
  });
  const history = await checkHistory(bench.test_.db, stationId, channelId);
  expect(history.checks.map((c) => c.outcome)).toEqual(['agree', 'adjusted']);
  expect(history.checks[1]!.asLeft).not.toBeNull();
  expect(history.checks.map((c) => c.health.map((h) => h.isGood))).toEqual([
    [true, true],
    [false, true],
  ]);
  // One check since nothing, after an adjustment: no line through it.
  expect(history.outlook).toBeNull();
  expect(history.dueAt).not.toBeNull();
});

describe('oxygen in saturated air', () => {
  const companions = (hPa: number) => ({ companions: { pressure: { value: hPa, unit: 'hPa' as const } } });
  test('what water holds at the pressure of the place: 8.63 mg/L at 0.95 atm, not 9.09', async () => {
    into(bench, 'W5-0207', 'saturated air');
    const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'dissolvedOxygen', 'saturated-air');
    expect(await refusal(check.read())).toMatchObject({
      code: 'companion-missing',
      field: 'companions.pressure',
    });
    expect(await refusal(check.read(companions(101.3)))).toMatchObject({ field: 'companions.pressure' });
    await check.read(companions(962.6));
    const [r] = (await check.view()).readings;
    // Standard Methods 4500-O: 20 °C at 0.95 atm.
    expect(r!.compared!.reference).toBeCloseTo(8.63, 1);
    expect(r!.compared!.facts.find((f) => f.name.startsWith('by the other convention'))!.value).toBeCloseTo(
      95,
      0,
    );
    await end(check.stationId, check.checkId, true);
    const good = await checkBy(bench, 'HATCH-1', 'W5-0207', 'dissolvedOxygen', 'saturated-air');
    for (let i = 0; i < 3; i++) await good.read(companions(1000));
    expect((await good.view()).verdict).toEqual({ kind: 'agree' });
    // It hangs there for ten days, and nobody put another cap in.
    expect((await good.view()).health).toMatchObject([
      { name: 'oxygen cap in use', value: 10, unit: 'd', isGood: true },
    ]);
    await end(good.stationId, good.checkId);
  });
  test('reduced to sea level by mistake, at 300 m: said to be off by so much', async () => {
    sensorOf(bench, 'W5-0207').truths.dissolvedOxygen = { noise: 0, bias: 0.9 };
    const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'dissolvedOxygen', 'saturated-air');
    for (let i = 0; i < 3; i++) await check.read(companions(1000));
    expect((await check.view()).verdict).toMatchObject({ kind: 'adjust' });
    expect((await check.view()).ways).toContain('accept');
    await end(check.stationId, check.checkId, true);
    sensorOf(bench, 'W5-0207').truths.dissolvedOxygen = { noise: 0 };
    into(bench, 'W5-0207', null);
  });
});

test('turbidity: clear water and a standard; a fouled window shows a slope, and where it was proved', async () => {
  const ids = [
    await standard(bench, 'turbidity', 'Distilled water', [[null, 0.05]], 0.05),
    await standard(bench, 'turbidity', 'Formazine 20', [[null, 20]], 0.5),
  ];
  const run = async () => {
    const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'turbidity', 'turbidity-standards', {
      standardIds: ids,
    });
    for (const [medium, point] of [
      ['distilled water', 'p1'],
      ['turbidity 20', 'p2'],
    ] as const) {
      into(bench, 'W5-0207', medium);
      await check.read({ point });
      await check.read({ point });
    }
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    return v;
  };
  expect((await run()).verdict).toEqual({ kind: 'agree' });
  sensorOf(bench, 'W5-0207').truths.turbidity = { noise: 0, slope: { share: 0.8, about: 0 } };
  const fouled = await run();
  expect(fouled.verdict).toMatchObject({ kind: 'adjust' });
  expect(fouled.coefficients!.gain).toBeCloseTo(1.25, 1);
  expect(fouled.points.map((p) => Math.abs(p.asFound) <= p.limit)).toEqual([true, false]);
  sensorOf(bench, 'W5-0207').truths.turbidity = { noise: 0 };
  into(bench, 'W5-0207', null);
});

test('melting ice: 0 °C, whatever the thermometer thinks', async () => {
  into(bench, 'W5-0207', 'melting ice');
  sensorOf(bench, 'W5-0207').truths.waterTemperature = { noise: 0, bias: 0.6 };
  const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'waterTemperature', 'ice-point');
  for (let i = 0; i < 3; i++) await check.read({ point: 'ice' });
  const v = await check.view();
  expect(v.asFound).toBeCloseTo(0.6, 1);
  expect(v.verdict).toMatchObject({ kind: 'adjust' });
  await end(check.stationId, check.checkId, true);
  sensorOf(bench, 'W5-0207').truths.waterTemperature = { noise: 0 };
  into(bench, 'W5-0207', null);
});

test('wind: the mean of a window beside the handheld’s own; a cup that drags is found', async () => {
  const at = Object.keys(bench.state.places).find(
    (p) => p.startsWith('MOSS-2/') && bench.state.places[p]!.windSpeed,
  )!;
  bench.state.places[at] = { ...bench.state.places[at], windSpeed: { base: 6 } };
  const run = async (share: number) => {
    sensorOf(bench, 'M4-0078').truths.windSpeed = { noise: 0.2, slope: { share, about: 0 } };
    const check = await checkBy(bench, 'MOSS-2', 'M4-0078', 'windSpeed', 'paired-window', {
      instrumentId: await instrument(bench, 'windSpeed', 0.2),
      repeats: 3,
    });
    for (let i = 0; i < 3; i++) await check.read({ reference: { value: 6, unit: 'm/s' } });
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    return v;
  };
  const sound = await run(1);
  expect(sound.verdict).toEqual({ kind: 'agree' });
  expect(sound.readings[0]!.settling).toMatchObject({ state: 'averaged', window: 120 });
  expect((await run(0.75)).asFound).toBeCloseTo(-1.5, 0);
});

test('rain: 500 mL over 200 cm² are 25 mm, and a forgotten ring is seen by the measured orifice', async () => {
  const pour = async (counted: number, diameter: number) => {
    const check = await checkBy(bench, 'MOSS-2', 'M4-0078', 'rain', 'rain-pour', { repeats: 2 });
    for (let i = 0; i < 2; i++)
      await check.read({
        point: 'pour',
        typed: { sensor: { value: counted, unit: 'mm' }, stoodStill: true },
        companions: {
          volume: { value: 500, unit: 'mL' },
          diameter: { value: diameter, unit: 'mm' },
        },
      });
    const v = await check.view();
    await end(check.stationId, check.checkId, v.verdict!.kind !== 'agree');
    return v;
  };
  // WMO practice: 200 cm² · 0.2 mm is 4 mL a tip, 125 tips (check value); 159.58 mm across.
  const good = await pour(25, 159.58);
  expect(good.readings[0]!.compared!.reference).toBeCloseTo(25, 2);
  expect(good.verdict).toEqual({ kind: 'agree' });
  // The gauge counts as if it had 200 cm², but its ring was left off: 400 cm² stand over the same bucket.
  const ringless = await pour(25, 225.68);
  expect(ringless.readings[0]!.compared!.reference).toBeCloseTo(12.5, 1);
  expect(ringless.verdict!.kind).not.toBe('agree');
});

test('a vane along a magnetic bearing: declination is added, and the circle is closed', async () => {
  bench.state.places['MOSS-2/Mast 6 m'] = {
    ...bench.state.places['MOSS-2/Mast 6 m'],
    windDirection: { base: 2 },
  };
  const check = await checkBy(bench, 'MOSS-2', 'M4-0078', 'windDirection', 'bearing', {
    instrumentId: await instrument(bench, 'windDirection', 1),
  });
  await check.read({
    reference: { value: 355, unit: '°' },
    companions: { declination: { value: 3, unit: '°' } },
    confirmed: true,
  });
  const [r] = (await check.view()).readings;
  expect(r!.compared).toMatchObject({ reference: 358, how: 'magnetic + declination' });
  expect(r!.compared!.difference).toBeCloseTo(4, 0);
  await end(check.stationId, check.checkId, true);
});

test('on the practice stand a sensor is put into a medium that it measures, and back', async () => {
  process.env.PRACTICE_STAND = `127.0.0.1:${bench.state.loggers[0]!.ownPort - 1}`;
  try {
    const shown = async () =>
      (await practiceView(bench.at(later(0)))).lines
        .flatMap((l) => l.sensors)
        .find((s) => s.serial === 'W5-0207')!;
    expect((await shown()).media).toEqual(
      expect.arrayContaining(['pH 6.86', 'saturated air', 'melting ice']),
    );
    expect((await shown()).media).not.toContain('span gas');
    await practise(bench.at(later(0)), { serial: 'W5-0207', fault: 'into', medium: 'pH 9.18' });
    expect((await shown()).medium).toBe('pH 9.18');
    expect(
      await refusal(practise(bench.at(later(0)), { serial: 'W5-0207', fault: 'into', medium: 'span gas' })),
    ).toMatchObject({ code: 'unknown-medium', field: 'medium' });
    await practise(bench.at(later(0)), { serial: 'W5-0207', fault: 'into' });
    expect((await shown()).medium).toBeNull();
  } finally {
    delete process.env.PRACTICE_STAND;
  }
});
