import { toleranceBudget, type Budget } from '@/core/check/budget';
import { temperatureShare } from '@/core/check/humidityComparison';
import { mean } from '@/core/check/uncertainty';
import { atRest } from '@/core/check/settling';
import { judge, judgeConvergence, limitOf, type Convergence, type Verdict } from '@/core/check/verdict';
import { roundTo } from '@/core/quantity/format';
import type { AdjustmentRow, CheckReadingRow } from '@/db/rows';
import type { CheckPlan } from '@/core/check/plan';

export interface Evaluation {
  readonly budget: Budget | null;
  readonly verdict: Verdict | null;
  readonly limit: number | null;
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly convergence: Convergence | null;
  /** What to add to the sensor's value now, if anything is proposed; base unit. */
  readonly proposed: number | null;
}

/** What the readings of a check say so far: as found, verdict, and after adjusting, as left. */
export function evaluateCheck(
  plan: CheckPlan,
  readings: readonly CheckReadingRow[],
  adjustments: readonly Pick<AdjustmentRow, 'round'>[],
): Evaluation {
  const used = readings.filter((r) => !r.excludedAt);
  const found = used.filter((r) => r.phase === 'as-found');
  if (found.length === 0)
    return {
      budget: null,
      verdict: null,
      limit: null,
      asFound: null,
      asLeft: null,
      convergence: null,
      proposed: null,
    };
  const budget = budgetOf(plan, found);
  const limit = limitOf(budget, plan.school);
  const differences = found.map((r) => r.difference);
  const verdict = judge({
    budget,
    school: plan.school,
    guard: plan.guard,
    plannedRepeats: plan.repeats,
    differences,
    decimals: plan.decimals,
    settled: found.map((r) => atRest(r.settling)),
  });
  const rounds = adjustments.length;
  const meanOf = (round: number) => {
    const of = used.filter((r) => r.phase === 'verification' && r.round === round);
    return of.length ? mean(of.map((r) => r.difference)) : null;
  };
  const asLeft = rounds ? meanOf(rounds) : null;
  const before = rounds > 1 ? meanOf(rounds - 1) : budget.meanDifference;
  const convergence =
    asLeft !== null && before !== null ? judgeConvergence(before, asLeft, limit, rounds) : null;
  const proposed =
    rounds === 0
      ? verdict.kind === 'adjust'
        ? verdict.by
        : null
      : convergence?.kind === 'try-again'
        ? roundTo(-convergence.remaining, plan.decimals)
        : null;
  return { budget, verdict, limit, asFound: budget.meanDifference, asLeft, convergence, proposed };
}

function budgetOf(plan: CheckPlan, found: readonly CheckReadingRow[]): Budget {
  return toleranceBudget({
    differences: found.map((r) => r.difference),
    sensorTolerance: plan.sensorTolerance,
    sensorResolution: plan.sensorResolution,
    referenceTolerance: plan.referenceTolerance,
    referenceResolution: plan.referenceResolution,
    further: thermometers(plan, found),
  });
}

function thermometers(plan: CheckPlan, found: readonly CheckReadingRow[]) {
  if (!plan.temperature) return [];
  const humidity = mean(found.map((r) => r.referenceValue));
  const temperature = mean(found.map((r) => r.sensorTemperature ?? Number.NaN));
  if (!Number.isFinite(temperature)) return [];
  const share = (tolerance: number) => roundTo(temperatureShare(temperature, humidity, tolerance), 2);
  return [
    { name: 'sensor’s thermometer', limit: share(plan.temperature.sensorTolerance) },
    { name: 'reference’s thermometer', limit: share(plan.temperature.referenceTolerance) },
  ];
}
