import { clearSky, sunElevation } from '@/core/radiation/sun';
import { refusal } from '@/test/bench';
import {
  checkBy,
  endCheck,
  instrument,
  later,
  onProcedures,
  sensorOf,
  standard,
  type ProcedureBench,
} from '@/test/procedureBench';

/** Pressure and radiation, known points, a bath: against the stand. */
let bench: ProcedureBench;
onProcedures((made) => (bench = made), ['MOSS-2', 'HATCH-1']);
const abandon = (stationId: string, checkId: string) => endCheck(bench, stationId, checkId, true);
const at = 'MOSS-2/Mast 2 m';
const serial = 'P2-0019';
const quiet = (more: object = {}) => {
  sensorOf(bench, serial).truths.airPressure = { noise: 0, ...more };
  sensorOf(bench, serial).truths.radiation = { noise: 0, ...more };
};

test('a barometer at 250 m beside a report reduced to sea level: QNH by ISO 2533; two hPa off is found', async () => {
  bench.state.places[at] = { airPressure: { base: 983.6 }, radiation: { base: 0 } };
  const run = async () => {
    const check = await checkBy(bench, 'MOSS-2', serial, 'airPressure', 'sea-level-report', {
      instrumentId: await instrument(bench, 'airPressure', 0.3),
    });
    // ISO 2533: at 250 m of the standard atmosphere 983.58 hPa (from memory), which reduces to 1 013.25.
    for (let i = 0; i < 3; i++)
      await check.read({
        reference: { value: 1013.25, unit: 'hPa' },
        companions: { elevation: { value: 250, unit: 'm' } },
        confirmed: true,
      });
    const v = await check.view();
    await abandon(check.stationId, check.checkId);
    return v;
  };
  quiet();
  const good = await run();
  expect(good.readings[0]!.compared!.reference).toBeCloseTo(983.6, 1);
  expect(good.verdict).toEqual({ kind: 'agree' });
  quiet({ bias: 2 });
  const off = await run();
  expect(off.asFound).toBeCloseTo(2, 1);
  expect(off.verdict!.kind).not.toBe('agree');
});

test('a pyranometer under a cloudless sky; a dome that takes a quarter away is found', async () => {
  const run = async (share: number) => {
    const now = later(0) / 1000;
    // Where the sun stands highest just now.
    const longitude = [...Array(360).keys()]
      .map((l) => l - 179)
      .reduce((a, b) => (sunElevation(now, 20, b) > sunElevation(now, 20, a) ? b : a));
    const shines = clearSky(sunElevation(now, 20, longitude));
    bench.state.places[at] = { airPressure: { base: 1000 }, radiation: { base: shines } };
    quiet({ slope: { share, about: 0 } });
    const check = await checkBy(bench, 'MOSS-2', serial, 'radiation', 'clear-sky');
    for (let i = 0; i < 3; i++)
      await check.read({
        point: 'clear',
        companions: {
          latitude: { value: 20, unit: '°' },
          longitude: { value: longitude, unit: '°' },
        },
      });
    const v = await check.view();
    const far = await refusal(
      check.read({
        point: 'clear',
        companions: { latitude: { value: 20, unit: '°' }, longitude: { value: -longitude, unit: '°' } },
      }),
    ).catch(() => null);
    await abandon(check.stationId, check.checkId);
    return { v, far };
  };
  const sound = await run(1);
  // The map knows where the site is; whoever stands elsewhere types over it.
  expect(sound.v.ofSite).toEqual({ latitude: 57.412, longitude: -17.331 });
  expect(sound.v.verdict).toEqual({ kind: 'agree' });
  expect(sound.v.readings[0]!.compared!.facts[0]!.name).toBe('sun at');
  const veiled = await run(0.75);
  expect(veiled.v.asFound! / veiled.v.readings[0]!.compared!.reference).toBeCloseTo(-0.25, 1);
  expect(veiled.v.verdict!.kind).not.toBe('agree');
});

test('at two known points a slope is found that an offset cannot take out', async () => {
  const points = [
    await standard(bench, 'airPressure', 'Pressure balance, 950 hPa', [[null, 950]], 0.05),
    await standard(bench, 'airPressure', 'Pressure balance, 1 050 hPa', [[null, 1050]], 0.05),
  ];
  const run = async (share: number) => {
    quiet({ slope: { share, about: 1000 } });
    const check = await checkBy(bench, 'MOSS-2', serial, 'airPressure', 'known-points', {
      standardIds: points,
      repeats: 2,
    });
    for (const [point, base] of [
      ['p1', 950],
      ['p2', 1050],
    ] as const) {
      bench.state.places[at] = { airPressure: { base }, radiation: { base: 0 } };
      later(600_000);
      for (let i = 0; i < 2; i++) await check.read({ point });
    }
    const v = await check.view();
    await abandon(check.stationId, check.checkId);
    return v;
  };
  const good = await run(1);
  expect(good.verdict).toEqual({ kind: 'agree' });
  expect(good.proved).toEqual({ low: 950, high: 1050 });
  const steep = await run(1.03);
  expect(steep.points.map((p) => p.asFound.toFixed(1))).toEqual(['-1.5', '1.5']);
  // Up at one end, down at the other: their mean says nothing.
  expect(steep).toMatchObject({ offsetServes: false, proposed: expect.closeTo(0, 1) as number });
  expect(steep.coefficients!.gain).toBeCloseTo(1 / 1.03, 3);
});

test('tips side by side in a stirred bath: agreement, and a thermometer one degree off', async () => {
  bench.state.places['HATCH-1/Trough 1'] = { waterTemperature: { base: 18 } };
  const run = async (bias: number) => {
    sensorOf(bench, 'W5-0207').truths.waterTemperature = { noise: 0, bias };
    const check = await checkBy(bench, 'HATCH-1', 'W5-0207', 'waterTemperature', 'bath', {
      instrumentId: await instrument(bench, 'waterTemperature', 0.05),
    });
    for (let i = 0; i < 3; i++) await check.read({ reference: { value: 18, unit: '°C' }, confirmed: true });
    const v = await check.view();
    await abandon(check.stationId, check.checkId);
    return v;
  };
  expect((await run(0)).verdict).toEqual({ kind: 'agree' });
  const off = await run(1);
  expect(off.verdict).toMatchObject({ kind: 'adjust' });
  expect(off.proposed).toBeCloseTo(-1, 1);
});
