import { sensorValue } from '@/simulator/sensorValue';
import { row, rows } from '@/db/database';
import { bookTexts, connectSensor, refusal, testBench } from '@/test/bench';
import { testDatabase } from '@/test/database';
import {
  adjustBy,
  begin,
  bench,
  capture,
  close,
  elsewhere,
  iso,
  minute,
  now,
  onChecks,
  place,
  test_,
  threeOf,
  view,
  wait,
  watch,
} from '@/test/onChecks';
import { round } from '../trust/round';
import { stationSheet } from '../station/stationSheet';
import { adjust } from './adjust';
import { excludeReading } from './capture';
import { checkLive } from './live';
import { newId } from '../id';
import { undoAdjustment } from './undo';

onChecks();

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
      // Both hang in one air as far as their thermometers can tell.
      'air between them',
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
    bench.logger.sensors[0]!.truths.humidity = { bias: 7.2, noise: 0.02 };
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
      disturbed: { at: now + 10 * minute, size: 4, tau: 40 },
    };
    const id = await begin('temperature');
    await capture(id, 'airTemperature');
    wait(20 * minute);
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
      companions: { referenceTemperature: { value: 22, unit: '°C' } },
    });
    const [r] = (await view(id)).readings;
    expect(r!.companions.find((c) => c.key === 'sensorTemperature')!.value).toBeCloseTo(24, 2);
    const compared = r!.compared!;
    expect(compared.reference).toBeCloseTo(49.6, 1);
    expect(compared.difference).toBeCloseTo(4.4, 1);
    expect(compared.how).toBe('brought to the sensor’s °C');
    expect(compared.facts.find((f) => f.name === 'dew point, reference')!.value).toBeCloseTo(12.8, 1);
  });
});

