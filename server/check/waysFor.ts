import { waysThatServe, type AdjustmentWay } from '@/core/device/adjustmentWay';
import { waysOf } from '../device/ways';
import type { LoadedCheck } from './load';

/** How what a check found can be taken out at its device; none where it lies over the record. */
export const waysFor = (
  { plan, graph, channel }: Pick<LoadedCheck, 'plan' | 'graph' | 'channel'>,
  offsetServes: boolean,
): readonly AdjustmentWay[] =>
  plan.adjustIn === 'device' ? waysThatServe(waysOf(graph, channel), offsetServes) : [];
