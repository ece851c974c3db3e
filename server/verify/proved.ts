import { Op } from 'sequelize';
import type { ChannelVerifyView } from '@/contract/recordViews';
import { evaluateCheck } from '@/core/check/evaluate';
import { rows, type Database } from '@/db/database';
import { loadJudged } from '../check/load';
import type { ChannelNode } from '../station/stationGraph';

/** Between which readings the last check of the sensor that feeds a channel proved it; null for one never checked. */
export async function provedNow(
  db: Database,
  stationId: string,
  { row: { id: channelId }, installation }: ChannelNode,
): Promise<ChannelVerifyView['proved']> {
  if (!installation) return null;
  const last = await rows(db.check, {
    where: {
      stationId,
      channelId,
      installationId: installation.row.id,
      outcome: { [Op.in]: ['agree', 'adjusted'] },
    },
    order: [['openedAt', 'DESC']],
    limit: 1,
  });
  const [judged] = await loadJudged(db, stationId, last, false);
  if (!judged) return null;
  const { proved, limit } = evaluateCheck(judged.judged, judged.adjustments);
  return proved && limit !== null
    ? {
        ...proved,
        limit,
        checkId: judged.row.id,
        at: judged.row.openedAt.toISOString(),
        isAdjusted: judged.adjustments.length > 0,
        material: judged.row.plan.material,
      }
    : null;
}
