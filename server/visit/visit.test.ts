import type { Leave } from '@/contract/visits';
import { row, rows } from '@/db/database';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { retireStation } from '../administer/changeStation';
import { addNote } from '../book/fieldBook';
import { beginOffLine, endOffLine } from '../device/offLine';
import { proposedSettings, stageSettings } from '../device/settings';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';
import { round } from '../trust/round';
import { addToChecklist, tickChecklist } from './checklist';
import { arriveAt, leaveFrom } from './comeAndGo';
import { openMatters } from './open';
import { visitView } from './visitView';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const hour = 3_600_000;
const iso = (ms: number) => new Date(ms).toISOString();
const S = () => bench.stationId;

const come = (ms: number, more: { others?: string; acknowledged?: string[] } = {}) =>
  arriveAt(bench.at(ms), S(), {
    arrivalId: newId(),
    others: '',
    acknowledged: [],
    ...more,
    occurredAt: iso(ms),
  });
const go = (ms: number, leftOpen: Leave['leftOpen'] = [], away = false) =>
  leaveFrom(bench.at(ms), S(), { departureId: newId(), leftOpen, away, occurredAt: iso(ms) });
const note = (ms: number, text: string) =>
  addNote(bench.at(ms), { lineId: newId(), stationId: S(), text, occurredAt: iso(ms) });
const visitOf = async (text: string) =>
  (await row(test_.db.fieldBook, { where: { stationId: S(), text } }))!.visitId;
const worst = async (ms: number) => {
  const { stops } = await round(test_.db, new Date(ms));
  return stops.find((s) => s.stationId === S())!.findings[0]?.text ?? '';
};

test('who comes and with whom, which hazards they acknowledged by name and which nobody did', async () => {
  await test_.arrange(`update station set cautions = '["Mains in the cabinet.", "Ladder."]' where id = $1`, [
    S(),
  ]);
  await note(present - 600_000, 'unlocked the gate');
  const { visitId } = await come(present, { others: 'OR', acknowledged: ['Mains in the cabinet.'] });
  // What was done just before belongs to the visit.
  expect(await visitOf('unlocked the gate')).toBe(visitId);
  expect(await bookTexts(test_.db, S())).toContain(
    `Arrived, with OR. ${bench.people.technician.initials} acknowledged: Mains in the cabinet. Not acknowledged: Ladder.`,
  );
  const { here, mine } = await visitView(bench.at(present + hour), S());
  expect(here).toMatchObject([{ initials: bench.people.technician.initials, others: 'OR' }]);
  expect(mine).toEqual({ openedAt: iso(present - 600_000), arrivedAt: iso(present) });
  const twice = await refusal(come(present + 60_000));
  expect(twice).toMatchObject({
    code: 'arrived-already',
    extra: { there: { says: 'arrived', from: iso(present) } },
  });
});

test('leaving with nothing open ends the visit; what comes after is another', async () => {
  expect((await go(present + hour)).open).toBe(0);
  await note(present + 2 * hour, 'back for the torch');
  expect(await visitOf('back for the torch')).not.toBe(await visitOf('unlocked the gate'));
  // What was done before leaving and heard of later belongs to the visit that was left.
  await note(present + hour / 2, 'kept on the tablet');
  expect(await visitOf('kept on the tablet')).toBe(await visitOf('unlocked the gate'));
  const { here, lastLeft } = await visitView(bench.at(present + 3 * hour), S());
  expect(here).toEqual([]);
  expect(lastLeft).toMatchObject({ at: iso(present + hour), open: [] });
});

test('whoever leaves again in the same visit is told of the first time', async () => {
  await come(present + day);
  await go(present + day + hour);
  const again = await refusal(go(present + day + hour));
  expect(again).toMatchObject({
    code: 'left-already',
    extra: { there: { from: iso(present + day + hour) } },
  });
});

test('leads off stop whoever leaves, want a reason, and are first on the Round with their age until they are on again', async () => {
  const t = present + 2 * day;
  await come(t);
  await beginOffLine(bench.at(t), S(), ids.installationId, {
    reason: 'leads off for work',
    occurredAt: iso(t),
  });
  const [leads] = await openMatters(test_.db, S());
  expect(leads).toMatchObject({ kind: 'leads-off', subject: ids.installationId, since: t });
  const stopped = await refusal(go(t + hour));
  expect(stopped).toMatchObject({ code: 'left-open', extra: { open: [leads] } });
  expect(stopped.detail).toMatch(/^Still open here: .*: leads off\.$/);
  expect((await visitView(bench.at(t + hour), S())).here).toHaveLength(1);

  await go(t + hour, [{ matter: `leads-off ${ids.installationId}`, reason: 'gland wet, to be dried' }]);
  const { initials } = bench.people.technician;
  expect(await worst(t + hour + 2 * day)).toMatch(
    new RegExp(`leads off for 2 d; left open 2 d ago by ${initials}: gland wet, to be dried$`),
  );
  expect((await round(test_.db, new Date(t + hour + 2 * day))).stops[0]!.stationId).toBe(S());
  expect((await visitView(bench.at(t + 2 * hour), S())).lastLeft!.open).toMatchObject([
    { reason: 'gland wet, to be dried' },
  ]);

  await endOffLine(bench.at(t + 3 * day), S(), ids.installationId, { occurredAt: iso(t + 3 * day) });
  expect(await worst(t + 3 * day)).not.toMatch(/left open/);
  // Off again on another day: what was said then does not explain this.
  await beginOffLine(bench.at(t + 4 * day), S(), ids.installationId, {
    reason: 'leads off for work',
    occurredAt: iso(t + 4 * day),
  });
  expect(await worst(t + 4 * day + hour)).not.toMatch(/left open|nobody said/);
  expect(await worst(t + 4 * day + 9 * hour)).toMatch(/leads off for 9 h; nobody said why$/);
});

