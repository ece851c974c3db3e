import { noCare } from '@/core/kit/care';
import { refusal } from '@/test/bench';
import { begin, bench, capture, close, iso, minute, now, onChecks, test_, view, wait } from '@/test/onChecks';
import { addInstrument } from './kit';
import type { CalibrationRequest } from '@/contract/instruments';
import { newId } from '../id';
import { keepCalibration, keepCare, keepCrossCheck } from './calibration';
import { keepFinding } from './foundOff';
import { instrumentPage } from './instrumentPage';

/** An instrument over the years: what a certificate, its care and another beside it change about its checks. */
onChecks();

const day = 86_400_000;
const page = () => instrumentPage(test_.db, bench.instrumentId, new Date(now));
const calibrate = (daysAgo: number, more: Partial<CalibrationRequest> = {}) =>
  keepCalibration(bench.at(now), bench.instrumentId, {
    calibrationId: newId(),
    doneOn: iso(now - daysAgo * day),
    dueOn: iso(now + 300 * day),
    certificate: 'Laboratory of the isles, no. 44',
    says: [],
    ...more,
  });
const warm = (correction: number) => [
  {
    quantity: 'airTemperature' as const,
    points: [
      { shown: 0, correction: 0 },
      { shown: 32, correction: 2 * correction },
    ],
    uncertainty: 0.05,
    drift: 0.05,
  },
];
/** Three readings of a sensor at 16 °C beside a display that shows so much. */
async function beside(shows: number): Promise<string> {
  const id = await begin('temperature', { school: 'gum' });
  for (let i = 0; i < 3; i++)
    await capture(id, 'airTemperature', { reference: { value: shows, unit: '°C' }, confirmed: true });
  return id;
}

test('calibrated anew it is in date again, and what was found off of it before is over', async () => {
  await keepFinding(bench.at(wait(minute)), bench.instrumentId, {
    findingId: newId(),
    quantity: 'humidity',
    by: 3,
    goodUntil: iso(now - 20 * day),
    why: 'over salt',
    occurredAt: iso(now - 2 * day),
  });
  expect((await page()).instrument.foundOff).toHaveLength(1);
  await calibrate(1);
  const { instrument, calibrations } = await page();
  expect(instrument).toMatchObject({
    calibratedOn: iso(now - day).slice(0, 10),
    dueOn: iso(now + 300 * day).slice(0, 10),
    foundOff: [],
    certified: [],
  });
  expect(calibrations.map((c) => c.certificate)).toEqual(['Laboratory of the isles, no. 44']);
  // One that is typed in later, of an earlier day, moves nothing.
  await calibrate(200, { dueOn: iso(now - 10 * day), certificate: 'no. 12' });
  expect((await page()).instrument.calibratedOn).toBe(iso(now - day).slice(0, 10));
});

test('its corrections put right what it shows, in checks begun from then on', async () => {
  const before = await beside(15.5);
  expect((await view(before)).asFound).toBeCloseTo(0.5, 1);
  await calibrate(0, { says: warm(0.5) });
  // The one that is open was planned without.
  expect((await view(before)).asFound).toBeCloseTo(0.5, 1);
  await close(before);
  const after = await beside(15.5);
  const v = await view(after);
  // 15.5 shown is 15.5 + 0.5 · 15.5/16 = 15.98.
  expect(v.asFound).toBeCloseTo(0.02, 1);
  expect(v.verdict).toEqual({ kind: 'agree' });
  expect(v.readings[0]!.references[0]!.value).toBe(15.5);
  expect(v.readings[0]!.compared).toMatchObject({ how: '+0.48 by its certificate' });
  expect(v.plan).toMatchObject({ referenceTolerance: 0.1, certificate: { uncertainty: 0.05 } });
  await close(after);
  const says = (await page()).calibrations.find((c) => c.says.length > 0)!.says;
  expect(says[0]).toMatchObject({ quantity: 'airTemperature', moved: null });
});

test('a humidity is brought together with the thermometer as its certificate puts it right', async () => {
  const id = await begin('humidity', { school: 'gum' });
  const { plan } = await view(id);
  expect(plan.companions.find((c) => c.key === 'referenceTemperature')).toMatchObject({
    tolerance: 0.1,
    certificate: { uncertainty: 0.05 },
  });
  await close(id, { abandon: true, reason: 'looked only' });
});

