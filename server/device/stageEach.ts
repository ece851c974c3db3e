import type { Transaction } from 'sequelize';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { loggerNumber, type ChannelNode } from '../station/stationGraph';
import { stageRevision } from './stageRevision';
import { refuseUnfit } from './unfitSettings';

/** Settings that one act stages for a channel. */
export interface Wanted {
  readonly channel: ChannelNode;
  readonly settings: ChannelSettings;
}

/**
 * Stages settings of several channels in one act: each refused where it is unfit, one line in the book for all; for
 * none nothing is left behind.
 *
 * @param says the line, of the numbers of the channels: "1, 2"
 */
export async function stageEach(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  wanted: readonly Wanted[],
  { action, says, ...about }: { action: string; says: (numbers: string) => string; [more: string]: unknown },
): Promise<void> {
  for (const { channel, settings } of wanted) {
    refuseUnfit(channel, settings);
    await stageRevision(ctx, tx, channel, settings);
  }
  if (wanted.length === 0) return;
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'stage',
    text: `${says(wanted.map((w) => loggerNumber(w.channel)).join(', '))}, not yet written`,
    action,
    subject: { channels: wanted.map((w) => w.channel.row.id), ...about },
  });
}
