import type { InstallTransmitter } from '@/contract/requests';
import { row, rows } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { atStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';
import { openChannels } from './openChannels';
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
      await placeSensor(ctx, tx, stationId, place, installationId, zoneName);
      channelIds.push(
        ...(await openChannels(ctx, tx, graph, {
          installationId,
          zoneName,
          outputs: place.profile.outputs,
          at: place.at,
        })),
      );
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
