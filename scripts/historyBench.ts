import { cabinetOf } from '@/core/circuit/cabinet';
import { explanationsOf } from '@/core/circuit/explanation';
import type { MeterRange } from '@/core/circuit/meter';
import { measuredBeside, measuredOf, offLineReason, type Measured } from '@/core/circuit/session';
import { loggerUncertainty, planBench } from '@/core/circuit/steps';
import { rigOfSession } from '@/core/circuit/verdict';
import { row, type Database } from '@/db/database';
import { beginBench, endBench, readBench } from '@/server/bench/session';
import { benchView } from '@/server/bench/view';
import type { Context } from '@/server/context';
import { beginOffLine, endOffLine } from '@/server/device/offLine';
import { newId } from '@/server/id';
import { addMeter } from '@/server/kit/meters';

const position = (
  does: MeterRange['does'],
  upTo: number,
  counts: number,
  percent: number,
  more: number,
): MeterRange => ({
  does,
  upTo,
  count: upTo / counts,
  ofReading: percent / 100,
  counts: more,
  unit: does !== 'ohms' || upTo < 1000 ? 1 : upTo < 1e6 ? 1e3 : 1e6,
});

/** Two meters of the kit: the one that is always in the bag, and the better one. */
export async function stockMeters(ctx: Context): Promise<void> {
  const plain = [200, 2e3, 20e3, 200e3, 2e6];
  await addMeter(ctx, {
    meterId: newId(),
    name: 'Bag meter',
    model: 'Fetla D4',
    serial: 'D4-0117',
    dueOn: null,
    ranges: [
      ...plain.map((upTo) => position('ohms', upTo, 2000, 0.8, 3)),
      ...[2, 20, 200].map((upTo) => position('volts-dc', upTo, 2000, 0.5, 2)),
      position('volts-ac', 200, 2000, 1.2, 5),
      position('milliamps', 200, 2000, 1, 3),
    ],
  });
  await addMeter(ctx, {
    meterId: newId(),
    name: 'Better meter',
    model: 'Fetla D60',
    serial: 'D60-0042',
    dueOn: new Date(ctx.now().getTime() + 500 * 86_400_000).toISOString().slice(0, 10),
    ranges: [
      ...[600, 6e3, 60e3, 600e3, 6e6].map((upTo) => position('ohms', upTo, 60_000, 0.05, 5)),
      ...[6, 60, 600].map((upTo) => position('volts-dc', upTo, 60_000, 0.03, 3)),
      position('volts-ac', 600, 60_000, 0.4, 30),
      position('milliamps', 60, 60_000, 0.1, 10),
    ],
  });
}

/** A sensor that was measured once, with nothing found wrong. */
export async function playBench(
  db: Database,
  at: (minutes: number) => Context,
  stationId: string,
  serial: string,
): Promise<void> {
  const { sensors } = await benchView(db, stationId);
  const sensor = sensors.find((s) => s.serial === serial)!;
  const channel = sensor.channels[0]!;
  const meter = (await row(db.meter, { where: { serial: 'D60-0042' } }))!;
  const { positions } = meter.ranges;
  const sessionId = newId();
  const { installationId } = sensor;
  const occurredAt = (minutes: number) => at(minutes).now().toISOString();
  await beginBench(at(0), stationId, {
    sessionId,
    installationId,
    channelId: channel.channelId,
    meterId: meter.id,
    input: sensor.setup.input,
    occurredAt: occurredAt(0),
  });
  const setup = { outputKey: channel.outputKey, ...sensor.setup };
  const rig = rigOfSession(sensor.profile, setup);
  const output = sensor.profile.outputs.find((o) => o.key === channel.outputKey)!;
  const [sound] = explanationsOf(rig, false);
  // Numbers that are the same whenever the demo is made.
  let seed = 7;
  const cabinet = cabinetOf(rig, sound!, () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647);
  const read = (minutes: number, measured: Measured, shows: number | null) =>
    readBench(at(minutes), stationId, sessionId, {
      readingId: newId(),
      measured,
      shows,
      typed: shows === null ? 'OL' : String(Number(shows.toPrecision(5))),
      occurredAt: occurredAt(minutes),
    });
  const u = loggerUncertainty(output.range, output.resolution);
  const logged = cabinet.measure({ kind: 'logger', u }).shows;
  await read(1, { ...measuredBeside('after'), kind: 'as-found', u }, logged && Number(logged.toFixed(2)));
  await beginOffLine(at(3), stationId, installationId, {
    reason: offLineReason(serial),
    occurredAt: occurredAt(3),
  });
  const volts = positions.find((r) => r.does === 'volts-dc')!;
  await read(4, measuredBeside('dead-dc', { range: volts }), 0.0002);
  await read(5, measuredBeside('dead-ac'), 0);
  await read(6, measuredBeside('zero', { range: positions[0]! }), 0);
  const { all } = planBench(rig, cabinet.value, positions, { sensor: false });
  let minutes = 7;
  for (const m of all.filter((m) => m.kind === 'ohms'))
    await read(minutes++, measuredOf(m), cabinet.measure(m).shows);
  await endOffLine(at(12), stationId, installationId, { occurredAt: occurredAt(12) });
  await read(14, measuredBeside('after'), logged && Number(logged.toFixed(2)));
  await endBench(at(15), stationId, sessionId, {
    outcome: 'none',
    note: 'Screws under the terminals tightened all the same.',
    occurredAt: occurredAt(15),
  });
}
