import type { Arrive, Leave } from '@/contract/visits';
import { matterKey, matterText } from '@/core/visit/openMatter';
import { row } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import { visitAt } from '../book/visit';
import type { Context } from '../context';
import { conflictWith, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { openMatters } from './open';

/** Somebody comes to a station: their visit begins, or what they did just before joins it. */
export async function arriveAt(
  ctx: Context,
  stationId: string,
  request: Arrive,
): Promise<{ visitId: string }> {
  const station = await row(ctx.db.station, { where: { id: stationId } });
  if (!station) throw notFound('station', stationId);
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const visitId = await visitAt(ctx, tx, stationId, at);
    const before = await row(ctx.db.arrival, { where: { stationId, visitId }, transaction: tx });
    if (before)
      throw inTheWay(
        'arrived-already',
        'You are said to be here already.',
        'Leave first, or leave this arrival out.',
        conflictWith(ctx.person.initials, 'arrived', before.arrivedAt),
      );
    await ctx.db.arrival.create(
      {
        id: request.arrivalId,
        stationId,
        visitId,
        arrivedAt: at,
        personId: ctx.person.id,
        others: request.others,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    for (const [i, caution] of request.acknowledged.entries())
      await ctx.db.hazardAcknowledged.create(
        { stationId, arrivalId: request.arrivalId, number: i + 1, caution },
        { transaction: tx },
      );
    const known = new Set(request.acknowledged);
    const unsaid = (station.cautions as readonly string[]).filter((c) => !known.has(c));
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'visit',
      text: [
        `Arrived${request.others ? `, with ${request.others}` : ''}.`,
        request.acknowledged.length > 0 &&
          `${ctx.person.initials} acknowledged: ${request.acknowledged.join(' ')}`,
        unsaid.length > 0 && `Not acknowledged: ${unsaid.join(' ')}`,
      ]
        .filter(Boolean)
        .join(' '),
      action: 'visit.arrive',
      subject: { visitId },
    });
    return { visitId };
  });
}

/**
 * Somebody goes: their visit ends. What is open stops them softly, until they say of each why it stays so;
 * where they could not be asked it is noted as found afterwards.
 */
export async function leaveFrom(ctx: Context, stationId: string, request: Leave): Promise<{ open: number }> {
  if (!(await row(ctx.db.station, { where: { id: stationId } }))) throw notFound('station', stationId);
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const reasons = new Map(request.leftOpen.map((l) => [l.matter, l.reason]));
    const open = (await openMatters(ctx.db, stationId, tx)).filter((m) => m.since <= at.getTime());
    const unsaid = open.filter((m) => !reasons.has(matterKey(m)));
    if (unsaid.length > 0 && !request.away)
      throw inTheWay(
        'left-open',
        `Still open here: ${unsaid.map(matterText).join('; ')}.`,
        'See to it, or say why it stays open.',
        { open: unsaid },
      );
    const visitId = await visitAt(ctx, tx, stationId, at);
    const before = await row(ctx.db.departure, { where: { stationId, visitId }, transaction: tx });
    if (before)
      throw inTheWay(
        'left-already',
        'You are said to have left already.',
        'Leave this one out, or correct its time.',
        conflictWith(ctx.person.initials, 'left', before.leftAt),
      );
    const left = open.map((m) => ({ ...m, reason: reasons.get(matterKey(m)) ?? '' }));
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'visit',
      text: left.length
        ? `Left. Stays open: ${left.map((m) => `${matterText(m)} (${m.reason || 'found afterwards'})`).join('; ')}`
        : 'Left. Nothing stays open.',
      action: 'visit.leave',
      subject: { visitId, open: left.map(matterKey) },
    });
    await ctx.db.departure.create(
      {
        id: request.departureId,
        stationId,
        visitId,
        leftAt: at,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    for (const { kind, subject, who, since, reason } of left)
      await ctx.db.leftOpen.create(
        { stationId, departureId: request.departureId, kind, subject, who, since: new Date(since), reason },
        { transaction: tx },
      );
    await ctx.db.visit.update({ closedAt: at }, { where: { stationId, id: visitId }, transaction: tx });
    return { open: left.length };
  });
}
