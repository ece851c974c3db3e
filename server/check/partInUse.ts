import type { PartInUse } from '@/core/device/part';
import { row, type Database } from '@/db/database';
import type { ChannelNode } from '../station/stationGraph';

/**
 * The part of a channel's sensor that wears and bears on it, since it was put in; null for none. Where nobody put one
 * in since the sensor hangs there, it is as old as that at least.
 */
export async function partInUse(
  db: Database,
  { installation, output }: Pick<ChannelNode, 'installation' | 'output'>,
): Promise<PartInUse | null> {
  const part = installation?.profile.part;
  if (!part?.bears.includes(output?.key ?? '')) return null;
  const { stationId, id, fromAt } = installation!.row;
  const last = await row(db.partChange, {
    where: { stationId, installationId: id },
    order: [
      ['changedAt', 'DESC'],
      ['id', 'DESC'],
    ],
  });
  return {
    name: part.name,
    since: (last?.changedAt ?? fromAt).getTime() / 1000,
    goodFor: part.goodFor ?? null,
  };
}
