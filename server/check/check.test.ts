import type { CaptureReading, OpenCheck } from '@/contract/requests';
import { quantityOf } from '@/core/quantity/quantity';
import { row, rows } from '@/db/database';
import { handheldDisplay } from '@/simulator/lab';
import { sensorValue } from '@/simulator/sensorValue';
import { bookTexts, connectSensor, present, refusal, testBench, type TestBench } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newId } from '../id';
import { round } from '../round';
import { stationSheet } from '../stationSheet';
import { adjust } from './adjust';
import { captureReading, excludeReading } from './capture';
import { closeCheck } from './close';
import { checkLive } from './live';
import { openCheck } from './open';
import { checkView } from './view';

let test_: TestDatabase;
let bench: TestBench;
let channels: Connected;
const minute = 60_000;
const place = 'ARCH-1/Lantern room';

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

let now = present;
const iso = (ms: number) => new Date(ms).toISOString();

async function begin(quantity: 'humidity' | 'temperature', more: Partial<OpenCheck> = {}): Promise<string> {
  now += 10 * minute;
  const checkId = newId();
  await openCheck(bench.at(now), bench.stationId, {
    checkId,
    channelId: channels[quantity],
    instrumentId: bench.instrumentId,
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
function watch(quantity: 'humidity' | 'airTemperature', at: number, seconds = 90) {
  const channel = bench.logger.channels.find((c) => c.history[0]!.settings.quantity === quantity)!;
  const offset = (channel.offsets.at(-1)?.offset ?? 0) * channel.offsetResponse;
  return Array.from({ length: seconds / 3 + 1 }, (_, i) => at - (seconds / 3 - i) * 3000).map((t) => ({
    t: t / 1000,
    value: sensorValue(bench.state, bench.logger.sensors[0]!, quantity, t) + offset,
  }));
}

async function capture(
  checkId: string,
  quantity: 'humidity' | 'airTemperature',
  more: Partial<CaptureReading> = {},
  seconds = 90,
) {
  now += 2 * minute;
  const shown = handheldDisplay(bench.state, 'HX-771', place, now)!;
  return captureReading(bench.at(now), bench.stationId, checkId, {
    readingId: newId(),
    occurredAt: iso(now),
    watched: watch(quantity, now, seconds),
    reference: { value: shown[quantity]!, unit: quantityOf(quantity).unit },
    ...(quantity === 'humidity' && {
      referenceTemperature: { value: shown.airTemperature!, unit: '°C' as const },
    }),
    ...more,
  });
}
const threeOf = async (checkId: string, quantity: 'humidity' | 'airTemperature') => {
  for (let i = 0; i < 3; i++) await capture(checkId, quantity);
};
const view = (checkId: string) => checkView(test_.db, bench.stationId, checkId, new Date(now));
const close = (checkId: string) =>
  closeCheck(bench.at(now), bench.stationId, checkId, { abandon: false, occurredAt: iso(now) });
const adjustBy = (checkId: string, by: number, mode: 'added' | 'absolute' = 'added') =>
  adjust(bench.at(now), bench.stationId, checkId, {
    actionId: newId(),
    adjustmentId: newId(),
    by,
    mode,
    occurredAt: iso(now),
  });

describe('the verdict follows the truth', () => {
  test('a good sensor: they agree, it is left alone', async () => {
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    const v = await view(id);
    expect(v.verdict).toEqual({ kind: 'agree' });
    expect(Math.abs(v.asFound!)).toBeLessThan(v.limit!);
    expect(v.budget!.sum.parts.map((p) => p.name)).toEqual([
      'sensor',
      'reference',
      'sensor’s thermometer',
      'reference’s thermometer',
    ]);
    expect((await close(id)).outcome).toBe('agree');
    expect((await refusal(adjustBy(id, -1))).code).toBe('check-closed');
  });

  test('a biased sensor: adjusted, verified, as found and as left kept; its stone is set upright again', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    const found = await view(id);
    expect(found.verdict).toMatchObject({ kind: 'adjust' });
    const by = (found.verdict as { by: number }).by;
    expect(by).toBeCloseTo(-6, 0);
    expect((await adjustBy(id, by)).state).toBe('done');
    expect(bench.logger.channels[1]!.offsets.at(-1)!.offset).toBeCloseTo(by, 6);
    expect((await refusal(close(id))).code).toBe('not-verified');
    expect((await refusal(adjustBy(id, by))).code).toBe('nothing-to-adjust');
    await capture(id, 'humidity');
    const left = await view(id);
    expect(left.convergence).toEqual({ kind: 'converged' });
    expect(left.asFound).toBeCloseTo(6, 0);
    expect(Math.abs(left.asLeft!)).toBeLessThan(0.6);
    expect(left.adjustments[0]).toMatchObject({ place: 'device', mode: 'added', previous: 0, entered: by });
    expect((await close(id)).outcome).toBe('adjusted');
    const kept = await row(test_.db.check, { where: { id } });
    expect(kept!.result).toMatchObject({ asFound: left.asFound, asLeft: left.asLeft });
  });

  test('an absolute entry is recorded as what was typed into the device', async () => {
    bench.logger.channels[1]!.offsets = [{ from: 0, offset: 1.5 }];
    bench.logger.sensors[0]!.truths.humidity = { bias: 4.5, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    const { by } = (await view(id)).verdict as { by: number };
    await adjustBy(id, by, 'absolute');
    const [a] = (await view(id)).adjustments;
    expect(a).toMatchObject({ mode: 'absolute', previous: 1.5 });
    expect(a!.entered).toBeCloseTo(1.5 + by, 6);
    expect(a!.resulting).toBe(a!.entered);
    await capture(id, 'humidity');
    expect((await close(id)).outcome).toBe('adjusted');
  });

  test('a device that does not take offsets honestly: does not converge, and no third try', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 7, noise: 0.03 };
    bench.logger.channels[1]!.offsetResponse = 0.1;
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    await adjustBy(id, ((await view(id)).verdict as { by: number }).by);
    await capture(id, 'humidity');
    expect((await view(id)).convergence).toMatchObject({ kind: 'does-not-converge' });
    expect((await refusal(adjustBy(id, -6))).code).toBe('nothing-to-adjust');
    expect((await close(id)).outcome).toBe('does-not-converge');
    const sheet = await stationSheet(test_.db, bench.stationId, new Date(now));
    expect(sheet.cairn.reference).toBe('displaced');
    expect(sheet.findings.find((f) => f.code === 'does-not-converge')!.next).toMatch(/swap in a sensor/);
  });

  test('most of the difference gone, not all: one more try is proposed, and then it holds', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 7.8, noise: 0.02 };
    bench.logger.channels[1]!.offsetResponse = 0.52;
    // Only the GUM line is tight enough here to see what is left.
    const id = await begin('humidity', { school: 'gum' });
    await threeOf(id, 'humidity');
    await adjustBy(id, ((await view(id)).verdict as { by: number }).by);
    await capture(id, 'humidity');
    const half = (await view(id)).convergence as { kind: string; remaining: number };
    expect(half.kind).toBe('try-again');
    bench.logger.channels[1]!.offsetResponse = 0.72;
    await adjustBy(id, Number((-half.remaining).toFixed(1)));
    await capture(id, 'humidity');
    expect((await view(id)).adjustments).toHaveLength(2);
    expect((await close(id)).outcome).toBe('adjusted');
  });

  test('two people press Adjust at the same moment: one adjustment, the other is told, nothing hangs', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    const { by } = (await view(id)).verdict as { by: number };
    const both = await Promise.allSettled([adjustBy(id, by), adjustBy(id, by), adjustBy(id, by)]);
    expect(both.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    for (const r of both)
      if (r.status === 'rejected')
        expect(['write-running', 'action-unknown', 'adjusted-meanwhile', 'nothing-to-adjust']).toContain(
          (r.reason as { parts: { code: string } }).parts.code,
        );
    expect((await view(id)).adjustments).toHaveLength(1);
    expect(bench.logger.channels[1]!.offsets.at(-1)!.offset).toBeCloseTo(by, 6);
    expect(await rows(test_.db.deviceAction, { where: { settledAt: null } })).toEqual([]);
    await capture(id, 'humidity');
    expect((await close(id)).outcome).toBe('adjusted');
  });

  test('far out: beyond the guard nothing is adjusted', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 12, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    expect((await view(id)).verdict).toEqual({ kind: 'beyond-guard', guard: 8 });
    expect((await refusal(adjustBy(id, -7))).code).toBe('nothing-to-adjust');
    expect((await close(id)).outcome).toBe('left-outside');
    expect(
      (await stationSheet(test_.db, bench.stationId, new Date(now))).findings.map((f) => f.code),
    ).toContain('beyond-tolerance');
  });

  test('a moving sensor decides nothing; taken back and repeated at rest, it does', async () => {
    bench.logger.sensors[0]!.truths.airTemperature = {
      noise: 0.004,
      disturbed: { at: now + 10 * minute, size: 4, tau: 100 },
    };
    const id = await begin('temperature');
    await capture(id, 'airTemperature');
    now += 20 * minute;
    await capture(id, 'airTemperature');
    await capture(id, 'airTemperature');
    const moving = await view(id);
    expect(moving.verdict).toEqual({ kind: 'not-settled', why: 'moving' });
    const first = moving.readings[0]!;
    expect(first.settling).toMatchObject({ state: 'moving' });
    if (first.settling.state === 'moving') expect(first.settling.projected!.final).toBeCloseTo(16, 0);
    await excludeReading(bench.at(now), bench.stationId, id, first.id, { reason: 'still moving' });
    await capture(id, 'airTemperature');
    expect((await view(id)).verdict).toEqual({ kind: 'agree' });
    expect((await view(id)).readings).toHaveLength(4);
    await close(id);
  });

  test('a stuck sensor in air that has changed since: still as a stone, and beyond the guard', async () => {
    bench.logger.sensors[0]!.truths.humidity = { noise: 0, stuckSince: now };
    bench.state.places[place] = {
      airTemperature: { base: 16 },
      humidity: { base: 55, daily: 0, weather: 0 },
    };
    const stuckAt = sensorValue(bench.state, bench.logger.sensors[0]!, 'humidity', now);
    bench.logger.sensors[0]!.truths.humidity = { noise: 0, bias: stuckAt - 55 - 14, stuckSince: now };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    const v = await view(id);
    expect(v.readings.map((r) => r.settling.state)).toEqual(['settled', 'settled', 'settled']);
    expect(v.verdict).toEqual({ kind: 'beyond-guard', guard: 8 });
  });

  test('a noisy sensor is called restless', async () => {
    bench.logger.sensors[0]!.truths.airTemperature = { noise: 0.5 };
    const id = await begin('temperature');
    await threeOf(id, 'airTemperature');
    const states = (await view(id)).readings.map((r) => r.settling.state);
    // Twice its standard error is passed by chance once in twenty looks: never at rest, mostly restless.
    expect(states).not.toContain('settled');
    expect(states.filter((s) => s === 'restless').length).toBeGreaterThanOrEqual(2);
  });

  test('two temperatures: humidity is compared as air, not as numbers', async () => {
    const id = await begin('humidity');
    bench.state.places[place] = { airTemperature: { base: 22 }, humidity: { base: 56 } };
    bench.logger.sensors[0]!.truths = {
      airTemperature: { bias: 2, noise: 0 },
      humidity: { bias: -2, noise: 0 },
    };
    await capture(id, 'humidity', {
      reference: { value: 56, unit: '%RH' },
      referenceTemperature: { value: 22, unit: '°C' },
    });
    const [r] = (await view(id)).readings;
    expect(r!.sensorTemperature).toBeCloseTo(24, 2);
    expect(r!.referenceAtSensor).toBeCloseTo(49.6, 1);
    expect(r!.difference).toBeCloseTo(4.4, 1);
    expect(r!.referenceDewPoint).toBeCloseTo(12.8, 1);
  });
});

