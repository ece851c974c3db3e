import type { ApproveSpan, MarkSpan, RevokeLayer } from '@/contract/verifyRequests';
import { flagWord } from '@/core/quality/flag';
import { query } from '@/db/database';
import { requirePermission } from '../account/permission';
import { requireRecordAtRest } from '../station/atStation';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { channelOf, loadStation } from '../station/stationGraph';
import { approvals } from './approval';
import { activeLayers, layerView, layLayer } from './layers';
import { recordSpan } from './span';

/** Marks a span by hand: suspect, or failed, with the reason a person gives. */
export const markSpan = (ctx: Context, stationId: string, channelId: string, request: MarkSpan) =>
  layLayer(ctx, { stationId, channelId, layerId: request.layerId }, async (tx) => {
    const { channel, from, until, n, text } = await recordSpan(ctx.db, stationId, channelId, request, tx);
    const same = (await activeLayers(ctx.db, stationId, channelId, from, until, tx)).find(
      (l) =>
        l.kind === 'flag' &&
        l.parameters.source === 'person' &&
        l.parameters.flag === request.flag &&
        l.fromAt.getTime() === from &&
        l.untilAt?.getTime() === until,
    );
    if (same)
      throw inTheWay(
        'marked-already',
        `This span is marked ${flagWord[request.flag]} already (${same.reason}, ${same.initials}).`,
        'Take that mark back first to give another reason.',
      );
    return {
      kind: 'flag',
      from,
      until,
      parameters: { source: 'person', flag: request.flag, n },
      reason: request.reason,
      text: `Marked ${n} values of ${channel.name} ${flagWord[request.flag]}, ${text}: ${request.reason}`,
    };
  });

/** Takes a layer back by a later one; both stay on file. */
export const revokeLayer = (
  ctx: Context,
  stationId: string,
  channelId: string,
  layerId: string,
  request: RevokeLayer,
) =>
  layLayer(ctx, { stationId, channelId, layerId: request.layerId }, async (tx) => {
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    const layers = await activeLayers(ctx.db, stationId, channelId, undefined, undefined, tx);
    const layer = layers.find((l) => l.id === layerId);
    if (!layer) {
      const [gone] = await query<{ initials: string }>(
        ctx.db,
        `select p.initials from layer r join person p on p.id = r.person_id
          where r.station_id = :stationId and r.revokes = :layerId`,
        { stationId, layerId },
        tx,
      );
      throw gone
        ? inTheWay(
            'taken-back-already',
            `${gone.initials} took this back already.`,
            'Nothing needs to be done.',
          )
        : notFound('layer', layerId);
    }
    if (layer.kind === 'approval') requirePermission(ctx.person, 'approve');
    if (!layerView(layer).revocable)
      throw inTheWay(
        'not-revocable',
        'This layer follows from something that was done at the station.',
        layer.kind === 'off-line'
          ? 'End the off-line window under Connect.'
          : layer.kind === 'withdrawal'
            ? 'Bring the import back on its list.'
            : 'A new check changes it.',
      );
    return {
      kind: layer.kind,
      from: layer.fromAt.getTime(),
      until: (layer.untilAt ?? layer.fromAt).getTime(),
      parameters: { source: 'person', empty: true },
      reason: request.reason,
      revokes: layer.id,
      text: `Took back on ${channel.name}: ${layer.reason} (${request.reason})`,
    };
  });

/** Signs a window of a channel's record off. The sum says what was signed, and it is what lay there then. */
export const approveSpan = (ctx: Context, stationId: string, channelId: string, request: ApproveSpan) =>
  layLayer(ctx, { stationId, channelId, layerId: request.layerId }, async (tx) => {
    const { graph, channel, from, until, n, text } = await recordSpan(
      ctx.db,
      stationId,
      channelId,
      request,
      tx,
    );
    await requireRecordAtRest(ctx.db, tx, graph.station.key);
    const layers = await activeLayers(ctx.db, stationId, channelId, from, until, tx);
    const standing = (await approvals(ctx.db, stationId, tx)).get(channelId);
    if (
      standing &&
      standing.reopened === null &&
      standing.from.getTime() === from &&
      standing.until.getTime() === until
    )
      throw inTheWay(
        'approved-already',
        `${standing.initials} approved this window already, and nothing changed since.`,
        'Nothing needs to be done.',
      );
    const flagged = layers
      .filter((l) => l.kind === 'flag')
      .reduce((s, l) => s + Number(l.parameters.n ?? 0), 0);
    const corrections = layers.filter((l) => layerView(l).corrected).length;
    const offLine = layers.filter((l) => l.kind === 'off-line').length;
    return {
      kind: 'approval',
      from,
      until,
      parameters: { n, flagged, corrections, offLine },
      reason: request.note?.trim() || 'approved',
      text: `Approved ${channel.name}, ${text}`,
      sum: `${n} values; over them ${flagged} flagged, ${corrections} corrections, ${offLine} off-line windows`,
    };
  });
