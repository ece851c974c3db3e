import { toleranceBudget, type Budget } from '@/core/check/budget';
import {
  compareHumidity,
  oneAir,
  temperatureShare,
  type HumidityComparison,
} from '@/core/check/humidityComparison';
import { repeatsThatTell, type Repeatability } from '@/core/check/repeatability';
import { judgeTaken, type Taken } from '@/core/check/taken';
import { mean } from '@/core/check/uncertainty';
import { atRest } from '@/core/check/settling';
import { judge, judgeConvergence, limitOf, type Convergence, type Verdict } from '@/core/check/verdict';
import { isHandWay } from '@/core/device/adjustmentWay';
import { roundTo } from '@/core/quantity/format';
import type { AdjustmentRow, CheckReadingRow } from '@/db/rows';
import { thermometersOf, type CheckPlan } from '@/core/check/plan';
import type { LoadedCheck } from './load';

export interface Evaluation {
  readonly budget: Budget | null;
  readonly verdict: Verdict | null;
  readonly limit: number | null;
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly convergence: Convergence | null;
  /** Whether the device took the offset it was given last; null where that cannot be told. */
  readonly taken: Taken | null;
  /** How many of the repeats tell something of their own. */
  readonly telling: number;
  /** What to add to the sensor's value now, if anything is proposed; base unit. */
  readonly proposed: number | null;
}

/** What is judged: the plan, what was read, how far the sensor's differences scattered before. */
type Judged = Pick<LoadedCheck, 'plan' | 'readings' | 'earlier'>;

/** What the readings of a check say so far: as found, verdict, and after adjusting, as left. */
export function evaluateCheck(
  { plan, readings, earlier }: Judged,
  adjustments: readonly Pick<AdjustmentRow, 'round' | 'mode' | 'previous' | 'resulting'>[],
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
      taken: null,
      telling: 0,
    };
  const telling = plan.pools ? repeatsThatTell(found.map(seconds), plan.sensorResponse) : found.length;
  const budget = budgetOf(plan, found, earlier, telling);
  const limit = limitOf(budget, plan.school);
  const differences = found.map((r) => r.difference);
  const verdict = judge({
    budget,
    school: plan.school,
    guard: plan.guard,
    plannedRepeats: plan.repeats,
    differences,
    needsRepeatability: plan.pools,
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
  return {
    budget,
    verdict,
    limit,
    asFound: budget.meanDifference,
    asLeft,
    convergence,
    proposed,
    taken: plan.pools ? takenBy(plan, used, earlier, adjustments) : null,
    telling,
  };
}

const seconds = (r: CheckReadingRow): number => r.occurredAt.getTime() / 1000;

/** Whether the last adjustment was taken as it was given: by the readings before it and after it. */
function takenBy(
  plan: CheckPlan,
  used: readonly CheckReadingRow[],
  earlier: Repeatability | null,
  adjustments: readonly Pick<AdjustmentRow, 'round' | 'mode' | 'previous' | 'resulting'>[],
): Taken | null {
  const last = adjustments.at(-1);
  // What is entered at a device by hand may be a constant of its own: what it changes is no offset.
  if (!last || isHandWay(last.mode) || last.previous === null || last.resulting === null) return null;
  const of = (round: number) =>
    used
      .filter((r) => (round === 0 ? r.phase === 'as-found' : r.phase === 'verification' && r.round === round))
      .map((r) => r.difference);
  const rounds = adjustments.length;
  return judgeTaken(
    of(rounds - 1),
    of(rounds),
    last.resulting - last.previous,
    earlier,
    10 ** -plan.decimals,
  );
}

function budgetOf(
  plan: CheckPlan,
  found: readonly CheckReadingRow[],
  earlier: Repeatability | null,
  telling: number,
): Budget {
  return toleranceBudget({
    differences: found.map((r) => r.difference),
    sensorTolerance: plan.sensorTolerance,
    sensorResolution: plan.sensorResolution,
    referenceTolerance: plan.referenceTolerance,
    referenceResolution: plan.referenceResolution,
    earlier,
    telling,
    further: thermometers(plan, found),
  });
}

function thermometers(plan: CheckPlan, found: readonly CheckReadingRow[]) {
  if (!plan.temperature) return [];
  const humidity = mean(found.map((r) => r.referenceValue));
  const temperature = mean(found.map((r) => r.sensorTemperature ?? Number.NaN));
  if (!Number.isFinite(temperature)) return [];
  const isOneAir = plan.temperature.direct && found.every((r) => comparisonOf(plan, r)?.method === 'direct');
  const share = (tolerance: number) => roundTo(temperatureShare(temperature, humidity, tolerance), 2);
  if (isOneAir) return [{ name: 'air between them', limit: share(oneAir) }];
  return [
    { name: 'sensor’s thermometer', limit: share(plan.temperature.sensorTolerance) },
    { name: 'reference’s thermometer', limit: share(plan.temperature.referenceTolerance) },
  ];
}

/** The humidities of a reading compared; null where it has no temperatures. */
export const comparisonOf = (plan: CheckPlan, r: CheckReadingRow): HumidityComparison | null =>
  r.sensorTemperature === null || r.referenceTemperature === null
    ? null
    : compareHumidity(
        {
          sensorHumidity: r.sensorValue,
          sensorTemperature: r.sensorTemperature,
          referenceHumidity: r.referenceValue,
          referenceTemperature: r.referenceTemperature,
        },
        thermometersOf(plan),
      );
