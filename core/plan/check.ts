import { planContext, type Profiles } from './context';
import { findingKey, severities, type PlanFinding } from './finding';
import type { Plan } from './plan';
import { planRules } from './rules';

/**
 * Everything the rules find in a plan, worst first; what somebody accepted says why, and what forbids work is
 * never accepted. Refuses nothing: whatever is impossible is a finding.
 *
 * @param plan what is planned
 * @param profiles those it pins, by `pinName`
 */
export function checkPlan(plan: Plan, profiles: Profiles): readonly PlanFinding[] {
  const context = planContext(plan, profiles);
  const accepted = new Map(plan.accepted.map((a) => [a.key, a]));
  return planRules
    .flatMap((r) =>
      r.judge(context).map((f): PlanFinding => {
        const lets = r.severity === 'stops' ? undefined : accepted.get(findingKey(r.id, f));
        return {
          ...f,
          rule: r.id,
          title: r.title,
          severity: r.severity,
          accepted: lets ? { reason: lets.reason, by: lets.by } : null,
        };
      }),
    )
    .sort(
      (a, b) =>
        Number(a.accepted !== null) - Number(b.accepted !== null) ||
        severities.indexOf(a.severity) - severities.indexOf(b.severity),
    );
}
