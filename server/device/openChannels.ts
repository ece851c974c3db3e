import type { Transaction } from 'sequelize';
import type { SensorOutput } from '@/core/device/profile';
import { rows } from '@/db/database';
import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay } from '../problem';
import { loggerOf, type StationGraph } from '../station/stationGraph';

/** A channel of the logger for every output of a sensor that was just hung, mapped to it; the lowest free numbers first. */
export async function openChannels(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  {
    installationId,
    zoneName,
    outputs,
    at,
  }: {
    readonly installationId: string;
    readonly zoneName: string;
    readonly outputs: readonly SensorOutput[];
    readonly at: Date;
  },
): Promise<string[]> {
  const stationId = graph.station.id;
  const most = graph.loggerProfile?.channels ?? 64;
  // Channels may have been made since the page was loaded.
  const numbers = new Set(
    (await rows(ctx.db.channel, { where: { stationId }, transaction: tx })).map((c) => c.number),
  );
  const nextNumber = () => {
    for (let n = 1; n <= most; n++)
      if (!numbers.has(n)) {
        numbers.add(n);
        return n;
      }
    throw inTheWay(
      'no-channel-left',
      `All ${most} channels of this logger are taken.`,
      'Remove a sensor first.',
    );
  };
  const ids: string[] = [];
  for (const output of outputs) {
    const channelId = newId();
    ids.push(channelId);
    await ctx.db.channel.create(
      {
        stationId,
        id: channelId,
        loggerId: loggerOf(graph).id,
        number: nextNumber(),
        quantity: output.quantity,
        zoneName: [zoneName, output.label].filter(Boolean).join(' '),
        checkEveryDays: 180,
      },
      { transaction: tx },
    );
    await ctx.db.mapping.create(
      { stationId, id: newId(), channelId, installationId, outputKey: output.key, fromAt: at },
      { transaction: tx },
    );
  }
  return ids;
}
