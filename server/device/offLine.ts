import type { Transaction } from 'sequelize';
import { formatAge } from '@/core/quantity/format';
import { query, type Database } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { inTheWay, notFound } from '../problem';
import { loadStation } from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import { recordAct } from '../book/recordAct';

/** Open off-line windows of the channels a sensor feeds. */
async function openWindows(ctx: Context, tx: Transaction, stationId: string, installationId: string) {
  const graph = await loadStation(ctx.db, stationId, tx);
  const installation = graph.installations.find((i) => i.row.id === installationId);
  if (!installation) throw notFound('installation', installationId);
  const channels = graph.channels.filter((c) => c.installation?.row.id === installationId);
  const open = await query<{ id: string; channelId: string; fromAt: Date; reason: string }>(
    ctx.db,
    `select id, channel_id as "channelId", from_at as "fromAt", reason from active_layer
      where station_id = :stationId and kind = 'off-line' and until_at is null and channel_id in (:ids)`,
    { stationId, ids: channels.length ? channels.map((c) => c.row.id) : [installationId] },
    tx,
  );
  return { installation, channels, open };
}

/** Marks from now on what a sensor's channels record as not real: its leads are off. */
export async function beginOffLine(
  ctx: Context,
  stationId: string,
  installationId: string,
  request: { reason: string; occurredAt: string },
): Promise<{ channels: number }> {
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const { installation, channels, open } = await openWindows(ctx, tx, stationId, installationId);
    if (open.length)
      throw inTheWay(
        'already-off-line',
        `${installation.sensor.serial} is off-line already.`,
        'End that window first.',
      );
    for (const c of channels)
      await createLayer(ctx, tx, {
        stationId,
        channelId: c.row.id,
        kind: 'off-line',
        fromAt: at,
        untilAt: null,
        parameters: {},
        reason: request.reason,
      });
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'off-line',
      text: `${installation.sensor.serial} off-line: ${request.reason}`,
      action: 'off-line.begin',
      subject: { installationId },
    });
    return { channels: channels.length };
  });
}

/** Ends the off-line window: a closed window takes the open one's place. */
export async function endOffLine(
  ctx: Context,
  stationId: string,
  installationId: string,
  request: { occurredAt: string },
): Promise<{ channels: number }> {
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const { installation, open } = await openWindows(ctx, tx, stationId, installationId);
    if (!open.length)
      throw inTheWay(
        'not-off-line',
        `${installation.sensor.serial} is not off-line.`,
        'Nothing needs to be done.',
      );
    if (open.some((l) => l.fromAt > at))
      throw inTheWay('ends-before-begin', 'The window would end before it began.', 'Correct the time.');
    for (const l of open)
      await createLayer(ctx, tx, {
        stationId,
        channelId: l.channelId,
        kind: 'off-line',
        fromAt: l.fromAt,
        untilAt: at,
        parameters: {},
        reason: l.reason,
        revokes: l.id,
      });
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'off-line',
      text: `${installation.sensor.serial} back on-line after ${formatAge((at.getTime() - open[0]!.fromAt.getTime()) / 1000)}`,
      action: 'off-line.end',
      subject: { installationId },
    });
    return { channels: open.length };
  });
}

/** Since when each sensor of a station is off-line, by installation. */
export async function offLineSince(db: Database, stationId: string): Promise<Map<string, Date>> {
  const found = await query<{ installationId: string; since: Date }>(
    db,
    `select m.installation_id as "installationId", min(l.from_at) as since
       from layer l join mapping m on m.station_id = l.station_id and m.channel_id = l.channel_id and m.until_at is null
      where l.station_id = :stationId and l.kind = 'off-line' and l.until_at is null
        and not exists (select 1 from layer r where r.station_id = l.station_id and r.revokes = l.id)
      group by 1`,
    { stationId },
  );
  return new Map(found.map((f) => [f.installationId, f.since]));
}