describe('adjustments over the record', () => {
  test('leave the device alone and lie as a dated layer over what it logs', async () => {
    const other = await testDatabase();
    const second = await testBench(other.db);
    const ids = await connectSensor(second, 10, 'record');
    second.state.places[place] = { airTemperature: { base: 16 }, humidity: { base: 55 } };
    second.logger.sensors[0]!.truths = { airTemperature: { bias: 1.2, noise: 0.003 } };
    const [saved, savedChannels, savedDb] = [bench, channels, test_];
    [bench, channels, test_] = [second, ids, other];
    try {
      const id = await begin('temperature');
      await threeOf(id, 'airTemperature');
      const { by } = (await view(id)).verdict as { by: number };
      await adjustBy(id, by);
      expect(bench.logger.channels[0]!.offsets).toEqual([]);
      const [layer] = await rows(test_.db.layer, { where: { kind: 'correction' } });
      expect(layer!.parameters).toMatchObject({ offset: by });
      // Verified against the corrected value: the screen watches that too.
      now += 2 * minute;
      const live = await checkLive(bench.at(now), bench.stationId, id);
      expect(live.value).toBeCloseTo(16 + 1.2 + by, 1);
      await capture(id, 'airTemperature', {
        watched: watch('airTemperature', now + 2 * minute).map((r) => ({ ...r, value: r.value + by })),
      });
      expect((await view(id)).convergence).toEqual({ kind: 'converged' });
      expect((await close(id)).outcome).toBe('adjusted');
    } finally {
      [bench, channels, test_] = [saved, savedChannels, savedDb];
      await second.close();
      await other.close();
    }
  });
});

