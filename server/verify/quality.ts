import type { SetThresholds } from '@/contract/verifyRequests';
import { refuseThresholds } from '@/core/quality/thresholds';
import { isDeepStrictEqual } from 'node:util';
import { longWork, query, row } from '@/db/database';
import { shown } from '@/db/record';
import type { Context } from '../context';
import { atStation, lockStation } from '../station/atStation';
import { startOperation } from '../process/operation';
import { badField } from '../problem';
import { testRecord } from '../quality/testRecord';
import { channelOf, loadStation } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Sets what a channel's tests go by. The record is tested by it when it is tested next. */
export async function setThresholds(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: SetThresholds,
) {
  const channel = channelOf(await loadStation(ctx.db, stationId), channelId);
  const refused = refuseThresholds(channel.row.quantity, request.thresholds);
  if (refused) throw badField('bad-threshold', refused.field, refused.value, refused.detail, refused.remedy);
  await atStation(ctx, stationId, async (tx) => {
    const newest = await row(ctx.db.qualitySetting, {
      where: { stationId, channelId },
      order: [
        ['setAt', 'DESC'],
        ['id', 'DESC'],
      ],
      transaction: tx,
    });
    // Set like this already, by this person or by another: told as done, not done again.
    if (newest?.id === request.settingId || isDeepStrictEqual(newest?.thresholds, request.thresholds)) return;
    await ctx.db.qualitySetting.create(
      {
        stationId,
        id: request.settingId,
        channelId,
        thresholds: request.thresholds,
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
      text: `Set the quality thresholds of ${channel.name}`,
      sum: JSON.stringify(request.thresholds),
      action: 'quality.set',
      subject: { channelId },
    });
  });
  return { settingId: request.settingId };
}

/** Tests a channel's whole record anew, as an operation; what no longer holds is revoked. */
export async function runQuality(ctx: Context, stationId: string, channelId: string, operationId: string) {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  const { key, quantity } = channel.row;
  return startOperation(ctx, { id: operationId, stationId, kind: 'quality' }, async (progress) => {
    await progress.report(0.1, `Testing ${channel.name}`);
    const result = await ctx.db.transact(async (tx) => {
      await longWork(ctx.db, tx);
      await lockStation(ctx.db, tx, graph.station.key);
      const [span] = await query<{ from: Date | null; until: Date | null }>(
        ctx.db,
        `select min(at) as from, max(at) as until from reading where station_key = :s and channel_key = :c and ${shown(':s')}`,
        { s: graph.station.key, c: key },
        tx,
      );
      if (!span?.from || !span.until) return { spans: 0, flagged: 0 };
      const interval = channel.written?.settings.storageInterval ?? null;
      const found = await testRecord(
        ctx,
        tx,
        { stationId, stationKey: graph.station.key, id: channelId, key, quantity, interval },
        span.from.getTime(),
        span.until.getTime(),
      );
      await recordAct(ctx, tx, {
        stationId,
        channelId,
        occurredAt: ctx.now(),
        kind: 'verify',
        text: `Tested the record of ${channel.name}: ${found.flagged} values flagged in ${found.spans} spans`,
        action: 'quality.run',
        subject: { channelId, ...found },
      });
      return found;
    });
    return { message: `${result.flagged} values flagged in ${result.spans} spans`, result };
  });
}
