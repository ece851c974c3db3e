import { sensorValue } from '@/simulator/sensorValue';
import { refusal } from '@/test/bench';
import {
  checkBy,
  endCheck,
  instrument,
  into,
  later,
  onProcedures,
  sensorOf,
  standard,
  type ProcedureBench,
} from '@/test/procedureBench';

/** A tide that goes on while it is read, and conductivity in its standard: against the stand. */
let bench: ProcedureBench;
onProcedures((made) => (bench = made), ['SLUICE-1', 'HUT-1']);
const abandon = (stationId: string, checkId: string) => endCheck(bench, stationId, checkId, true);

describe('a level that moves', () => {
  /** What a gauge beside the sensor shows, so many ms after the sensor's window was half through. */
  const gauge = (ms: number, behind: number) =>
    sensorValue(bench.state, sensorOf(bench, 'L2-0145'), 'waterLevel', ms - 60_000 + behind);
  const run = async (behind: number, bias: number, apart?: number) => {
    const sensor = sensorOf(bench, 'L2-0145');
    sensor.truths.waterLevel = { noise: 0.0005 };
    bench.state.loggers.find((l) => l.station === 'SLUICE-1')!.clock = { error: 0, perDay: 0, since: 0 };
    bench.state.places['SLUICE-1/Channel'] = { waterLevel: { base: 2.1, tidal: 1.2 } };
    const check = await checkBy(bench, 'SLUICE-1', 'L2-0145', 'waterLevel', 'moving-level', {
      instrumentId: await instrument(bench, 'waterLevel', 0.003),
    });
    for (let i = 0; i < 3; i++) {
      const ms = later(180_000);
      const shows = gauge(ms, behind);
      sensor.truths.waterLevel = { noise: 0.0005, bias };
      const watched = Array.from({ length: 81 }, (_, n) => ms - (80 - n) * 2000).map((t) => ({
        t: t / 1000,
        value: sensorValue(bench.state, sensor, 'waterLevel', t),
      }));
      later(-150_000);
      await check.read({
        watched,
        reference: { value: Number(shows.toFixed(3)), unit: 'm' },
        companions: apart === undefined ? {} : { apart: { value: apart, unit: 's' } },
        confirmed: true,
      });
      sensor.truths.waterLevel = { noise: 0.0005 };
    }
    const v = await check.view();
    await abandon(check.stationId, check.checkId);
    return v;
  };
  test('in the middle of the window both agree though the tide runs; a sensor 20 cm off does not', async () => {
    const together = await run(0, 0);
    expect(together.readings[0]!.settling).toMatchObject({ state: 'averaged', window: 120 });
    expect(Math.abs(together.asFound!)).toBeLessThan(0.003);
    expect(together.verdict).toEqual({ kind: 'agree' });
    expect(together.budget!.sum.parts.map((p) => p.name)).toContain('apart by 2 s');
    const off = await run(0, 0.2);
    expect(off.asFound).toBeCloseTo(0.2, 2);
    expect(off.verdict!.kind).not.toBe('agree');
  });
  test('read two minutes late it is off by the tide; said so, the budget knows', async () => {
    // From slack water to half tide.
    later(3.1 * 3_600_000);
    const late = await run(120_000, 0);
    const said = await run(120_000, 0, 120);
    expect(Math.abs(late.asFound!)).toBeGreaterThan(0.004);
    expect(said.budget!.sum.limit).toBeGreaterThan(late.budget!.sum.limit + 0.003);
    expect(said.verdict).toEqual({ kind: 'agree' });
  });
});

describe('conductivity in its standard', () => {
  const kcl = () =>
    standard(
      bench,
      'conductivity',
      'KCl 0.01 mol/L',
      [
        // OIML R 56, from memory: 1 413 µS/cm at 25 °C.
        [20, 1278],
        [25, 1413],
      ],
      14,
    );
  test('1 413 µS/cm at 25 °C; a cell that lost a tenth is found', async () => {
    const serial = bench.state.loggers
      .find((l) => l.station === 'HUT-1')!
      .sensors.find((s) => s.place === 'HUT-1/Bed')!.serial;
    sensorOf(bench, serial).truths.conductivity = { noise: 0 };
    into(bench, serial, 'KCl 0.01');
    const begin = async () =>
      checkBy(bench, 'HUT-1', serial, 'conductivity', 'conductivity-standard', {
        standardIds: [await kcl()],
        repeats: 2,
      });
    const sound = await begin();
    for (let i = 0; i < 2; i++)
      await sound.read({ point: 'p1', companions: { temperature: { value: 25, unit: '°C' } } });
    const v = await sound.view();
    expect(v.readings[0]!.compared!.reference).toBe(1413);
    expect(v.verdict).toEqual({ kind: 'agree' });
    sensorOf(bench, serial).truths.conductivity = { noise: 0, slope: { share: 0.9, about: 0 } };
    const worn = await begin();
    for (let i = 0; i < 2; i++)
      await worn.read({ point: 'p1', companions: { temperature: { value: 25, unit: '°C' } } });
    expect((await worn.view()).asFound).toBeCloseTo(-141.3, 0);
    expect((await worn.view()).verdict!.kind).not.toBe('agree');
    expect(
      await refusal(worn.read({ point: 'p1', companions: { temperature: { value: 45, unit: '°C' } } })),
    ).toMatchObject({ code: 'not-comparable' });
    await abandon(worn.stationId, worn.checkId);
  });
});
