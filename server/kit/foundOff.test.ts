import { refusal } from '@/test/bench';
import {
  adjustBy,
  begin,
  bench,
  capture,
  close,
  iso,
  minute,
  now,
  onChecks,
  test_,
  threeOf,
  view,
  wait,
} from '@/test/onChecks';
import type { OpenCheck } from '@/contract/requests';
import { checkStart } from '../check/open';
import { newId } from '../id';
import { stationSheet } from '../station/stationSheet';
import { kit } from './kit';
import { instrumentPage } from './instrumentPage';
import { keepFinding, takeFindingBack, touchedChecks } from './foundOff';

/** One instrument found off: the right list, the right changed verdicts, nothing rewritten. */
onChecks();

const touched = (by: number, quantity: 'airTemperature' | 'humidity' = 'airTemperature', from = 0) =>
  touchedChecks(
    test_.db,
    bench.instrumentId,
    { quantity, by },
    { from: new Date(from), until: new Date(now + 1) },
  );
/** Three readings of a sensor at 16 °C beside a display that shows so much. */
async function checked(shows: number, more: Partial<OpenCheck> = {}): Promise<string> {
  const id = await begin('temperature', { school: 'gum', ...more });
  for (let i = 0; i < 3; i++)
    await capture(id, 'airTemperature', { reference: { value: shows, unit: '°C' }, confirmed: true });
  await close(id);
  return id;
}

test('a reference that showed 0.8 °C too much: checks it accused by, and one it let pass, change; others do not', async () => {
  const before = now;
  const good = await checked(16);
  const accused = await checked(16.8);
  const passed = await checked(15.9);
  expect((await view(good)).verdict).toEqual({ kind: 'agree' });
  expect((await view(accused)).verdict).toMatchObject({ kind: 'adjust' });
  const found = await touched(0.8, 'airTemperature', before);
  expect(found.map((t) => t.checkId)).toEqual([passed, accused, good]);
  const of = (id: string) => found.find((t) => t.checkId === id)!;
  // As found moves by what the reference was off: sensor − (reference − 0.8).
  expect(of(accused).before.asFound).toBeCloseTo(-0.8, 1);
  expect(of(accused).after).toMatchObject({ verdict: 'agree', asFound: expect.closeTo(0, 1) as number });
  expect(of(accused)).toMatchObject({ isChanged: true, stationCode: 'ARCH-1', adjustedBy: null });
  expect(of(good)).toMatchObject({ isChanged: true, after: { verdict: 'adjust' } });
  expect(of(passed)).toMatchObject({ isChanged: true, after: { verdict: 'adjust' } });
  const little = await touched(0.05, 'airTemperature', before);
  expect(little.map((t) => t.isChanged)).toEqual([false, false, false]);
  // What they said stays what they said.
  expect((await view(accused)).verdict).toMatchObject({ kind: 'adjust' });
});

test('its thermometer touches the humidities it was beside, its hygrometer no temperature', async () => {
  const from = now;
  const id = await begin('humidity', { school: 'gum' });
  await threeOf(id, 'humidity');
  await close(id);
  const temperature = await checked(16);
  expect((await touched(3, 'airTemperature', from)).map((t) => t.checkId)).toEqual([temperature, id]);
  expect((await touched(5, 'humidity', from)).map((t) => [t.checkId, t.isChanged])).toEqual([[id, true]]);
});

test('an adjustment that rested on it is named with what was written', async () => {
  const from = now;
  bench.logger.sensors[0]!.truths.airTemperature = { noise: 0.004 };
  const id = await begin('temperature', { school: 'gum' });
  const shows = { reference: { value: 16.8, unit: '°C' as const }, confirmed: true };
  for (let i = 0; i < 3; i++) await capture(id, 'airTemperature', shows);
  const { proposed } = await view(id);
  await adjustBy(id, proposed!);
  await capture(id, 'airTemperature', shows);
  await close(id);
  const [t] = await touched(0.8, 'airTemperature', from);
  expect(t).toMatchObject({
    checkId: id,
    isChanged: true,
    adjustedIn: 'device',
    before: { verdict: 'adjust', convergence: 'converged' },
    after: { verdict: 'agree' },
  });
  expect(t!.adjustedBy).toBeCloseTo(0.8, 1);
  // With the truth the sensor was right, and the adjustment took it away from it.
  expect(t!.after.asLeft).toBeCloseTo(0.8, 1);
});

