import { row, rows } from '@/db/database';
import { findingsOf } from '@/core/trust/findings';
import { obey } from '@/simulator/lab';
import { bookTexts, refusal } from '@/test/bench';
import { onHungStation } from '@/test/hungStation';
import type { OnStation } from '@/test/onStation';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';
import { talk } from '../device/talk';
import { gatherFacts } from '../trust/facts';
import { consoleView } from './consoleView';
import { partInUse } from '../check/partInUse';
import { practise, practiceView } from '../practice/stand';
import { changePart } from './part';
import { beginLineSession } from './session';

/** A new cap for the oxygen of a sonde: its coefficients told over the line, what was there kept. */
let hatchery: OnStation;
onHungStation('HATCH-1', 30, (made) => (hatchery = made));
let sessionId = '';
const sonde = async () => (await loadStation(hatchery.test_.db, hatchery.stationId)).installations[0]!;
const label = [1.5, 0.02, 0.01, -0.002];
const tell = async (coefficients: number[], serial = 'CAP-0091', actionId = newId()) =>
  changePart(hatchery.at(), hatchery.stationId, sessionId, {
    actionId,
    installationId: (await sonde()).row.id,
    serial,
    coefficients,
  });
const oxygen = async () => {
  const said = await talk(hatchery.at(), hatchery.stationId, {
    actionId: newId(),
    installationId: (await sonde()).row.id,
  });
  return said.decoded.find((d) => d.output === 'dissolvedOxygen')!.value!;
};

test('the line has to be held, the label read rightly', async () => {
  sessionId = newId();
  expect(await refusal(tell(label))).toMatchObject({ code: 'not-found' });
  await beginLineSession(hatchery.at(), hatchery.stationId, {
    sessionId,
    actionId: newId(),
    portId: hatchery.portId!,
    master: 'held',
    outputsInHand: false,
    minutes: 30,
  });
  expect(await refusal(tell([15, 0.02, 0.01, -0.002]))).toMatchObject({
    code: 'coefficient-unfit',
    field: 'coefficients.0',
    value: 15,
    detail: 'C0 is 0.5 to 2, not 15.',
  });
  expect(await refusal(tell([1.5, 0.02]))).toMatchObject({ detail: 'its label has 4 coefficients, not 2.' });
});

test('another cap with the old coefficients is wrong by their ratio; told, it is right, and what was there is kept', async () => {
  const before = await oxygen();
  const { serial } = (await sonde()).sensor;
  obey(hatchery.stand.state, { sensor: { serial, newPart: label } });
  // As delivered C0 was 1.25: 1.25 ÷ 1.5.
  expect((await oxygen()) / before).toBeCloseTo(1.25 / 1.5, 2);
  expect(await tell(label)).toMatchObject({ state: 'done', says: 'read back equal' });
  expect(await oxygen()).toBeCloseTo(before, 1);
  const kept = await row(hatchery.test_.db.partChange, { where: { stationId: hatchery.stationId } });
  expect(kept).toMatchObject({ part: 'oxygen cap', serial: 'CAP-0091', coefficients: label });
  expect(kept!.previous![0]).toBe(1.25);
  expect((await bookTexts(hatchery.test_.db, hatchery.stationId)).at(-2)).toMatch(
    /oxygen cap CAP-0091 of .*: C0 1.25 → 1.5, C1 0 → 0.02/,
  );
  const { lines } = await consoleView(hatchery.test_.db, hatchery.stationId, hatchery.at().now());
  expect(lines[0]!.devices[0]!.part).toMatchObject({ name: 'oxygen cap', last: { serial: 'CAP-0091' } });
});

test('it kept them: after power-off they are there; the same order twice is one change', async () => {
  const { serial } = (await sonde()).sensor;
  obey(hatchery.stand.state, { sensor: { serial, powerCycle: true } });
  const actionId = newId();
  const [first, second] = [await tell(label, 'CAP-0092', actionId), await tell(label, 'CAP-0092', actionId)];
  expect([first.state, second.state]).toEqual(['done', 'done']);
  const all = await rows(hatchery.test_.db.partChange, { where: { stationId: hatchery.stationId } });
  expect(all.filter((p) => p.serial === 'CAP-0092')).toHaveLength(1);
  expect(all.find((p) => p.serial === 'CAP-0092')!.previous![0]).toBe(1.5);
});

test('a check counts its age from the newest; what it does not bear on has no part that wears', async () => {
  const { db } = hatchery.test_;
  const { channels } = await loadStation(db, hatchery.stationId);
  const of = (quantity: string) => channels.find((c) => c.row.quantity === quantity)!;
  const all = await rows(db.partChange, { where: { stationId: hatchery.stationId } });
  expect(await partInUse(db, of('dissolvedOxygen'))).toEqual({
    name: 'oxygen cap',
    since: Math.max(...all.map((p) => p.changedAt.getTime())) / 1000,
    goodFor: 365,
  });
  expect(await partInUse(db, of('ph'))).toBeNull();
});

test('its checks from before prove it no more', async () => {
  const { facts } = await gatherFacts(
    hatchery.test_.db,
    await loadStation(hatchery.test_.db, hatchery.stationId),
  );
  const oxygenChannel = facts.channels.find((c) => c.quantity === 'dissolvedOxygen')!;
  expect(oxygenChannel.reference.part).toMatchObject({ name: 'oxygen cap' });
  expect(facts.channels.find((c) => c.quantity === 'ph')!.reference.part).toBeNull();
  const checked = {
    ...oxygenChannel.reference,
    last: { at: 0, difference: 0.1, limit: 0.5, outcome: 'agree' as const },
  };
  const found = findingsOf({ ...facts, channels: [{ ...oxygenChannel, reference: checked }] });
  expect(found.map((f) => f.code)).toContain('part-changed');
});

test('on the practice stand another one is put in, and its label can be read', async () => {
  process.env.PRACTICE_STAND = `127.0.0.1:${hatchery.logger.ownPort - 1}`;
  try {
    const { serial } = (await sonde()).sensor;
    await practise(hatchery.at(), { serial, fault: 'part' });
    const shown = (await practiceView(hatchery.at())).lines[0]!.sensors.find((s) => s.serial === serial)!;
    expect(shown.label).toEqual([1.4, 0.04, 0.03, 0.002]);
    expect(await tell([...shown.label!], 'CAP-0093')).toMatchObject({ state: 'done' });
  } finally {
    delete process.env.PRACTICE_STAND;
  }
});
