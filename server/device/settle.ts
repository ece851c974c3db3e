import type { Context } from '../context';
import { findAction, saysOf } from './deviceAction';
import { inTheWay } from '../problem';
import { settleOffset } from '../check/deviceOffset';
import { settleClock } from '../clock/set';
import { settleStore } from './keeping';
import { settleOwn } from './ownSettings';
import { settleSettings } from './settings';
import type { DeviceActionKind, DeviceActionRow } from '@/db/rows';
import { settleLaunch } from '../deploy/launch';
import { settleHold } from '../bus/session';
import { settleSdi12 } from '../bus/sdi12';
import { settleBusWrite } from '../bus/write';
import { loadStation, type StationGraph } from '../station/stationGraph';

/** How each kind of write is read back. */
const settlers: Record<
  Exclude<DeviceActionKind, 'talk' | 'bus-read'>,
  (ctx: Context, graph: StationGraph, action: DeviceActionRow) => Promise<DeviceActionRow>
> = {
  'write-settings': settleSettings,
  'write-offset': settleOffset,
  'set-clock': settleClock,
  'hold-polling': settleHold,
  'bus-write': settleBusWrite,
  'sdi-write': settleSdi12,
  launch: settleLaunch,
  'write-own': settleOwn,
  'store-settings': settleStore,
};

/** Settles a write of unknown outcome by reading the device back. Nothing is assumed. */
export async function settleAction(
  ctx: Context,
  stationId: string,
  actionId: string,
): Promise<{ state: string; says: string | null }> {
  const action = await findAction(ctx.db, stationId, actionId);
  const graph = await loadStation(ctx.db, stationId);
  if (action.kind === 'talk' || action.kind === 'bus-read')
    throw inTheWay('nothing-to-settle', 'A question to a sensor changes nothing.', 'Ask again.');
  const settled = await settlers[action.kind](ctx, graph, action);
  return { state: settled.state, says: saysOf(settled) };
}
