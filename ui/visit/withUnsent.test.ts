import type { FieldWriteBodies, FieldWriteKind } from '@/contract/fieldWrites';
import type { VisitView } from '@/contract/visits';
import type { Queued } from '../outbox/queued';
import { withUnsent } from './withUnsent';

const stationId = 's1';
const me = { id: 'p1', initials: 'IK' };
let seq = 0;
const kept = <K extends FieldWriteKind>(
  kind: K,
  body: Partial<FieldWriteBodies[K]>,
  more: Partial<Queued> = {},
): Queued =>
  ({
    seq: ++seq,
    kind,
    stationId,
    params: { stationId, installationId: 'i1' },
    body: { occurredAt: `2026-11-27T09:0${seq % 10}:00.000Z`, ...body },
    where: 'TH3-1031',
    person: me,
    state: 'waits',
    ...more,
  }) as unknown as Queued;
const view: VisitView = {
  stationId,
  code: 'ARCH-2',
  name: 'Map store',
  site: 'Lantern Archive',
  zone: 'utc',
  cautions: [],
  here: [],
  mine: null,
  checklist: [],
  open: [],
  lastLeft: null,
  lines: [],
};

test('arriving and leaving, before either was sent', () => {
  const arrived = withUnsent(view, [kept('arrive', { others: 'OR' })]);
  expect(arrived.mine?.arrivedAt).toBe(arrived.here[0]!.arrivedAt);
  expect(arrived.here).toMatchObject([{ initials: 'IK', others: 'OR' }]);
  const left = withUnsent(arrived, [kept('leave', {})]);
  expect([left.mine, left.here]).toEqual([null, []]);
});

test('any act begins a visit', () =>
  expect(withUnsent(view, [kept('note', { text: 'here' })]).mine).toMatchObject({ arrivedAt: null }));

test('leads off are open until they are on again; once only, however often they were said', () => {
  const off = withUnsent(view, [kept('offLineBegin', {}), kept('offLineBegin', {})]);
  expect(off.open).toMatchObject([{ kind: 'leads-off', subject: 'i1', who: 'TH3-1031' }]);
  expect(withUnsent(off, [kept('offLineEnd', {})]).open).toEqual([]);
});

test('what is to be put back is open until it is ticked, and again when the tick is taken back', () => {
  const added = withUnsent(view, [
    kept('checklistAdd', { lineId: 'l1', kind: 'put-back', says: 'fan in hand' }),
  ]);
  expect(added.open).toMatchObject([{ kind: 'put-back', subject: 'l1', who: 'fan in hand' }]);
  const ticked = withUnsent(added, [kept('checklistTick', { item: 'l1', done: true })]);
  expect(ticked.open).toEqual([]);
  expect(ticked.checklist[0]!.ticked).toMatchObject({ by: 'IK' });
  const again = withUnsent(ticked, [kept('checklistTick', { item: 'l1', done: false })]);
  expect(again.open).toHaveLength(1);
  expect(again.checklist[0]!.ticked).toBeNull();
});

test('what was refused, and what belongs to another station, changes nothing', () =>
  expect(
    withUnsent(view, [
      kept('arrive', { others: '' }, { state: 'refused' }),
      kept('offLineBegin', {}, { stationId: 's2' }),
    ]),
  ).toEqual(view));
