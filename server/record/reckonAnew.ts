import { query, type Database } from '@/db/database';
import type { Context } from '../context';
import { startOperation } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { mendStation } from './mendDerived';

/** So long a record that is being stored is waited for, ms. */
const pause = 500;

/** Reckons the derived channels of a station anew as long work, for whoever would otherwise wait for it reading. */
export async function reckonAnew(ctx: Context, stationId: string, operationId: string) {
  await loadStation(ctx.db, stationId);
  return startOperation(ctx, { id: operationId, stationId, kind: 'derive' }, async (progress) => {
    const reached = (share: number) =>
      progress.report(share, `Reckoned and stored ${Math.round(100 * share)} %`);
    while (!(await mendStation(ctx.db, stationId, { reached }))) {
      await progress.report(0, 'Waiting for values that are being stored at this station');
      await new Promise((r) => setTimeout(r, pause));
    }
    return { message: 'The record is reckoned anew', result: null };
  });
}

/** Whether what some derived channels rest on has changed since they were reckoned. */
export async function isBehind(
  db: Database,
  stationId: string,
  channelIds: readonly string[],
): Promise<boolean> {
  if (channelIds.length === 0) return false;
  const found = await query(
    db,
    'select 1 from derived_mark where station_id = :stationId and channel_id in (:channelIds) limit 1',
    { stationId, channelIds },
  );
  return found.length > 0;
}
