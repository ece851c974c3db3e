import type { Transaction } from 'sequelize';
import type { InConflict } from '@/contract/fieldWrites';
import { formatAge } from '@/core/quantity/format';
import { query, type Database } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { newId } from '../id';
import { personTime } from '../book/fieldBook';
import { conflictWith, inTheWay, notFound } from '../problem';
import { loadStation } from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import { recordAct } from '../book/recordAct';

/** Open off-line windows of the channels a sensor feeds. */
async function openWindows(ctx: Context, tx: Transaction, stationId: string, installationId: string) {
  const graph = await loadStation(ctx.db, stationId, tx);
  const installation = graph.installations.find((i) => i.row.id === installationId);
  if (!installation) throw notFound('installation', installationId);
  const channels = graph.channels.filter((c) => c.installation?.row.id === installationId);
  const open = await openWindowsOf(
    ctx,
    tx,
    stationId,
    channels.map((c) => c.row.id),
  );
  return { installation, channels, open };
}

export interface OpenWindow {
  readonly id: string;
  readonly channelId: string;
  readonly fromAt: Date;
  readonly reason: string;
}

/** Opens an off-line window over each of these channels; gives their layers. */
export async function openOffLine(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  channelIds: readonly string[],
  at: Date,
  reason: string,
): Promise<string[]> {
  const ids: string[] = [];
  for (const channelId of channelIds) {
    const id = newId();
    const span = { fromAt: at, untilAt: null };
    await createLayer(ctx, tx, {
      id,
      stationId,
      channelId,
      kind: 'off-line',
      ...span,
      parameters: {},
      reason,
    });
    ids.push(id);
  }
  return ids;
}

/** Closes open windows: a closed one takes the place of each. */
export async function closeOffLine(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  open: readonly OpenWindow[],
  at: Date,
): Promise<void> {
  for (const { id, channelId, fromAt, reason } of open)
    await createLayer(ctx, tx, {
      stationId,
      channelId,
      kind: 'off-line',
      fromAt,
      untilAt: at,
      parameters: {},
      reason,
      revokes: id,
    });
}

/** Off-line windows of these channels that are open. */
export const openWindowsOf = (
  ctx: Context,
  tx: Transaction,
  stationId: string,
  channelIds: readonly string[],
): Promise<OpenWindow[]> =>
  channelIds.length === 0
    ? Promise.resolve([])
    : query<OpenWindow>(
        ctx.db,
        `select id, channel_id as "channelId", from_at as "fromAt", reason from active_layer
          where station_id = :stationId and kind = 'off-line' and until_at is null and channel_id in (:ids)`,
        { stationId, ids: [...channelIds] },
        tx,
      );

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
        'End that window first, or leave yours out: the record is marked already.',
        await inConflict(ctx, tx, stationId, installationId),
      );
    await openOffLine(
      ctx,
      tx,
      stationId,
      channels.map((c) => c.row.id),
      at,
      request.reason,
    );
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
        await inConflict(ctx, tx, stationId, installationId),
      );
    if (open.some((l) => l.fromAt > at))
      throw inTheWay('ends-before-begin', 'The window would end before it began.', 'Correct the time.');
    await closeOffLine(ctx, tx, stationId, open, at);
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

/** What was last said of a sensor's being off-line, by whom: the other version of a conflict. */
async function inConflict(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  installationId: string,
): Promise<InConflict | undefined> {
  const [found] = await query<{ from: Date; until: Date | null; reason: string; initials: string }>(
    ctx.db,
    `select l.from_at as "from", l.until_at as "until", l.reason, p.initials
       from layer l join person p on p.id = l.person_id
       join mapping m on m.station_id = l.station_id and m.channel_id = l.channel_id and m.until_at is null
      where l.station_id = :stationId and l.kind = 'off-line' and m.installation_id = :installationId
      order by l.recorded_at desc, l.id desc limit 1`,
    { stationId, installationId },
    tx,
  );
  if (!found) return undefined;
  return conflictWith(found.initials, `off-line: ${found.reason}`, found.from, found.until);
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
