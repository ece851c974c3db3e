import type { FieldWriteBodies } from '@/contract/fieldWrites';
import type { ChecklistItem, VisitView } from '@/contract/visits';
import { matterKey, type OpenMatter } from '@/core/visit/openMatter';
import type { Queued } from '../outbox/queued';

/**
 * A visit as it is once what this device keeps was sent: who is here, what is ticked, what is open. What was
 * refused changes nothing.
 */
export const withUnsent = (view: VisitView, items: readonly Queued[]): VisitView =>
  items
    .filter((i) => i.stationId === view.stationId && i.state === 'waits')
    .reduce((v, item) => done(v, item), view);

function done(view: VisitView, item: Queued): VisitView {
  const { person, kind } = item;
  const { occurredAt } = item.body as { occurredAt: string };
  const begun = view.mine ?? { openedAt: occurredAt, arrivedAt: null };
  switch (kind) {
    case 'arrive': {
      const { others } = item.body as FieldWriteBodies['arrive'];
      const one = { personId: person.id, initials: person.initials, arrivedAt: occurredAt, others };
      return {
        ...view,
        mine: { ...begun, arrivedAt: occurredAt },
        here: [...view.here.filter((h) => h.personId !== person.id), one],
      };
    }
    case 'leave':
      return { ...view, mine: null, here: view.here.filter((h) => h.personId !== person.id) };
    case 'checklistAdd': {
      const { lineId, kind: of, says } = item.body as FieldWriteBodies['checklistAdd'];
      const line: ChecklistItem = {
        item: lineId,
        says,
        kind: of,
        finding: null,
        bring: [],
        by: person.initials,
        ticked: null,
      };
      const matter = putBack(line, occurredAt);
      return {
        ...view,
        mine: begun,
        checklist: [...view.checklist, line],
        open: of === 'put-back' ? [...view.open, matter] : view.open,
      };
    }
    case 'checklistTick': {
      const { item: of, done: isDone } = item.body as FieldWriteBodies['checklistTick'];
      const ticked = isDone ? { by: person.initials, at: occurredAt } : null;
      const line = view.checklist.find((c) => c.item === of);
      const others = view.open.filter((m) => !(m.kind === 'put-back' && m.subject === of));
      return {
        ...view,
        mine: begun,
        checklist: view.checklist.map((c) => (c.item === of ? { ...c, ticked } : c)),
        open: !isDone && line?.kind === 'put-back' ? [...others, putBack(line, occurredAt)] : others,
      };
    }
    case 'offLineBegin': {
      const matter: OpenMatter = {
        kind: 'leads-off',
        subject: item.params.installationId ?? '',
        who: item.where,
        since: Date.parse(occurredAt),
      };
      const others = view.open.filter((m) => matterKey(m) !== matterKey(matter));
      return { ...view, mine: begun, open: [...others, matter] };
    }
    case 'offLineEnd':
      return {
        ...view,
        mine: begun,
        open: view.open.filter((m) => !(m.kind === 'leads-off' && m.subject === item.params.installationId)),
      };
    default:
      return { ...view, mine: begun };
  }
}

const putBack = ({ item, says }: ChecklistItem, at: string): OpenMatter => ({
  kind: 'put-back',
  subject: item,
  who: says,
  since: Date.parse(at),
});