describe('adjustments over the record', () => {
  test('leave the device alone and lie as a dated layer over what it logs', async () => {
    const other = await testDatabase();
    const second = await testBench(other.db);
    const ids = await connectSensor(second, 10, 'record');
    second.state.places[place] = { airTemperature: { base: 16 }, humidity: { base: 55 } };
    second.logger.sensors[0]!.truths = { airTemperature: { bias: 1.2, noise: 0.003 } };
    await elsewhere({ test_: other, bench: second, ids }, async () => {
      const id = await begin('temperature');
      await threeOf(id, 'airTemperature');
      const { by } = (await view(id)).verdict as { by: number };
      await adjustBy(id, by);
      expect(bench.logger.channels[0]!.offsets).toEqual([]);
      const [layer] = await rows(test_.db.layer, { where: { kind: 'correction' } });
      expect(layer!.parameters).toMatchObject({ offset: by });
      // Verified against the corrected value: the screen watches that too.
      wait(2 * minute);
      const live = await checkLive(bench.at(now), bench.stationId, id);
      expect(live.value).toBeCloseTo(16 + 1.2 + by, 1);
      await capture(id, 'airTemperature', {
        watched: watch('airTemperature', now + 2 * minute).map((r) => ({ ...r, value: r.value + by })),
      });
      expect((await view(id)).convergence).toEqual({ kind: 'converged' });
      expect((await close(id)).outcome).toBe('adjusted');
    });
    await second.close();
    await other.close();
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

describe('a logger that derives its offset from the true value, and the way back', () => {
  const biased = async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    return { id, by: ((await view(id)).verdict as { by: number }).by };
  };
  const undo = (id: string, undoes: string) =>
    undoAdjustment(bench.at(wait(minute)), bench.stationId, id, {
      actionId: newId(),
      adjustmentId: newId(),
      undoes,
      occurredAt: iso(now),
    });

  test('one nobody described takes offsets only', async () => {
    const { id, by } = await biased();
    expect((await view(id)).ways).toEqual(['added', 'absolute']);
    expect(await refusal(adjustBy(id, by, 'true-value'))).toMatchObject({
      code: 'not-taken-so',
      field: 'mode',
      value: 'true-value',
    });
  });

  test('told the true value: what it read then and the offset it derived are kept, and it holds', async () => {
    await test_.arrange(
      `update logger set profile_code = 'brannoch-b4', profile_revision = 2 where station_id = $1`,
      [bench.stationId],
    );
    bench.logger.channels[1]!.offsets = [{ from: 0, offset: 0.5 }];
    const { id, by } = await biased();
    expect((await adjustBy(id, by, 'true-value')).state).toBe('done');
    const [a] = (await view(id)).adjustments;
    const held = bench.logger.channels[1]!.offsets.at(-1)!.offset;
    expect(a).toMatchObject({ mode: 'true-value', previous: 0.5, resulting: held });
    // entered = read + (after − before)
    expect(a!.entered).toBeCloseTo(a!.readAtEntry + (held - 0.5), 6);
    expect(Math.abs(held - 0.5 - by)).toBeLessThan(0.3);
    expect((await bookTexts(test_.db, bench.stationId)).at(-1)).toMatch(
      /Adjusted channel 2 in the device \(true value: \d+\.\d+ %RH\); it read \d+\.\d+ %RH at entry/,
    );
    await capture(id, 'humidity');
    expect((await view(id)).convergence).toEqual({ kind: 'converged' });
    expect((await close(id)).outcome).toBe('adjusted');
  });

  test('taken back: the offset is as before, the check is abandoned, its evidence kept', async () => {
    bench.logger.channels[1]!.offsets = [{ from: 0, offset: 1.5 }];
    const { id, by } = await biased();
    await adjustBy(id, by);
    await capture(id, 'humidity');
    const [a] = (await view(id)).adjustments;
    expect(await refusal(undo(id, newId()))).toMatchObject({ code: 'adjusted-meanwhile' });
    expect(await undo(id, a!.id)).toMatchObject({ state: 'done' });
    expect(bench.logger.channels[1]!.offsets.at(-1)!.offset).toBe(1.5);
    const after = await view(id);
    expect(after.outcome).toBe('abandoned');
    expect(after.adjustments.map((x) => [x.undone, x.undoes])).toEqual([
      [true, false],
      [false, true],
    ]);
    expect(after.readings.length).toBeGreaterThan(3);
    expect(await refusal(undo(id, a!.id))).toMatchObject({ code: 'check-closed' });
  });

  test('adjusted twice: what is put back is what was found, not what the first try left', async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 7.2, noise: 0.02 };
    bench.logger.channels[1]!.offsetResponse = 0.55;
    const id = await begin('humidity', { school: 'gum' });
    await threeOf(id, 'humidity');
    await adjustBy(id, ((await view(id)).verdict as { by: number }).by);
    await capture(id, 'humidity');
    const half = (await view(id)).convergence as { kind: string; remaining: number };
    expect(half).toMatchObject({ kind: 'try-again' });
    await adjustBy(id, Number((-half.remaining).toFixed(1)));
    const { adjustments } = await view(id);
    expect(adjustments).toHaveLength(2);
    expect(await refusal(undo(id, adjustments[0]!.id))).toMatchObject({ code: 'adjusted-meanwhile' });
    expect(await undo(id, adjustments[1]!.id)).toMatchObject({ state: 'done' });
    expect(bench.logger.channels[1]!.offsets.map((o) => o.offset !== 0)).toEqual([true, true, false]);
    expect((await view(id)).adjustments.map((a) => a.undone)).toEqual([true, true, false]);
  });

  test('somebody changed it at the logger since: nothing is put back over it', async () => {
    const { id, by } = await biased();
    await adjustBy(id, by);
    bench.logger.channels[1]!.offsets.push({ from: now, offset: 9 });
    const [a] = (await view(id)).adjustments;
    expect(await refusal(undo(id, a!.id))).toMatchObject({ code: 'offset-changed' });
    expect(bench.logger.channels[1]!.offsets.at(-1)!.offset).toBe(9);
    await capture(id, 'humidity');
    await close(id);
  });
});

describe('a device that is adjusted by hand', () => {
  const biased = async () => {
    bench.logger.sensors[0]!.truths.humidity = { bias: 6, noise: 0.03 };
    const id = await begin('humidity');
    await threeOf(id, 'humidity');
    return { id, by: ((await view(id)).verdict as { by: number }).by };
  };
  const byHand = (id: string, by: number, more: object) =>
    adjust(bench.at(wait(minute)), bench.stationId, id, {
      actionId: newId(),
      adjustmentId: newId(),
      by,
      mode: 'constant',
      occurredAt: iso(now),
      ...more,
    });

  test('only in a way its profile names, and only with what was entered', async () => {
    const { id, by } = await biased();
    const said = { byHand: { entered: 1.02, before: 1, after: 1.02 } };
    expect(await refusal(byHand(id, by, said))).toMatchObject({ code: 'not-taken-so', value: 'constant' });
    await test_.arrange(
      `update device_profile set body = jsonb_set(body, '{outputs,1,takes}', '["constant", "accept"]') where code = 'quern-th3'`,
    );
    expect((await view(id)).ways).toEqual(['added', 'absolute', 'true-value', 'constant', 'accept']);
    expect(await refusal(byHand(id, by, {}))).toMatchObject({ code: 'by-hand-missing', field: 'byHand' });
    const offsets = bench.logger.channels[1]!.offsets.length;
    expect(await byHand(id, by, said)).toEqual({ state: 'done', says: null });
    // Nothing was sent to the logger; hands turned its constant.
    expect(bench.logger.channels[1]!.offsets).toHaveLength(offsets);
    bench.logger.sensors[0]!.truths.humidity = { noise: 0.03 };
    const [a] = (await view(id)).adjustments;
    expect(a).toMatchObject({ byHand: true, mode: 'constant', entered: 1.02, sum: '1 → 1.02' });
    expect(a!.readAtEntry).toBeGreaterThan(55);
    expect((await bookTexts(test_.db, bench.stationId)).at(-1)).toMatch(
      /in the device \(by hand, an edited constant: 1\.02\); it read/,
    );
    const undone = undoAdjustment(bench.at(now), bench.stationId, id, {
      actionId: newId(),
      adjustmentId: newId(),
      undoes: a!.id,
      occurredAt: iso(now),
    });
    expect(await refusal(undone)).toMatchObject({ code: 'by-hand' });
    await capture(id, 'humidity');
    expect((await view(id)).convergence).toEqual({ kind: 'converged' });
    // 1 → 1.02 is no offset of 0.02: nobody is accused of having taken another.
    expect((await view(id)).taken).toBeNull();
    expect((await close(id)).outcome).toBe('adjusted');
  });

  test('a bare accept leaves nothing that the device would say', async () => {
    const { id, by } = await biased();
    await byHand(id, by, { mode: 'accept', byHand: { entered: 100, before: null, after: null } });
    expect((await view(id)).adjustments[0]).toMatchObject({
      previous: null,
      resulting: null,
      sum: 'the device says nothing of what it holds',
    });
    const sheet = await stationSheet(test_.db, bench.stationId, new Date(now));
    expect(JSON.stringify(sheet.paths)).toMatch(/a bare accept at its point, by hand/);
    bench.logger.sensors[0]!.truths.humidity = { noise: 0.03 };
    await capture(id, 'humidity');
    expect((await close(id)).outcome).toBe('adjusted');
  });
});
