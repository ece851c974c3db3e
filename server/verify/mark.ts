import type { ApproveSpan, MarkSpan, RevokeLayer } from '@/contract/verifyRequests';
import { flagWord } from '@/core/quality/flag';
import { query } from '@/db/database';
import { requirePermission } from '../account';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { channelOf, loadStation } from '../stationGraph';
import { activeLayers, layerView, layLayer } from './layers';
import { recordSpan } from './span';

/** Marks a span by hand: suspect, or failed, with the reason a person gives. */
export async function markSpan(ctx: Context, stationId: string, channelId: string, request: MarkSpan) {
  const { channel, from, until, n, text } = await recordSpan(ctx.db, stationId, channelId, request);
  return layLayer(
    ctx,
    {
      id: request.layerId,
      stationId,
      channelId,
      kind: 'flag',
      from,
      until,
      parameters: { source: 'person', flag: request.flag, n },
      reason: request.reason,
    },
    {
      text: `Marked ${n} values of ${channel.name} ${flagWord[request.flag]}, ${text}: ${request.reason}`,
    },
  );
}

/** Takes a layer back by a later one; both stay on file. */
export async function revokeLayer(
  ctx: Context,
  stationId: string,
  channelId: string,
  layerId: string,
  request: RevokeLayer,
) {
  const channel = channelOf(await loadStation(ctx.db, stationId), channelId);
  const layer = (await activeLayers(ctx.db, stationId, channelId)).find((l) => l.id === layerId);
  if (!layer) throw notFound('layer', layerId);
  if (layer.kind === 'approval') requirePermission(ctx.person, 'approve');
  if (!layerView(layer).revocable)
    throw inTheWay(
      'not-revocable',
      'This layer follows from something that was done at the station.',
      layer.kind === 'off-line' ? 'End the off-line window under Connect.' : 'A new check changes it.',
    );
  return layLayer(
    ctx,
    {
      id: request.layerId,
      stationId,
      channelId,
      kind: layer.kind,
      from: layer.fromAt.getTime(),
      until: (layer.untilAt ?? layer.fromAt).getTime(),
      parameters: { source: 'person', empty: true },
      reason: request.reason,
      revokes: layer.id,
    },
    { text: `Took back on ${channel.name}: ${layer.reason} (${request.reason})` },
  );
}

/** Signs a window of a channel's record off. The sum says what was signed. */
export async function approveSpan(ctx: Context, stationId: string, channelId: string, request: ApproveSpan) {
  const { channel, from, until, n, text } = await recordSpan(ctx.db, stationId, channelId, request);
  const layers = await activeLayers(ctx.db, stationId, channelId, from, until);
  const flagged = layers
    .filter((l) => l.kind === 'flag')
    .reduce((s, l) => s + Number(l.parameters.n ?? 0), 0);
  const corrections = layers.filter((l) => layerView(l).corrected).length;
  const offLine = layers.filter((l) => l.kind === 'off-line').length;
  return layLayer(
    ctx,
    {
      id: request.layerId,
      stationId,
      channelId,
      kind: 'approval',
      from,
      until,
      parameters: { n, flagged, corrections, offLine },
      reason: request.note?.trim() || 'approved',
    },
    {
      text: `Approved ${channel.name}, ${text}`,
      sum: `${n} values; over them ${flagged} flagged, ${corrections} corrections, ${offLine} off-line windows`,
    },
    async (tx) => {
      const running = await query(
        ctx.db,
        `select 1 as x from operation where station_id = :stationId and state = 'running' and kind in ('import', 'collect')`,
        { stationId },
        tx,
      );
      if (running.length > 0)
        throw inTheWay(
          'record-moving',
          'Values are being stored at this station just now.',
          'Wait for it to end, then look and approve.',
        );
    },
  );
}
