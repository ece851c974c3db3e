import type { Context } from '../context';
import { findAction, saysOf } from './deviceAction';
import { inTheWay } from '../problem';
import { settleOffset } from '../check/adjust';
import { settleClock } from '../clock/set';
import { settleSettings } from './settings';
import { loadStation } from '../station/stationGraph';

/** Settles a write of unknown outcome by reading the logger back. Nothing is assumed. */
export async function settleAction(
  ctx: Context,
  stationId: string,
  actionId: string,
): Promise<{ state: string; says: string | null }> {
  const action = await findAction(ctx.db, stationId, actionId);
  const graph = await loadStation(ctx.db, stationId);
  if (action.kind === 'talk')
    throw inTheWay('nothing-to-settle', 'A question to a sensor changes nothing.', 'Ask again.');
  const settled =
    action.kind === 'write-settings'
      ? await settleSettings(ctx, graph, action)
      : action.kind === 'set-clock'
        ? await settleClock(ctx, graph, action)
        : await settleOffset(ctx, graph, action);
  return { state: settled.state, says: saysOf(settled) };
}
