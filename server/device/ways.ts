import { usualWays, type AdjustmentWay } from '@/core/device/adjustmentWay';
import type { ChannelNode, StationGraph } from '../station/stationGraph';

/** How an adjustment of a channel is taken: by its logger, and by hand at the device itself. */
export const waysOf = (
  { loggerProfile }: StationGraph,
  { output }: Pick<ChannelNode, 'output'>,
): readonly AdjustmentWay[] => [...(loggerProfile?.takes ?? usualWays), ...(output?.takes ?? [])];
