import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf } from '../station/stationGraph';
import { loggerProfileOf } from './loggerProfile';
import { layPorts } from './ports';

/** Says which model a station's logger is: it gets the ports and terminals of that profile beside those it has. */
export async function describeLogger(
  ctx: Context,
  stationId: string,
  profileCode: string,
): Promise<{ revision: number }> {
  const profile = await loggerProfileOf(ctx.db, profileCode);
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const logger = loggerOf(graph);
    const has = graph.loggerProfile;
    if (has && has.code !== profileCode)
      throw inTheWay(
        'described-otherwise',
        `The logger of ${graph.station.code} is ${has.name}.`,
        'Set another logger up as a station of its own: the terminals of this one are in use under that name.',
      );
    await ctx.db.logger.update(
      { profileCode: profile.code, profileRevision: profile.revision },
      { where: { stationId, id: logger.id }, transaction: tx },
    );
    await layPorts(ctx, tx, { stationId, loggerId: logger.id }, profile, null);
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `The logger is ${profile.name}, revision ${profile.revision} of its profile`,
      action: 'logger.describe',
      subject: { profileCode, revision: profile.revision },
    });
    return { revision: profile.revision };
  });
}
