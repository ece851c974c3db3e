import type { Transaction } from 'sequelize';
import { query } from '@/db/database';
import type { Context } from '../context';
import { isLogged, type StationGraph } from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import type { Lease } from './lease';

/** A logger that starts anew with what it is told: it answers nobody and measures nothing until it has. */
export const restartReason = 'the logger started anew with what was written';

/** Waits until it has, holding its line; at once for one that goes on. */
export async function waitForRestart({ loggerProfile }: StationGraph, lease: Lease): Promise<void> {
  const seconds = loggerProfile?.restarts?.seconds ?? 0;
  for (let waited = 0; waited < seconds; waited += 2) {
    await lease.renew();
    await new Promise((r) => setTimeout(r, Math.min(2, seconds - waited) * 1000));
  }
}

/** Marks what its channels recorded meanwhile as off-line; writes in a row are one window. */
export async function markRestart(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  from: Date,
): Promise<void> {
  const seconds = graph.loggerProfile?.restarts?.seconds;
  const on = graph.channels.filter((c) => isLogged(c) && c.written?.settings.enabled);
  if (seconds === undefined || on.length === 0) return;
  const { id: stationId } = graph.station;
  const until = new Date(Math.max(ctx.now().getTime(), from.getTime() + seconds * 1000));
  const before = await query<{ id: string; channelId: string; fromAt: Date }>(
    ctx.db,
    `select id, channel_id as "channelId", from_at as "fromAt" from active_layer
      where station_id = :stationId and kind = 'off-line' and reason = :restartReason
        and until_at >= :from and from_at <= :from`,
    { stationId, restartReason, from },
    tx,
  );
  for (const { row } of on) {
    const joined = before.find((w) => w.channelId === row.id);
    await createLayer(ctx, tx, {
      stationId,
      channelId: row.id,
      kind: 'off-line',
      fromAt: joined?.fromAt ?? from,
      untilAt: until,
      parameters: {},
      reason: restartReason,
      revokes: joined?.id ?? null,
    });
  }
}
