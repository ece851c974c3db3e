import type { CheckReadingView, CheckView } from '@/contract/views';
import { accuracyRatioText } from '@/core/check/budget';
import { comparedSum } from '@/core/check/comparison';
import { quantityOf } from '@/core/quantity/quantity';
import type { AdjustmentRow, CheckReadingRow } from '@/db/rows';
import type { Database } from '@/db/database';
import { unknownActions } from '../device/deviceAction';
import { waysOf } from '../device/ways';
import { adjustmentSum } from './deviceOffset';
import { comparisonOf, evaluateCheck } from './evaluate';
import { loggerNumber } from '../station/stationGraph';
import { loadCheck } from './load';
import { instrumentView } from './open';
import type { CheckPlan } from '@/core/check/plan';

/** A check as the screen shows it: readings with their sums, budget, verdict, adjustments, as left. */
export async function checkView(
  db: Database,
  stationId: string,
  checkId: string,
  now: Date,
): Promise<CheckView> {
  const check = await loadCheck(db, stationId, checkId);
  const { row, plan, graph, channel } = check;
  const q = quantityOf(plan.quantity);
  const { proposed: _, ...evaluation } = evaluateCheck(check, standing(check.adjustments));
  const pending = (await unknownActions(db, [stationId])).find((a) => a.channelId === row.channelId) ?? null;
  return {
    id: row.id,
    stationId,
    stationCode: graph.station.code,
    channelId: row.channelId,
    channelNumber: loggerNumber(channel),
    channelName: channel.name,
    zoneName: plan.zoneName,
    quantity: plan.quantity,
    unit: q.unit,
    decimals: plan.decimals,
    instrument: instrumentView(check.instrument, now),
    needsTemperature: plan.temperature !== null,
    repeats: plan.repeats,
    school: plan.school,
    guard: plan.guard,
    settleWindow: plan.settleWindow,
    settleBand: plan.settleBand,
    sensorTolerance: plan.sensorTolerance,
    sensorResolution: plan.sensorResolution,
    sensorResponse: plan.sensorResponse,
    accuracyRatioText: `${(plan.sensorTolerance / plan.referenceTolerance).toFixed(1)} : 1, ${accuracyRatioText(plan.sensorTolerance / plan.referenceTolerance)}`,
    outOfDateReason: plan.outOfDateReason,
    adjustIn: plan.adjustIn,
    ways: plan.adjustIn === 'device' ? [...waysOf(graph, channel)] : [],
    openedAt: row.openedAt.toISOString(),
    readings: check.readings.map((r) => readingView(r, plan)),
    ...evaluation,
    adjustments: check.adjustments.map((a) => ({
      id: a.id,
      round: a.round,
      place: a.place,
      mode: a.mode,
      entered: a.entered,
      previous: a.previous,
      resulting: a.resulting,
      readAtEntry: a.readAtEntry,
      byHand: a.byHand,
      at: a.effectiveAt.toISOString(),
      sum: adjustmentSum(a, plan.decimals, q.unit),
      undone: a.undoes === null && check.adjustments.some((u) => u.undoes !== null),
      undoes: a.undoes !== null,
    })),
    pendingAction: pending,
    outcome: row.outcome,
    closedAt: row.closedAt?.toISOString() ?? null,
  };
}

/** Those that hold: taking back takes all of a check back. */
const standing = (all: readonly AdjustmentRow[]): readonly AdjustmentRow[] =>
  all.some((a) => a.undoes !== null) ? [] : all;

function readingView(r: CheckReadingRow, plan: CheckPlan): CheckReadingView {
  const pair = comparisonOf(plan, r);
  const d = plan.decimals;
  return {
    id: r.id,
    phase: r.phase,
    round: r.round,
    occurredAt: r.occurredAt.toISOString(),
    sensorValue: r.sensorValue,
    referenceValue: r.referenceValue,
    sensorTemperature: r.sensorTemperature,
    referenceTemperature: r.referenceTemperature,
    referenceAtSensor: pair?.referenceAtSensor ?? null,
    sensorDewPoint: pair?.sensorDewPoint ?? null,
    referenceDewPoint: pair?.referenceDewPoint ?? null,
    difference: r.difference,
    inOneAir: pair?.method === 'direct',
    sum: comparedSum(plan.quantity, r.sensorValue, pair?.referenceAtSensor ?? r.referenceValue, d),
    settling: r.settling,
    excludedReason: r.excludedReason,
  };
}
