import type { StampDeployment } from '@/contract/deployRequests';
import { row } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { whereaboutsOf } from './whereabouts';

const says = { hung: 'hangs where it measures', 'taken-down': 'was taken down' } as const;

/** Says when a launched logger hung where it measures, or was taken down; said again, the later word holds. */
export async function stampDeployment(
  ctx: Context,
  stationId: string,
  deploymentId: string,
  { stampId, what, occurredAt }: StampDeployment,
): Promise<{ stampId: string }> {
  const at = personTime(ctx, occurredAt);
  await atStation(ctx, stationId, async (tx) => {
    const deployment = await row(ctx.db.deployment, {
      where: { stationId, id: deploymentId },
      transaction: tx,
    });
    if (!deployment) throw notFound('launch', deploymentId);
    const known = await row(ctx.db.deploymentStamp, { where: { stationId, id: stampId }, transaction: tx });
    if (known) return;
    const said = await whereaboutsOf(ctx.db, stationId, deploymentId, tx);
    if (said[what]?.getTime() === at.getTime())
      throw inTheWay('said-already', 'That was said already.', 'Nothing needs to be done.');
    const [hung, down] = what === 'hung' ? [at, said['taken-down']] : [said.hung, at];
    if (hung && down && hung >= down)
      throw inTheWay(
        'down-before-hung',
        `It would have been taken down (${down.toISOString()}) before it hung (${hung.toISOString()}).`,
        'Correct the time.',
      );
    await ctx.db.deploymentStamp.create(
      { stationId, id: stampId, deploymentId, what, at, recordedAt: ctx.now(), personId: ctx.person.id },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'launch',
      text: `The logger ("${deployment.description}") ${says[what]}`,
      action: 'deployment.stamp',
      subject: { deploymentId, stampId, what },
    });
  });
  return { stampId };
}
