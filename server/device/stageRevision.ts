import type { Transaction } from 'sequelize';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { Context } from '../context';
import { newId } from '../id';
import type { ChannelNode } from '../station/stationGraph';

/** Puts settings on file as a channel's next revision, staged by whoever acts; nothing is written to a logger. */
export async function stageRevision(
  ctx: Context,
  tx: Transaction,
  { row, newest }: Pick<ChannelNode, 'row' | 'newest'>,
  settings: ChannelSettings,
  id = newId(),
): Promise<number> {
  const revision = newest + 1;
  await ctx.db.settingRevision.create(
    {
      stationId: row.stationId,
      id,
      channelId: row.id,
      revision,
      settings,
      stagedAt: ctx.now(),
      stagedBy: ctx.person.id,
    },
    { transaction: tx },
  );
  return revision;
}
