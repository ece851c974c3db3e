import { checklistWords, type AddToChecklist, type TickChecklist } from '@/contract/visits';
import { query, row } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { isId } from '../id';
import { conflictWith, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';

/** Adds a line to the checklist of a station. */
export async function addToChecklist(
  ctx: Context,
  stationId: string,
  request: AddToChecklist,
): Promise<{ id: string }> {
  if (!(await row(ctx.db.station, { where: { id: stationId } }))) throw notFound('station', stationId);
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const { lineId, kind, says } = request;
    if (await row(ctx.db.checklistLine, { where: { stationId, id: lineId }, transaction: tx }))
      throw inTheWay('already-there', 'This line is on the checklist already.', 'Add it as a new one.');
    await ctx.db.checklistLine.create(
      { id: lineId, stationId, kind, says, addedAt: at, personId: ctx.person.id, recordedAt: ctx.now() },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'checklist',
      text: `${checklistWords[kind]}: ${says}`,
      action: 'checklist.add',
      subject: { lineId },
    });
    return { id: lineId };
  });
}

/** Ticks something off the checklist, or takes the tick back. */
export async function tickChecklist(
  ctx: Context,
  stationId: string,
  { tickId, item, says, done, occurredAt }: TickChecklist,
): Promise<{ done: boolean }> {
  if (!(await row(ctx.db.station, { where: { id: stationId } }))) throw notFound('station', stationId);
  const at = personTime(ctx, occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const [last] = await query<{ done: boolean; at: Date; by: string }>(
      ctx.db,
      `select t.done, t.ticked_at as at, p.initials as by from checklist_tick t join person p on p.id = t.person_id
        where t.station_id = :stationId and t.item = :item and t.ticked_at >= :since
        order by t.ticked_at desc, t.id desc limit 1`,
      // What is due may be due again: its tick is of its day. What somebody added is done once.
      { stationId, item, since: isId(item) ? new Date(0) : new Date(at.getTime() - 86_400_000) },
      tx,
    );
    if ((last?.done ?? false) === done)
      throw inTheWay(
        done ? 'ticked-already' : 'not-ticked',
        done ? 'It is ticked already.' : 'It is not ticked.',
        'Nothing needs to be done.',
        last && conflictWith(last.by, 'ticked', last.at),
      );
    await ctx.db.checklistTick.create(
      {
        id: tickId,
        stationId,
        item,
        says,
        done,
        tickedAt: at,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'checklist',
      text: `${done ? 'Done' : 'Tick taken back'}: ${says}`,
      action: 'checklist.tick',
      subject: { item, done },
    });
    return { done };
  });
}
