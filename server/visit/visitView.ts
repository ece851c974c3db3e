import type { ChecklistItem, ChecklistKind, VisitView } from '@/contract/visits';
import { matterText, visitHours, type OpenKind } from '@/core/visit/openMatter';
import { query } from '@/db/database';
import { fieldBook } from '../book/fieldBook';
import type { Context } from '../context';
import { stationHead } from '../station/stationBasics';
import { findingsNow } from '../trust/round';
import { findingView } from '../trust/views';
import { lastTickOf, openMatters } from './open';

/** So many lines stand on the visit's page; the others in the field book. */
const mostLines = 60;

/** The visit's page: who is here, what is to be done, what is open, what happened since it began. */
export async function visitView(ctx: Context, stationId: string): Promise<VisitView> {
  const { db } = ctx;
  const now = ctx.now();
  const head = await stationHead(db, stationId);
  const [findings, open, people, added, ticks, left] = await Promise.all([
    findingsNow(db, stationId, now),
    openMatters(db, stationId),
    here(ctx, stationId),
    addedLines(ctx, stationId),
    ticksOfToday(ctx, stationId),
    lastLeft(ctx, stationId),
  ]);
  const mine = people.find((p) => p.personId === ctx.person.id) ?? null;
  const ticked = (item: string) => {
    const tick = ticks.find((t) => t.item === item);
    return tick?.done ? { by: tick.by, at: tick.at.toISOString() } : null;
  };
  const due = findings
    // What was left open is said where it can be ended.
    .filter((f) => f.code !== 'left-open')
    .map((f): ChecklistItem => {
      const item = `${f.code} ${f.subject.id}`;
      const finding = findingView(f, now.getTime());
      return {
        item,
        says: f.next,
        kind: 'due',
        finding,
        bring: [...f.bring],
        by: null,
        ticked: ticked(item),
      };
    });
  return {
    ...head,
    here: people.flatMap(({ personId, initials, arrivedAt, others }) =>
      arrivedAt ? [{ personId, initials, arrivedAt: arrivedAt.toISOString(), others }] : [],
    ),
    mine: mine && {
      openedAt: mine.openedAt.toISOString(),
      arrivedAt: mine.arrivedAt?.toISOString() ?? null,
    },
    checklist: [
      ...added.map(({ id, kind, says, by }): ChecklistItem => ({
        item: id,
        says,
        kind,
        finding: null,
        bring: [],
        by,
        ticked: ticked(id),
      })),
      ...due,
    ],
    open,
    lastLeft: left,
    lines: await fieldBook(db, {
      station: stationId,
      ...(mine && { from: mine.openedAt }),
      limit: mine ? mostLines : 12,
    }),
  };
}

interface Here {
  personId: string;
  initials: string;
  openedAt: Date;
  arrivedAt: Date | null;
  others: string;
}
/** Whoever did something here and did not leave, the latest first. */
const here = (ctx: Context, stationId: string): Promise<Here[]> =>
  query<Here>(
    ctx.db,
    `select v.opened_by as "personId", p.initials, v.opened_at as "openedAt", a.arrived_at as "arrivedAt",
            coalesce(a.others, '') as others
       from visit v join person p on p.id = v.opened_by
       left join arrival a on a.station_id = v.station_id and a.visit_id = v.id
      where v.station_id = :stationId and v.opened_at > :now::timestamptz - make_interval(hours => :visitHours)
        and v.opened_at <= :now::timestamptz
        -- Whoever left since is gone, also where something from before was heard of late.
        and not exists (select 1 from departure d where d.station_id = v.station_id and d.person_id = v.opened_by
                           and d.left_at >= v.opened_at)
      order by v.opened_at desc`,
    { stationId, now: ctx.now(), visitHours },
  );

/** Lines that people added and nobody ticked, or ticked today, in the order they were added. */
const addedLines = (ctx: Context, stationId: string) =>
  query<{ id: string; kind: ChecklistKind; says: string; by: string }>(
    ctx.db,
    `select c.id, c.kind, c.says, p.initials as by from checklist_line c join person p on p.id = c.person_id
      where c.station_id = :stationId
        and (${lastTickOf('c', 'done')} is not true or ${lastTickOf('c', 'ticked_at')} > :now::timestamptz - make_interval(hours => :visitHours))
      order by c.added_at, c.id`,
    { stationId, now: ctx.now(), visitHours },
  );

/** The last tick of each item, of a visit's time. */
const ticksOfToday = (ctx: Context, stationId: string) =>
  query<{ item: string; done: boolean; at: Date; by: string }>(
    ctx.db,
    `select distinct on (t.item) t.item, t.done, t.ticked_at as at, p.initials as by
       from checklist_tick t join person p on p.id = t.person_id
      where t.station_id = :stationId and t.ticked_at > :now::timestamptz - make_interval(hours => :visitHours)
      order by t.item, t.ticked_at desc, t.id desc`,
    { stationId, now: ctx.now(), visitHours },
  );

async function lastLeft(ctx: Context, stationId: string): Promise<VisitView['lastLeft']> {
  const [last] = await query<{ id: string; at: Date; by: string }>(
    ctx.db,
    `select d.id, d.left_at as at, p.initials as by from departure d join person p on p.id = d.person_id
      where d.station_id = :stationId order by d.left_at desc limit 1`,
    { stationId },
  );
  if (!last) return null;
  const open = await query<{ kind: OpenKind; who: string; reason: string }>(
    ctx.db,
    `select kind, who, reason from left_open where station_id = :stationId and departure_id = :id order by since`,
    { stationId, id: last.id },
  );
  return {
    at: last.at.toISOString(),
    by: last.by,
    open: open.map(({ kind, who, reason }) => ({ says: matterText({ kind, who }), reason })),
  };
}
