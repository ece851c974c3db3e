import type { MeterRange } from '@/core/circuit/meter';
import { plainInput } from '@/core/circuit/pathInput';
import { measuredBeside, type Measured } from '@/core/circuit/session';
import { beginBench, readBench } from '@/server/bench/session';
import { benchView } from '@/server/bench/view';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { addMeter } from '@/server/kit/meters';
import { present } from './bench';
import { plainMeter } from './faultSweep';
import { onHungStation } from './hungStation';
import type { OnStation } from './onStation';

/** The gate pier with its resistance thermometer on three wires and its bridge, and a meter in the kit. */
export interface GatePier extends OnStation {
  readonly meterId: string;
  readonly thermometer: { readonly installationId: string; readonly channelId: string };
}
export function onGatePier(take: (made: GatePier) => void): void {
  let made: OnStation;
  onHungStation('SLUICE-2', 30, (m) => (made = m));
  beforeAll(async () => {
    const meterId = newId();
    await addMeter(made.at(), {
      meterId,
      name: 'Bag meter',
      model: 'Fetla D4',
      serial: `D4-${meterId.slice(-6)}`,
      ranges: [...plainMeter],
      dueOn: null,
    });
    const { sensors } = await benchView(made.test_.db, made.stationId);
    const { installationId, channels } = sensors.find((s) => s.profile.code === 'noust-p3')!;
    take({ ...made, meterId, thermometer: { installationId, channelId: channels[0]!.channelId } });
  });
}

const occurred = (seconds: number) => new Date(present + seconds * 1000).toISOString();

/** Begins to measure its thermometer. */
export const beginAtPier = (
  ctx: Context,
  { stationId, meterId, thermometer }: GatePier,
  sessionId = newId(),
) =>
  beginBench(ctx, stationId, {
    sessionId,
    ...thermometer,
    meterId,
    input: { ...plainInput, wires: 2 },
    occurredAt: occurred(0),
  });

/** One reading, so many seconds after the present. */
export const readAtPier = (
  ctx: Context,
  { stationId }: Pick<GatePier, 'stationId'>,
  sessionId: string,
  seconds: number,
  measured: Measured,
  shows: number | null,
  readingId = newId(),
) =>
  readBench(ctx, stationId, sessionId, {
    readingId,
    measured,
    shows,
    typed: shows === null ? 'OL' : String(shows),
    occurredAt: occurred(seconds),
  });

export const dcRange = plainMeter.find((r) => r.does === 'volts-dc')!;
export const ohmsRange: MeterRange = plainMeter[0]!;
/** Ohms between two lead ends. */
export const pair = (from: string, to: string): Measured => ({
  ...measuredBeside('zero'),
  kind: 'ohms',
  from: `${from} lead end`,
  to: `${to} lead end`,
  range: ohmsRange,
});
export const asFound: Measured = { ...measuredBeside('after'), kind: 'as-found', u: 0.05 };
/** Volts are looked for and not found. */
export async function provedDead(ctx: Context, pier: GatePier, sessionId: string): Promise<void> {
  await readAtPier(ctx, pier, sessionId, 10, measuredBeside('dead-dc', { range: dcRange }), 0.001);
  await readAtPier(ctx, pier, sessionId, 11, measuredBeside('dead-ac'), 0);
}
