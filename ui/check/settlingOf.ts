import type { CheckView } from '@/contract/checkViews';
import { onALine } from '@/core/check/comparison';
import { settlingRule } from '@/core/check/plan';
import { judgeSettling, type Settling } from '@/core/check/settling';
import type { TimedValue } from '@/core/check/timedValue';
import { averageOver } from '@/core/check/window';
import { procedureOf } from '@/core/procedure/procedures';

/**
 * Whether the sensor of a check stands still, or what its procedure averages over its window.
 *
 * @param placedAt when the sensor was placed or something round it changed, s; null for one that hangs as it hung
 */
export function settlingOf(
  { plan }: Pick<CheckView, 'plan'>,
  watched: readonly TimedValue[],
  placedAt: number | null,
): Settling {
  const line = onALine(plan.quantity, watched);
  const { window } = procedureOf(plan.procedure);
  return window === null
    ? judgeSettling(line, settlingRule(plan, placedAt))
    : averageOver(line, window, line.at(-1)?.t ?? 0).settling;
}
