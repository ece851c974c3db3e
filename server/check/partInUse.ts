import type { PartInUse } from '@/core/device/part';
import type { Database } from '@/db/database';
import { lastPartChange } from '../device/partChange';
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
  const last = await lastPartChange(db, installation!);
  return {
    name: part.name,
    since: (last?.changedAt ?? installation!.row.fromAt).getTime() / 1000,
    goodFor: part.goodFor ?? null,
  };
}