describe('bad input is refused with field, value and remedy', () => {
  test('the wrong zone, an instrument that cannot, one out of date without a reason', async () => {
    expect(await refusal(begin('humidity', { zoneName: 'Map store' }))).toMatchObject({
      code: 'wrong-zone',
      field: 'zoneName',
    });
    const late = await refusal(begin('humidity', { instrumentId: bench.overdueInstrumentId }));
    expect(late).toMatchObject({ code: 'reference-out-of-date', field: 'outOfDateReason' });
    expect(late.detail).toMatch(/ran out on 2025-10-01/);
    const id = await begin('humidity', {
      instrumentId: bench.overdueInstrumentId,
      outOfDateReason: 'the other one fell in the sea',
    });
    expect((await view(id)).outOfDateReason).toBe('the other one fell in the sea');
    expect((await refusal(begin('humidity'))).code).toBe('check-open');
  });
  test.each([
    [
      '21.4 typed as 214 (here 160 for 16.0)',
      { value: 160, unit: '°C' as const },
      'outside-instrument-range',
      /Did you mean 16 °C/,
    ],
    [
      'a reading in °F taken as °C',
      { value: 60.8, unit: '°C' as const },
      'outside-instrument-range',
      /Did you mean 60.8 °F/,
    ],
    ['1e308', { value: 1e308, unit: '°C' as const }, 'outside-instrument-range', /Read the display again/],
    ['NaN', { value: Number.NaN, unit: '°C' as const }, 'not-a-number', /number on the display/],
    ['Infinity', { value: Infinity, unit: '°C' as const }, 'not-a-number', /number on the display/],
    ['a unit of something else', { value: 16, unit: '%RH' as const }, 'wrong-unit', /°C/],
    [
      '1.6 for 16: possible, so asked',
      { value: 1.6, unit: '°C' as const },
      'far-from-sensor',
      /Did you mean 16 °C.*confirm/,
    ],
  ])('%s', async (_, reference, code, remedy) => {
    const id = await begin('temperature');
    const refused = await refusal(capture(id, 'airTemperature', { reference }));
    expect(refused).toMatchObject({ code, field: 'reference' });
    expect(refused.remedy).toMatch(remedy);
    expect((await view(id)).readings).toHaveLength(0);
  });
  test('an odd value that the person stands by is taken', async () => {
    const id = await begin('temperature');
    await capture(id, 'airTemperature', { reference: { value: 1.6, unit: '°C' }, confirmed: true });
    expect((await view(id)).readings).toHaveLength(1);
  });
  test('°F is converted as a value, the difference stays in °C', async () => {
    const id = await begin('temperature');
    await capture(id, 'airTemperature', { reference: { value: 60.8, unit: '°F' } });
    expect((await view(id)).readings[0]!.referenceValue).toBeCloseTo(16, 6);
  });
  test('humidity without its temperature; a time in the future; a repeated send', async () => {
    const id = await begin('humidity');
    expect((await refusal(capture(id, 'humidity', { referenceTemperature: undefined }))).code).toBe(
      'temperature-missing',
    );
    expect((await refusal(capture(id, 'humidity', { occurredAt: iso(now + 3_600_000) }))).code).toBe(
      'future-time',
    );
    const readingId = newId();
    await capture(id, 'humidity', { readingId });
    await capture(id, 'humidity', { readingId });
    expect((await view(id)).readings).toHaveLength(1);
  });
  test('an offset that the check did not find, or beyond the guard', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    expect((await refusal(adjustBy(id, 6))).code).toBe('not-as-found');
    expect((await refusal(adjustBy(id, -9))).code).toBe('beyond-guard');
    expect(bench.logger.channels[1]!.offsets).toEqual([]);
  });
  test('a silent sensor or logger loses nothing that was captured', async () => {
    const id = await begin('temperature');
    await capture(id, 'airTemperature');
    bench.logger.sensors[0]!.powered = false;
    expect((await refusal(capture(id, 'airTemperature'))).code).toBe('sensor-silent');
    bench.logger.sensors[0]!.powered = true;
    await capture(id, 'airTemperature');
    expect((await view(id)).readings).toHaveLength(2);
  });
  test('abandoning wants a reason', async () => {
    const id = await begin('temperature');
    expect(
      (await refusal(closeCheck(bench.at(now), bench.stationId, id, { abandon: true, occurredAt: iso(now) })))
        .code,
    ).toBe('reason-missing');
  });
});

test('the field book wrote itself, with sums; the Round heard of it', async () => {
  const texts = await bookTexts(test_.db, bench.stationId);
  expect(texts.some((t) => /^Began a check of Lantern room humidity/.test(t))).toBe(true);
  expect(texts.some((t) => /^As found 1 of/.test(t))).toBe(true);
  expect(texts.some((t) => /^Adjusted channel 2 in the device/.test(t))).toBe(true);
  const [line] = await rows(test_.db.fieldBook, { where: { kind: 'adjust' }, order: [['id', 'ASC']] });
  expect(line!.sum).toMatch(/^0\.00 \+ \(−\d\.\d\d\) = −\d\.\d\d %RH$/);
  expect((await round(test_.db, new Date(now))).stops[0]!.findings.length).toBeGreaterThan(0);
});
