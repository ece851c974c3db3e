import type { SetTwin } from '@/contract/verifyRequests';
import { row } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { badField } from '../problem';
import { channelOf, loadStation } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Says which channel should agree with this one, within what; or that none does. */
export async function setTwin(ctx: Context, stationId: string, channelId: string, request: SetTwin) {
  const channel = channelOf(await loadStation(ctx.db, stationId), channelId);
  const { other } = request;
  const twin = other && channelOf(await loadStation(ctx.db, other.stationId), other.channelId);
  if (twin?.row.id === channelId)
    throw badField(
      'own-twin',
      'other',
      channelId,
      'A channel is no twin of itself.',
      'Choose another channel.',
    );
  if (twin && twin.row.quantity !== channel.row.quantity)
    throw badField(
      'wrong-quantity',
      'other',
      twin.row.quantity,
      `${twin.name} carries another quantity.`,
      'A twin measures the same.',
    );
  await atStation(ctx, stationId, async (tx) => {
    const now = await row(ctx.db.twin, { where: { stationId, channelId, endedAt: null }, transaction: tx });
    const asAsked = twin
      ? now?.otherChannelId === twin.row.id && now.tolerance === request.tolerance
      : now === null;
    if (asAsked) return;
    await ctx.db.twin.update(
      { endedAt: ctx.now() },
      { where: { stationId, channelId, endedAt: null }, transaction: tx },
    );
    if (twin)
      await ctx.db.twin.create(
        {
          stationId,
          id: request.twinId,
          channelId,
          otherStationId: twin.row.stationId,
          otherChannelId: twin.row.id,
          tolerance: request.tolerance,
          personId: ctx.person.id,
          setAt: ctx.now(),
        },
        { transaction: tx },
      );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'verify',
      text: twin
        ? `${channel.name} should agree with ${twin.name} within ±${request.tolerance}`
        : `${channel.name} has no twin any more`,
      action: 'twin.set',
      subject: { channelId, other },
    });
  });
  return { twin: twin?.row.id ?? null };
}
