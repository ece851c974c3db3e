import { Op, type Transaction } from 'sequelize';
import { comparedOf, type Judged } from '@/core/check/evaluate';
import type { CheckPlan } from '@/core/check/plan';
import type { CheckReading } from '@/core/check/reading';
import { groupBy } from '@/core/groupBy';
import type { Compared } from '@/core/procedure/procedure';
import { pooledRepeatability, type Repeatability } from '@/core/check/repeatability';
import { askAll, query, row, rows, type Database } from '@/db/database';
import type { AdjustmentRow, CheckReadingRow, CheckRow, InstrumentRow, ObservationRow } from '@/db/rows';
import type { Context } from '../context';
import { isId } from '../id';
import { inTheWay, notFound } from '../problem';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';

/** A reading as it is judged, with what is on file of it. */
export interface LoadedReading extends CheckReading {
  readonly row: CheckReadingRow;
  readonly kept: readonly ObservationRow[];
}

export interface LoadedCheck {
  readonly row: CheckRow;
  readonly plan: CheckPlan;
  /** Null for one against standards, or what nature gives. */
  readonly instrument: InstrumentRow | null;
  readonly readings: readonly LoadedReading[];
  readonly adjustments: readonly AdjustmentRow[];
  /** How far differences of this sensor scattered in earlier checks; null where its own alone count. */
  readonly earlier: Repeatability | null;
  readonly graph: StationGraph;
  readonly channel: ChannelNode;
}

export async function loadCheck(
  db: Database,
  stationId: string,
  checkId: string,
  tx?: Transaction,
): Promise<LoadedCheck> {
  const found = isId(checkId)
    ? await row(db.check, { where: { stationId, id: checkId }, transaction: tx })
    : null;
  if (!found) throw notFound('check', checkId);
  const [graph, instrument, readings, adjustments, earlier] = await askAll(tx, [
    () => loadStation(db, stationId, tx),
    () =>
      found.instrumentId === null
        ? Promise.resolve(null)
        : row(db.instrument, { where: { id: found.instrumentId }, transaction: tx }),
    () => readingsOf(db, stationId, [checkId], tx),
    () => rows(db.adjustment, { where: { stationId, checkId }, order: [['round', 'ASC']], transaction: tx }),
    () => (found.plan.pools ? earlierChecks(db, found, tx) : Promise.resolve(null)),
  ]);
  return {
    row: found,
    plan: found.plan,
    instrument,
    readings,
    adjustments,
    earlier,
    graph,
    channel: channelOf(graph, found.channelId),
  };
}

/** Readings of checks in the order they were taken, each with what belongs to it. */
async function readingsOf(
  db: Database,
  stationId: string,
  checkIds: readonly string[],
  tx?: Transaction,
): Promise<LoadedReading[]> {
  const order: [string, string][] = [
    ['occurredAt', 'ASC'],
    ['id', 'ASC'],
  ];
  const taken = await rows(db.checkReading, {
    where: { stationId, checkId: { [Op.in]: checkIds } },
    order,
    transaction: tx,
  });
  const kept = taken.length
    ? await rows(db.observation, {
        where: { stationId, readingId: { [Op.in]: taken.map((r) => r.id) } },
        order,
        transaction: tx,
      })
    : [];
  const byReading = groupBy(kept, (o) => o.readingId);
  return taken.map((r) => readingOf(r, byReading.get(r.id) ?? []));
}

const seconds = (at: Date): number => at.getTime() / 1000;

const readingOf = (r: CheckReadingRow, kept: readonly ObservationRow[]): LoadedReading => ({
  id: r.id,
  phase: r.phase,
  round: r.round,
  point: r.point,
  at: seconds(r.occurredAt),
  settling: r.settling,
  reference: r.referenceRest,
  isCleaned: r.afterCleaning,
  isExcluded: r.excludedAt !== null,
  observations: kept.map((o) => ({
    id: o.id,
    role: o.role,
    value: o.value,
    at: seconds(o.occurredAt),
    since: o.since && seconds(o.since),
    isExcluded: o.excludedAt !== null,
  })),
  row: r,
  kept,
});

/** Readings of checks by their ids, each with its plan and what came of comparing it; null while something is to come. */
export async function comparedReadings(
  db: Database,
  stationId: string,
  checkIds: readonly string[],
): Promise<
  ReadonlyMap<
    string,
    { readonly reading: LoadedReading; readonly plan: CheckPlan; readonly compared: Compared | null }
  >
> {
  if (checkIds.length === 0) return new Map();
  const checks = await rows(db.check, { where: { stationId, id: { [Op.in]: [...new Set(checkIds)] } } });
  const plans = new Map(checks.map((k) => [k.id, k.plan]));
  const readings = await readingsOf(db, stationId, [...plans.keys()]);
  return new Map(
    readings.map((reading) => {
      const plan = plans.get(reading.row.checkId)!;
      return [reading.id, { reading, plan, compared: comparedOf(reading, plan) }];
    }),
  );
}

