import type { CaptureReading, CloseCheck, OpenCheck } from '@/contract/requests';
import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import { quantityOf } from '@/core/quantity/quantity';
import { rows } from '@/db/database';
import { adjust } from '@/server/check/adjust';
import { captureReading } from '@/server/check/capture';
import { closeCheck } from '@/server/check/close';
import { openCheck } from '@/server/check/open';
import { checkView } from '@/server/check/view';
import { newId } from '@/server/id';
import { handheldDisplay } from '@/simulator/lab';
import { sensorValue } from '@/simulator/sensorValue';
import { present, type TestBench } from './bench';
import type { TestDatabase } from './database';
import { onConnectedBench, type Connected, type Made } from './onBench';

/** Checks as a technician makes them at the bench; time goes on with every step. */
export let test_: TestDatabase;
export let bench: TestBench;
let channels: Connected;
export let now = present;
export const minute = 60_000;
export const place = 'ARCH-1/Lantern room';

export const wait = (ms: number): number => (now += ms);

export function onChecks(): void {
  onConnectedBench((made) => ({ test_, bench, ids: channels } = made));
  beforeEach(async () => {
    // A clean sensor in steady air: each test then changes one truth.
    bench.state.places[place] = { airTemperature: { base: 16 }, humidity: { base: 55 } };
    bench.logger.sensors[0]!.truths = { airTemperature: { noise: 0.004 }, humidity: { noise: 0.03 } };
    for (const c of bench.logger.channels) {
      c.offsets = [];
      c.offsetResponse = 1;
    }
    for (const c of await rows(test_.db.check, { where: { closedAt: null } }))
      await closeCheck(bench.at(now), bench.stationId, c.id, {
        abandon: true,
        reason: 'next test',
        occurredAt: iso(now),
      });
  });
}

/** The same steps in another world, and then back. */
export async function elsewhere(made: Made & { ids: Connected }, work: () => Promise<void>): Promise<void> {
  const saved = { test_, bench, channels };
  ({ test_, bench, ids: channels } = made);
  try {
    await work();
  } finally {
    ({ test_, bench, channels } = saved);
  }
}

export const iso = (ms: number) => new Date(ms).toISOString();

export async function begin(
  quantity: 'humidity' | 'temperature',
  more: Partial<OpenCheck> = {},
): Promise<string> {
  wait(10 * minute);
  const checkId = newId();
  await openCheck(bench.at(now), bench.stationId, {
    checkId,
    channelId: channels[quantity],
    procedure: quantity === 'humidity' ? 'one-air' : 'side-by-side',
    instrumentId: bench.instrumentId,
    standardIds: [],
    zoneName: 'Lantern room',
    repeats: 3,
    school: 'sum',
    settleWindow: 60,
    occurredAt: iso(now),
    ...more,
  });
  return checkId;
}

/** What a screen would have watched for the last `seconds`. */
export function watch(quantity: 'humidity' | 'airTemperature', at: number, seconds = 90) {
  const channel = bench.logger.channels.find((c) => c.history[0]!.settings.quantity === quantity)!;
  const offset = (channel.offsets.at(-1)?.offset ?? 0) * channel.offsetResponse;
  return Array.from({ length: seconds / 3 + 1 }, (_, i) => at - (seconds / 3 - i) * 3000).map((t) => ({
    t: t / 1000,
    value: sensorValue(bench.state, bench.logger.sensors[0]!, quantity, t) + offset,
  }));
}

export async function capture(
  checkId: string,
  quantity: 'humidity' | 'airTemperature',
  more: Partial<CaptureReading> = {},
  seconds = 90,
) {
  wait(2 * minute);
  const shown = handheldDisplay(bench.state, 'HX-771', place, now)!;
  return captureReading(bench.at(now), bench.stationId, checkId, {
    readingId: newId(),
    occurredAt: iso(now),
    watched: watch(quantity, now, seconds),
    reference: { value: shown[quantity]!, unit: quantityOf(quantity).unit },
    ...(quantity === 'humidity' && {
      companions: { referenceTemperature: { value: shown.airTemperature!, unit: '°C' as const } },
    }),
    ...more,
  });
}
export const threeOf = async (checkId: string, quantity: 'humidity' | 'airTemperature') => {
  for (let i = 0; i < 3; i++) await capture(checkId, quantity);
};
export const view = (checkId: string) => checkView(test_.db, bench.stationId, checkId, new Date(now));
export const close = (checkId: string, more: Partial<CloseCheck> = {}) =>
  closeCheck(bench.at(now), bench.stationId, checkId, { abandon: false, occurredAt: iso(now), ...more });
export const adjustBy = (checkId: string, by: number, mode: AdjustmentWay = 'added') =>
  adjust(bench.at(now), bench.stationId, checkId, {
    actionId: newId(),
    adjustmentId: newId(),
    by,
    mode,
    occurredAt: iso(now),
  });
