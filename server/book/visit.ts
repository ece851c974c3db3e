import type { Transaction } from 'sequelize';
import { visitHours } from '@/core/visit/openMatter';
import { query, row } from '@/db/database';
import type { Context } from '../context';
import { newId } from '../id';

/** A visit is what one person does at a station within so long. */
const longest = visitHours * 3_600_000;

interface Found {
  readonly id: string;
  readonly openedAt: Date;
  readonly closedAt: Date | null;
}

/**
 * The person's visit at a station that an act of that instant belongs to, and opens one where there is none.
 * What was done days ago without a signal joins the visit of that day, not the one that is open now.
 */
export async function visitAt(ctx: Context, tx: Transaction, stationId: string, at: Date): Promise<string> {
  const person = { stationId, personId: ctx.person.id };
  const [near] = await query<Found>(
    ctx.db,
    `select id, opened_at as "openedAt", closed_at as "closedAt" from visit
      where station_id = :stationId and opened_by = :personId
        and opened_at between :at::timestamptz - make_interval(hours => :visitHours)
                          and :at::timestamptz + make_interval(hours => :visitHours)
        -- Whoever left is gone, and whoever arrived was not there before.
        and not exists (select 1 from departure d where d.station_id = visit.station_id and d.visit_id = visit.id
                           and d.left_at < :at)
        and not exists (select 1 from arrival a where a.station_id = visit.station_id and a.visit_id = visit.id
                           and visit.opened_at > :at)
      order by abs(extract(epoch from opened_at - :at::timestamptz)), opened_at desc, id desc limit 1 for update`,
    { ...person, at, visitHours },
    tx,
  );
  const change = (id: string, to: Partial<Found>) =>
    ctx.db.visit.update(to, { where: { stationId, id }, transaction: tx });
  if (near && within(near, at)) {
    if (at < near.openedAt) await change(near.id, { openedAt: at });
    else if (near.closedAt && near.closedAt < at) await change(near.id, { closedAt: at });
    return near.id;
  }
  const open = await row(ctx.db.visit, {
    where: { stationId, openedBy: ctx.person.id, closedAt: null },
    transaction: tx,
    lock: tx.LOCK.UPDATE,
  });
  const isLatest = !open || open.openedAt < at;
  if (open && isLatest) await change(open.id, { closedAt: await lastLine(ctx, tx, stationId, open) });
  const later = isLatest && (await hasLater(ctx, tx, stationId, at));
  const id = newId();
  await ctx.db.visit.create(
    { id, stationId, openedAt: at, openedBy: ctx.person.id, closedAt: isLatest && !later ? null : at },
    { transaction: tx },
  );
  return id;
}

/** Whether a visit may hold an act of that instant and still be no longer than one. */
const within = ({ openedAt, closedAt }: Found, at: Date): boolean =>
  Math.max(+at, +(closedAt && +closedAt - +openedAt < longest ? closedAt : openedAt)) -
    Math.min(+at, +openedAt) <
  longest;

async function lastLine(ctx: Context, tx: Transaction, stationId: string, visit: Found): Promise<Date> {
  const [found] = await query<{ last: Date | null }>(
    ctx.db,
    'select max(occurred_at) as last from field_book_line where station_id = :stationId and visit_id = :id',
    { stationId, id: visit.id },
    tx,
  );
  return found?.last ?? visit.openedAt;
}

async function hasLater(ctx: Context, tx: Transaction, stationId: string, at: Date): Promise<boolean> {
  const found = await query(
    ctx.db,
    `select 1 as x from visit where station_id = :stationId and opened_by = :personId and opened_at > :at limit 1`,
    { stationId, personId: ctx.person.id, at },
    tx,
  );
  return found.length > 0;
}