test('a reference of 30 s is waited for 150 s, unless its display is said to stand still', async () => {
  const { careId } = await page();
  await keepCare(bench.at(now), bench.instrumentId, {
    careId: newId(),
    basedOn: careId,
    care: {
      ...noCare,
      switchesOffAfter: 120,
      preparation: ['cap off', 'swing it'],
      responses: [{ quantity: 'airTemperature', seconds: 30 }],
      parts: [{ name: 'filter', renewedOn: iso(now - 400 * day).slice(0, 10), goodFor: 365 }],
    },
  });
  const id = await begin('temperature', { repeats: 1 });
  await capture(id, 'airTemperature');
  const first = await view(id);
  expect(first.readings[0]!.reference).toEqual({ state: 'waiting', waited: 120, needed: 150 });
  expect(first.verdict).toEqual({ kind: 'not-settled', why: 'reference-moving' });
  expect(first.instrument!.care).toMatchObject({
    preparation: ['cap off', 'swing it'],
    parts: [{ renewedOn: iso(now - 400 * day).slice(0, 10) }],
  });
  await capture(id, 'airTemperature');
  expect((await view(id)).readings[1]!.reference).toEqual({ state: 'waited', waited: 240, needed: 150 });
  await close(id, { abandon: true, reason: 'next' });
  const said = await begin('temperature', { repeats: 1 });
  await capture(said, 'airTemperature', { referenceStoodStill: true });
  expect((await view(said)).readings[0]!.reference).toEqual({ state: 'said' });
  const watched = Array.from({ length: 40 }, (_, i) => ({ t: now / 1000 - 80 + 2 * i, value: 16 }));
  await capture(said, 'airTemperature', { referenceWatched: watched });
  expect((await view(said)).readings[1]!.reference).toEqual({ state: 'settled' });
  // Put elsewhere a minute ago: its own readings from before count no more.
  await capture(said, 'airTemperature', { referenceWatched: watched, placedAt: now / 1000 + 60 });
  expect((await view(said)).readings[2]!.reference).toMatchObject({ state: 'waiting', waited: 60 });
  await close(said, { abandon: true, reason: 'next' });
});

test('two instruments side by side: seen from both, with the sign turned', async () => {
  const otherId = newId();
  await addInstrument(bench.at(now), {
    instrumentId: otherId,
    name: 'Second handheld',
    model: 'H',
    serial: `S-${otherId.slice(-6)}`,
    calibratedOn: iso(now - 30 * day),
    dueOn: iso(now + 300 * day),
    quantities: [{ quantity: 'airTemperature', tolerance: 0.2, resolution: 0.1, low: -20, high: 60 }],
  });
  const compare = (pairs: { one: number; other: number }[]) =>
    keepCrossCheck(bench.at(wait(minute)), bench.instrumentId, {
      crossCheckId: newId(),
      otherId,
      quantity: 'airTemperature',
      pairs,
      place: 'stirred bath',
      occurredAt: iso(now),
    });
  // Its certificate, from above, adds 0.61 °C to 19.4, 0.66 °C to 21: with that it shows what the other does.
  await compare([
    { one: 19.4, other: 20 },
    { one: 19.4, other: 20 },
  ]);
  await compare([
    { one: 21, other: 20 },
    { one: 21.1, other: 20 },
  ]);
  const own = await page();
  expect(own.crossChecks.map((c) => [c.difference.toFixed(2), c.agrees])).toEqual([
    ['1.71', false],
    ['0.01', true],
  ]);
  expect(own.crossChecks.map((c) => c.isPutRight)).toEqual([true, true]);
  const other = await instrumentPage(test_.db, otherId, new Date(now));
  expect(other.crossChecks.map((c) => c.difference.toFixed(2))).toEqual(['-1.71', '-0.01']);
  expect(other.crossChecks[0]!.other.id).toBe(bench.instrumentId);
  expect(own.others.map((o) => o.id)).toContain(otherId);
  expect(await refusal(compare([{ one: 20, other: 200 }]))).toMatchObject({
    code: 'outside-range',
    field: 'pairs.0.other',
    value: 200,
  });
});

test('what cannot stand on a certificate is refused with its field, and nothing is kept', async () => {
  const before = (await page()).calibrations.length;
  const refused = (more: Partial<CalibrationRequest>) => refusal(calibrate(0.5, more));
  expect(await refused({ dueOn: iso(now - 40 * day) })).toMatchObject({ code: 'due-before-calibration' });
  expect(await refused({ doneOn: iso(now + 2 * day) })).toMatchObject({ code: 'calibrated-in-future' });
  expect(await refused({ says: [{ ...warm(0)[0]!, quantity: 'ph' }] })).toMatchObject({
    code: 'instrument-cannot',
    field: 'says.0.quantity',
  });
  expect(await refused({ doneOn: iso(now - 3 * day), says: warm(8) })).toMatchObject({
    code: 'certificate-faulty',
    field: 'says.0.points.1.correction',
    value: 16,
  });
  expect((await page()).calibrations).toHaveLength(before);
  expect(
    await refusal(
      keepCare(bench.at(now), bench.instrumentId, { careId: newId(), basedOn: null, care: noCare }),
    ),
  ).toMatchObject({ code: 'changed-meanwhile' });
});
