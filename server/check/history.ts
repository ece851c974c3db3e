import { Op } from 'sequelize';
import type { CheckHistoryView, PastCheck } from '@/contract/checkHistory';
import { controlChart } from '@/core/check/controlChart';
import { driftOutlook } from '@/core/check/drift';
import { evaluateCheck } from '@/core/check/evaluate';
import { quantityOf } from '@/core/quantity/quantity';
import { rows, type Database } from '@/db/database';
import { channelOf, loadStation } from '../station/stationGraph';
import { loadJudged } from './load';

const month = 30.4;
const day = 86_400_000;
/** So many checks are drawn at most. */
const most = 60;

/** The checks of the sensor that feeds a channel now. */
export async function checkHistory(
  db: Database,
  stationId: string,
  channelId: string,
): Promise<CheckHistoryView> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const { unit, decimals } = quantityOf(channel.row.quantity);
  const installationId = channel.installation?.row.id;
  const closed = installationId
    ? await rows(db.check, {
        where: {
          stationId,
          channelId,
          installationId,
          outcome: { [Op.notIn]: ['abandoned', 'not-settled'] },
        },
        order: [['openedAt', 'DESC']],
        limit: most,
      })
    : [];
  // What each came to stands on file; only what came to light of the sensor is reckoned anew.
  const judged = await loadJudged(db, stationId, closed.reverse(), false);
  let sinceAdjusted: { readonly of: (typeof judged)[number]; readonly u: number }[] = [];
  const checks = judged.flatMap((j): PastCheck[] => {
    const { asFound = null, asLeft = null, limit = null } = j.row.result ?? {};
    if (asFound === null || limit === null) return [];
    const evaluation = evaluateCheck(j.judged, j.adjustments);
    const u = evaluation.budget?.found.u ?? limit / 2;
    sinceAdjusted = j.adjustments.length > 0 ? [] : [...sinceAdjusted, { of: j, u }];
    return [
      {
        checkId: j.row.id,
        at: j.row.openedAt.toISOString(),
        outcome: j.row.outcome!,
        asFound,
        asLeft,
        limit,
        material: j.row.plan.material,
        health: evaluation.health.map(({ name, value, unit: of, decimals: d, isGood }) => ({
          name,
          value,
          unit: of,
          decimals: d,
          isGood,
        })),
      },
    ];
  });
  // On another material it is another comparison.
  const { material = null } = checks.at(-1) ?? {};
  const comparable = sinceAdjusted.filter(({ of: { row } }) => row.plan.material === material);
  const found = comparable.map(({ of: j, u }) => ({
    id: j.row.id,
    at: j.row.openedAt.getTime(),
    difference: checks.find((c) => c.checkId === j.row.id)!.asFound,
    u,
    reference: j.row.instrumentId ?? j.row.plan.procedure,
    referenceTolerance: j.row.plan.referenceTolerance,
  }));
  const last = checks.at(-1);
  const chart = controlChart(found);
  const outlook = last && last.limit > 0 ? driftOutlook(found, last.limit) : null;
  return {
    unit,
    decimals,
    checks,
    outlook: outlook && {
      perMonth: outlook.perDay * month,
      uncertainty: outlook.uncertainty * month,
      reachesLimitAt: new Date(outlook.reachesLimitAt).toISOString(),
    },
    control: chart && {
      ...chart,
      since: new Date(found[0]!.at).toISOString(),
      signals: chart.signals.map(({ index, kind }) => ({ checkId: found[index]!.id, kind })),
    },
    dueAt: last ? new Date(Date.parse(last.at) + channel.row.checkEveryDays * day).toISOString() : null,
  };
}
