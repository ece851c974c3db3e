import type { Transaction } from 'sequelize';
import type { InstallationRow } from '@/db/rows';
import type { Context } from '../context';
import { stageRevision } from '../device/stageRevision';
import { loadStation, loggerNumber } from '../station/stationGraph';

/**
 * A sensor goes by another ID or address from now on. Its channels are staged anew, since the logger asks by it;
 * gives what there is to say of that.
 */
export async function stageMoved(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  installationId: string,
  to: Partial<Pick<InstallationRow, 'busId' | 'busAddress'>>,
): Promise<string> {
  const graph = await loadStation(ctx.db, stationId, tx);
  await ctx.db.installation.update(to, { where: { stationId, id: installationId }, transaction: tx });
  const staged: number[] = [];
  for (const c of graph.channels) {
    if (c.installation?.row.id !== installationId || !c.written || c.staged) continue;
    await stageRevision(ctx, tx, c, c.written.settings);
    staged.push(loggerNumber(c));
  }
  return staged.length > 0
    ? `; the logger still asks the old one, channels ${staged.join(', ')} are staged`
    : '';
}
