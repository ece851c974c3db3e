import type { InstallTransmitter } from '@/contract/requests';
import { row, rows } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf } from '../station/stationGraph';
import { checkPlace, placeSensor, placeTaken } from './place';

/** Puts a transmitter on a bus: sensor, installation, leads, and a channel for every output. */
export async function installTransmitter(
  ctx: Context,
  stationId: string,
  request: InstallTransmitter,
): Promise<{ installationId: string; channelIds: string[] }> {
  const { installationId, zoneName } = request;
  const graph = await loadStation(ctx.db, stationId);
  const place = await checkPlace(ctx, graph, request.portId, request);
  const numbers = new Set(graph.channels.map((c) => c.row.number));
  const nextNumber = () => {
    for (let n = 1; n <= 64; n++)
      if (!numbers.has(n)) {
        numbers.add(n);
        return n;
      }
    throw inTheWay('no-channel-left', 'All 64 channels of this logger are taken.', 'Remove a sensor first.');
  };
  const channelIds: string[] = [];
  try {
    await atStation(ctx, stationId, async (tx) => {
      const done = await row(ctx.db.installation, {
        where: { stationId, id: installationId },
        transaction: tx,
      });
      // The same form sent twice.
      if (done) {
        const fed = await rows(ctx.db.mapping, { where: { stationId, installationId }, transaction: tx });
        channelIds.push(...fed.map((m) => m.channelId));
        return;
      }
      // Channels may have been made since the page was loaded.
      for (const c of await rows(ctx.db.channel, { where: { stationId }, transaction: tx }))
        numbers.add(c.number);
      await placeSensor(ctx, tx, stationId, place, request, zoneName);
      for (const output of place.profile.outputs) {
        const channelId = newId();
        channelIds.push(channelId);
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
          { stationId, id: newId(), channelId, installationId, outputKey: output.key, fromAt: place.at },
          { transaction: tx },
        );
      }
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: place.at,
        kind: 'connect',
        text: `Connected ${place.profile.name} ${request.serial} in ${zoneName} to ${place.says}`,
        sum: place.sum,
        action: 'connect.install',
        subject: { installationId, serial: request.serial, busId: request.busId },
      });
    });
  } catch (error) {
    throw placeTaken(error, request) ?? error;
  }
  return { installationId, channelIds };
}