/** Checks of a station as they are judged, with the adjustments that held; for whoever judges many of them again. */
export async function loadJudged(
  db: Database,
  stationId: string,
  checks: readonly CheckRow[],
  /** Whether earlier repeats are wanted: they decide how wide agreement is. */
  withEarlier = true,
): Promise<
  { readonly row: CheckRow; readonly judged: Judged; readonly adjustments: readonly AdjustmentRow[] }[]
> {
  const ids = checks.map((k) => k.id);
  const [readings, adjustments, earlier] = await Promise.all([
    readingsOf(db, stationId, ids),
    rows(db.adjustment, {
      where: { stationId, checkId: { [Op.in]: ids } },
      order: [['round', 'ASC']],
    }),
    Promise.all(
      checks.map((k) => (withEarlier && k.plan.pools ? earlierChecks(db, k) : Promise.resolve(null))),
    ),
  ]);
  const readingsBy = groupBy(readings, (r) => r.row.checkId);
  const adjustmentsBy = groupBy(adjustments, (a) => a.checkId);
  return checks.map((row, i) => ({
    row,
    judged: { plan: row.plan, readings: readingsBy.get(row.id) ?? [], earlier: earlier[i]! },
    adjustments: standing(adjustmentsBy.get(row.id) ?? []),
  }));
}

/** Those that hold: taking back takes all of a check back. */
export const standing = (all: readonly AdjustmentRow[]): readonly AdjustmentRow[] =>
  all.some((a) => a.undoes !== null) ? [] : all;

/** So many earlier checks say how far one difference scatters. */
const mostEarlier = 10;

/** Repeats as found in the checks of the same sensor that were closed before this one began. */
async function earlierChecks(
  db: Database,
  { stationId, id, channelId, installationId, openedAt }: CheckRow,
  tx?: Transaction,
): Promise<Repeatability | null> {
  const before = await rows(db.check, {
    where: {
      stationId,
      channelId,
      installationId,
      id: { [Op.ne]: id },
      closedAt: { [Op.lt]: openedAt },
    },
    order: [['closedAt', 'DESC']],
    limit: mostEarlier,
    transaction: tx,
  });
  if (before.length === 0) return null;
  const plans = new Map(before.map((k) => [k.id, k.plan]));
  const readings = await readingsOf(db, stationId, [...plans.keys()], tx);
  const found = readings.filter((r) => r.phase === 'as-found' && !r.isExcluded);
  const sets = groupBy(found, (r) => `${r.row.checkId} ${r.point ?? ''}`);
  return pooledRepeatability(
    [...sets.values()].map((set) =>
      set.flatMap((r) => comparedOf(r, plans.get(r.row.checkId)!)?.difference ?? []),
    ),
  );
}

/** Refuses a check that was closed, or whose sensor is no longer the one it began with. */
export function requireOpen(closedAt: Date | null, outcome: string | null, installed: boolean): void {
  if (closedAt) throw inTheWay('check-closed', `This check was closed as "${outcome}".`, 'Begin a new one.');
  if (!installed)
    throw inTheWay(
      'sensor-swapped',
      'The sensor was swapped since this check began.',
      'Abandon it and begin a new one.',
    );
}

/** A check that is still open, with its sensor still in place. */
export async function loadOpenCheck(
  db: Database,
  stationId: string,
  checkId: string,
  tx?: Transaction,
): Promise<LoadedCheck> {
  const check = await loadCheck(db, stationId, checkId, tx);
  const installed = check.channel.installation?.row.id === check.row.installationId;
  requireOpen(check.row.closedAt, check.row.outcome, installed);
  return check;
}

/** Whether a write to the channel of a check is under way or has an unknown outcome. */
export async function unsettledWrite(ctx: Context, tx: Transaction, check: LoadedCheck): Promise<boolean> {
  const { stationId, channelId } = check.row;
  const open = await query(
    ctx.db,
    `select 1 as x from device_action
      where station_id = :stationId and channel_id = :channelId and settled_at is null and kind <> 'talk'`,
    { stationId, channelId },
    tx,
  );
  return open.length > 0;
}

/** Refuses to change a reading that an adjustment rests on, made or under way. */
export async function requireFree(
  ctx: Context,
  tx: Transaction,
  check: LoadedCheck,
  { round }: Pick<CheckReading, 'round'>,
): Promise<void> {
  if (round >= check.adjustments.length && !(await unsettledWrite(ctx, tx, check))) return;
  throw inTheWay(
    'already-adjusted',
    'An adjustment was made, or is being made, from these readings.',
    'They can no longer be changed.',
  );
}