test('kept, it displaces the stone of whoever was last checked by it, until checked again or taken back', async () => {
  const lastGood = now;
  bench.logger.sensors[0]!.truths.airTemperature = { noise: 0.004 };
  bench.logger.channels[0]!.offsets = [];
  await checked(16);
  const codes = async () =>
    (await stationSheet(test_.db, bench.stationId, new Date(now))).findings.map((f) => f.code);
  expect(await codes()).not.toContain('reference-off');
  const keep = () =>
    keepFinding(bench.at(wait(minute)), bench.instrumentId, {
      findingId: newId(),
      quantity: 'airTemperature',
      by: 0.8,
      goodUntil: iso(lastGood),
      why: 'compared in ice',
      occurredAt: iso(now),
    });
  const { id } = await keep();
  expect(await codes()).toContain('reference-off');
  await takeFindingBack(bench.at(wait(minute)), bench.instrumentId, id, {
    findingId: newId(),
    why: 'the ice was salty',
  });
  expect(await codes()).not.toContain('reference-off');
  await keep();
  expect(await codes()).toContain('reference-off');
  wait(minute);
  await checked(16, { outOfDateReason: 'its plug was put right, 0.0 in ice' });
  expect(await codes()).not.toContain('reference-off');
});

test('whoever takes it into the hand is told, in that quantity, until it is taken back; a reason carries it', async () => {
  const shown = async () =>
    (await kit(test_.db, new Date(now))).find((i) => i.id === bench.instrumentId)!.foundOff;
  // Of the test before.
  expect(await shown()).toMatchObject([{ quantity: 'airTemperature', by: 0.8 }]);
  expect((await checkStart(test_.db, bench.stationId, new Date(now))).instruments).toContainEqual(
    expect.objectContaining({ id: bench.instrumentId, foundOff: await shown() }),
  );
  expect(await refusal(begin('temperature'))).toMatchObject({
    code: 'reference-found-off',
    field: 'outOfDateReason',
    detail: expect.stringMatching(/HX-771 was found on .* to show \+0\.80 °C/) as string,
  });
  const humid = await begin('humidity');
  await close(humid, { abandon: true, reason: 'next test' });
  const id = await begin('temperature', { outOfDateReason: 'the only one on the island' });
  expect((await view(id)).plan.outOfDateReason).toBe('the only one on the island');
  await close(id, { abandon: true, reason: 'next test' });
  const [standing] = (await instrumentPage(test_.db, bench.instrumentId, new Date(now))).findings.filter(
    (f) => !f.isTakenBack,
  );
  await takeFindingBack(bench.at(wait(minute)), bench.instrumentId, standing!.id, {
    findingId: newId(),
    why: 'calibrated on the island',
  });
  expect(await shown()).toEqual([]);
  await close(await begin('temperature'), { abandon: true, reason: 'next test' });
});

test('kept with its reason, taken back by a line of its own; what cannot be is refused', async () => {
  const keep = (more: object = {}) =>
    keepFinding(bench.at(wait(minute)), bench.instrumentId, {
      findingId: newId(),
      quantity: 'airTemperature',
      by: 0.8,
      goodUntil: iso(now - 60 * 86_400_000),
      why: 'compared in ice',
      occurredAt: iso(now),
      ...more,
    });
  expect(await refusal(keep({ by: 0 }))).toMatchObject({ code: 'not-off', field: 'by' });
  expect(await refusal(keep({ quantity: 'ph' }))).toMatchObject({
    code: 'instrument-cannot',
    field: 'quantity',
  });
  expect(await refusal(keep({ goodUntil: iso(now + minute) }))).toMatchObject({
    code: 'good-until-later',
    field: 'goodUntil',
  });
  const { id } = await keep();
  const page = () => instrumentPage(test_.db, bench.instrumentId, new Date(now));
  expect((await page()).findings[0]).toMatchObject({
    id,
    by: 0.8,
    why: 'compared in ice',
    isTakenBack: false,
  });
  const back = () =>
    takeFindingBack(bench.at(wait(minute)), bench.instrumentId, id, {
      findingId: newId(),
      why: 'the ice was salty',
    });
  await back();
  expect(await refusal(back())).toMatchObject({ code: 'taken-back-already' });
  expect((await page()).findings[0]).toMatchObject({ id, isTakenBack: true });
});
