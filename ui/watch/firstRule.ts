import type { ChannelWatchView } from '@/contract/watch';
import { quantityOf } from '@/core/quantity/quantity';
import { usualLimits } from '@/core/settings/limits';
import { noRule, type WatchRule } from '@/core/watch/rule';

/** What a channel that was never watched begins with: limits that make sense for its quantity. */
export function firstRule(view: ChannelWatchView): WatchRule {
  const q = quantityOf(view.quantity);
  return {
    ...noRule,
    limits: usualLimits[view.quantity] ?? noRule.limits,
    hysteresis: q.tolerance,
    silentAfter: view.interval === null ? null : Math.max(3 * view.interval, 2 * (view.latency ?? 0)),
    latest: Math.max(3600, 2 * (view.latency ?? 0)),
  };
}