test('whoever left where nobody could be asked is heard: what was open is noted as found afterwards', async () => {
  const t = present + 7 * day;
  await come(t);
  expect((await go(t + hour, [], true)).open).toBe(1);
  expect(await worst(t + 2 * hour)).toMatch(/left open 60 min ago by \w+, found afterwards$/);
  const left = await rows(test_.db.leftOpen, { where: { stationId: S(), reason: '' } });
  expect(left).toMatchObject([{ kind: 'leads-off', subject: ids.installationId }]);
  await endOffLine(bench.at(t + 3 * hour), S(), ids.installationId, { occurredAt: iso(t + 3 * hour) });
});

test('what began after somebody went is not what they left open', async () => {
  const t = present + 8 * day;
  await come(t);
  await beginOffLine(bench.at(t + 2 * hour), S(), ids.installationId, {
    reason: 'leads off by somebody else',
    occurredAt: iso(t + 2 * hour),
  });
  expect((await go(t + hour)).open).toBe(0);
  await endOffLine(bench.at(t + 3 * hour), S(), ids.installationId, { occurredAt: iso(t + 3 * hour) });
});

test('settings staged, a check that is open and what is to be put back are open matters', async () => {
  const t = present + 9 * day;
  const channel = (await loadStation(test_.db, S())).channels.find((c) => c.row.id === ids.temperature)!;
  await stageSettings(bench.at(t), S(), ids.temperature, {
    revisionId: newId(),
    basedOn: channel.newest,
    settings: { ...proposedSettings(channel), storageInterval: 1200 },
  });
  const fan = newId();
  await addToChecklist(bench.at(t), S(), {
    lineId: fan,
    kind: 'put-back',
    says: 'Fan output in hand',
    occurredAt: iso(t),
  });
  await addToChecklist(bench.at(t), S(), {
    lineId: newId(),
    kind: 'to-do',
    says: 'Sweep the sill',
    occurredAt: iso(t),
  });
  expect((await openMatters(test_.db, S())).map((m) => [m.kind, m.who]).sort()).toEqual([
    ['put-back', 'Fan output in hand'],
    ['settings-staged', channel.name],
  ]);
  const tick = (ms: number, done: boolean) =>
    tickChecklist(bench.at(ms), S(), {
      tickId: newId(),
      item: fan,
      says: 'Fan output in hand',
      done,
      occurredAt: iso(ms),
    });
  await tick(t + 1000, true);
  expect((await openMatters(test_.db, S())).map((m) => m.kind)).toEqual(['settings-staged']);
  expect(await refusal(tick(t + 2000, true))).toMatchObject({ code: 'ticked-already' });
  await tick(t + 3000, false);
  expect((await openMatters(test_.db, S())).map((m) => m.kind)).toContain('put-back');
  expect(await refusal(tick(t + 4000, false))).toMatchObject({ code: 'not-ticked' });
});

test('the checklist is what is due, with what people added; a tick is of its day', async () => {
  const t = present + 10 * day;
  const first = (await visitView(bench.at(t), S())).checklist;
  const due = first.find((c) => c.kind === 'due')!;
  expect(due.finding!.text).toMatch(/\S/);
  expect(first.filter((c) => c.kind !== 'due').map((c) => c.says)).toEqual([
    'Fan output in hand',
    'Sweep the sill',
  ]);
  await tickChecklist(bench.at(t), S(), {
    tickId: newId(),
    item: due.item,
    says: due.says,
    done: true,
    occurredAt: iso(t),
  });
  const ticked = async (ms: number) =>
    (await visitView(bench.at(ms), S())).checklist.find((c) => c.item === due.item)?.ticked ?? null;
  expect(await ticked(t + hour)).toMatchObject({ by: bench.people.technician.initials });
  expect(await ticked(t + 2 * day)).toBeNull();
  // Due still: it can be ticked again.
  await tickChecklist(bench.at(t + 2 * day), S(), {
    tickId: newId(),
    item: due.item,
    says: due.says,
    done: true,
    occurredAt: iso(t + 2 * day),
  });
});

test('a station that is not there has no visit', async () => {
  expect(await refusal(visitView(bench.at(), newId()))).toMatchObject({ code: 'not-found' });
  const request = { arrivalId: newId(), others: '', acknowledged: [], occurredAt: iso(present) };
  expect(await refusal(arriveAt(bench.at(), newId(), request))).toMatchObject({ code: 'not-found' });
});

test('what was done at a station that was retired before it was sent is taken', async () => {
  const t = present + 20 * day;
  await retireStation(bench.at(t + hour), S(), { retired: true, reason: 'sold' });
  await note(t + 2 * hour, 'kept while it was retired');
  await come(t + 3 * hour);
  expect(await bookTexts(test_.db, S())).toContain('kept while it was retired');
});
