import type { HandOver } from '@/contract/fieldBookPage';
import { matterKey, matterText, openKinds } from '@/core/visit/openMatter';
import { query } from '@/db/database';
import { fieldBook, linesOfVisits } from '../book/fieldBook';
import type { Context } from '../context';
import { stationHead } from '../station/stationBasics';
import { findingsNow } from '../trust/round';
import { findingView } from '../trust/views';
import { lastTickOf, openFacts } from './open';

/** So many lines since the last visit are shown. */
const mostLines = 60;

/** One page for whoever comes next: what the last visit did, what happened since, what is open, what to bring. */
export async function handOver(ctx: Context, stationId: string): Promise<HandOver> {
  const { db } = ctx;
  const now = ctx.now().getTime();
  const head = await stationHead(db, stationId);
  const [last] = await query<{ visitId: string; from: Date; until: Date; by: string }>(
    db,
    // A visit is one that somebody arrived for or left from; without any, the last time anything was done here.
    `select v.id as "visitId", v.opened_at as "from", p.initials as by,
            coalesce(v.closed_at, (select max(f.occurred_at) from field_book_line f
                                    where f.station_id = v.station_id and f.visit_id = v.id), v.opened_at) as "until"
       from visit v join person p on p.id = v.opened_by
       left join arrival a on a.station_id = v.station_id and a.visit_id = v.id
       left join departure d on d.station_id = v.station_id and d.visit_id = v.id
      where v.station_id = :stationId
      order by (a.id is not null or d.id is not null) desc, v.opened_at desc, v.id desc limit 1`,
    { stationId },
  );
  const [lines, since, open, due, toDo] = await Promise.all([
    last ? linesOfVisits(db, stationId, [last.visitId]) : [],
    last
      ? fieldBook(db, { station: stationId, from: new Date(last.until.getTime() + 1), limit: mostLines })
      : [],
    openFacts(db, stationId),
    findingsNow(db, stationId, ctx.now()),
    query<{ says: string }>(
      db,
      `select c.says from checklist_line c
        where c.station_id = :stationId and c.kind = 'to-do'
          and not coalesce(${lastTickOf('c', 'done')}, false)
        order by c.added_at`,
      { stationId },
    ),
  ]);
  const other = due.filter((f) => f.code !== 'left-open');
  return {
    ...head,
    last: last ? { ...last, from: last.from.toISOString(), until: last.until.toISOString(), lines } : null,
    since: since.filter((l) => l.visitId !== last?.visitId).reverse(),
    open: open.map((m) => ({
      key: matterKey(m),
      says: matterText(m),
      since: new Date(m.since).toISOString(),
      next: openKinds[m.kind].next,
      reason: m.left?.reason ?? '',
    })),
    due: other.map((f) => ({ says: findingView(f, now).text, next: f.next })),
    bring: [...new Set(other.flatMap((f) => f.bring))],
    toDo: toDo.map((t) => t.says),
  };
}
