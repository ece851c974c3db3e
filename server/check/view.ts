import type { CheckReadingView, CheckView } from '@/contract/checkViews';
import { accuracyRatioText } from '@/core/check/budget';
import { comparedSum } from '@/core/check/comparison';
import { comparedOf, evaluateCheck } from '@/core/check/evaluate';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf } from '@/core/quantity/quantity';
import type { Database } from '@/db/database';
import type { SiteRow } from '@/db/rows';
import { unknownActions } from '../device/deviceAction';
import { waysFor } from './waysFor';
import { consequencesOf } from './consequences';
import { adjustmentSum } from './deviceOffset';
import { loggerNumber } from '../station/stationGraph';
import { recordCorrection } from './live';
import { loadCheck, standing, type LoadedReading } from './load';
import { instrumentView } from '../kit/instrumentViews';
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
  const evaluation = evaluateCheck(check, standing(check.adjustments));
  const pending = (await unknownActions(db, [stationId])).find((a) => a.channelId === row.channelId) ?? null;
  return {
    id: row.id,
    stationId,
    stationCode: graph.station.code,
    channelId: row.channelId,
    channelNumber: loggerNumber(channel),
    channelName: channel.name,
    unit: q.unit,
    instrument: check.instrument && (await instrumentView(db, check.instrument, now)),
    plan,
    accuracyRatioText: `${(plan.sensorTolerance / plan.referenceTolerance).toFixed(1)} : 1, ${accuracyRatioText(plan.sensorTolerance / plan.referenceTolerance)}`,
    earlier: check.earlier,
    correction: plan.adjustIn === 'record' ? await recordCorrection(db, check) : 0,
    ofSite: knownOf(graph.site, plan),
    consequences: await consequencesOf(db, check, evaluation.proposed ?? evaluation.beyond),
    ways: [...waysFor(check, evaluation.offsetServes)],
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
      guardReason: a.guardReason,
      runsUntil: a.runsUntil?.toISOString() ?? null,
      undone: a.undoes === null && check.adjustments.some((u) => u.undoes !== null),
      undoes: a.undoes !== null,
    })),
    pendingAction: pending,
    outcome: row.outcome,
    closedAt: row.closedAt?.toISOString() ?? null,
  };
}

/** What its site knows of what is read beside it; nothing where the site is on no map. */
function knownOf(site: SiteRow, { procedure }: CheckPlan): CheckView['ofSite'] {
  const specs = Object.entries(procedureOf(procedure).companions);
  return Object.fromEntries(
    specs.flatMap(([key, spec]) => {
      const known = spec.site ? site[spec.site] : null;
      return known === null ? [] : [[key, known] as const];
    }),
  );
}

function readingView(r: LoadedReading, plan: CheckPlan): CheckReadingView {
  const compared = comparedOf(r, plan);
  const of = (role: string) => r.kept.filter((o) => o.role === role);
  const sensorValue = of('sensor')[0]!.value;
  const { companions } = procedureOf(plan.procedure);
  return {
    id: r.id,
    phase: r.phase,
    round: r.round,
    point: r.point,
    occurredAt: r.row.occurredAt.toISOString(),
    sensorValue,
    references: of('reference').map((o) => ({
      id: o.id,
      value: o.value,
      at: o.occurredAt.toISOString(),
      excludedReason: o.excludedReason,
    })),
    companions: Object.keys(companions).flatMap((key) => of(key).map(({ value }) => ({ key, value }))),
    compared: compared && {
      ...compared,
      sum: comparedSum(plan.quantity, sensorValue, compared.reference, plan.decimals),
    },
    settling: r.settling,
    reference: r.reference,
    afterCleaning: r.isCleaned,
    excludedReason: r.row.excludedReason,
  };
}
