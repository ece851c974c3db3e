import type { Transaction } from 'sequelize';
import { pooledRepeatability, type Repeatability } from '@/core/check/repeatability';
import { askAll, query, row, rows, type Database } from '@/db/database';
import type { AdjustmentRow, CheckReadingRow, CheckRow, InstrumentRow } from '@/db/rows';
import type { Context } from '../context';
import { isId } from '../id';
import { inTheWay, notFound } from '../problem';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';
import type { CheckPlan } from '@/core/check/plan';

export interface LoadedCheck {
  readonly row: CheckRow;
  readonly plan: CheckPlan;
  readonly instrument: InstrumentRow;
  readonly readings: readonly CheckReadingRow[];
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
    () => row(db.instrument, { where: { id: found.instrumentId }, transaction: tx }),
    () =>
      rows(db.checkReading, {
        where: { stationId, checkId },
        transaction: tx,
        order: [
          ['occurredAt', 'ASC'],
          ['id', 'ASC'],
        ],
      }),
    () => rows(db.adjustment, { where: { stationId, checkId }, order: [['round', 'ASC']], transaction: tx }),
    () => (found.plan.pools ? earlierChecks(db, found, tx) : Promise.resolve(null)),
  ]);
  return {
    row: found,
    plan: found.plan,
    instrument: instrument!,
    readings,
    adjustments,
    earlier,
    graph,
    channel: channelOf(graph, found.channelId),
  };
}

/** So many earlier checks say how far one difference scatters. */
const mostEarlier = 10;

/** Repeats as found in the checks of the same sensor that were closed before this one began. */
async function earlierChecks(
  db: Database,
  { stationId, id, channelId, installationId, openedAt }: CheckRow,
  tx?: Transaction,
): Promise<Repeatability | null> {
  const sets = await query<{ differences: number[] }>(
    db,
    `select array_agg(r.difference order by r.occurred_at) as differences
       from reference_check k
       join check_reading r on r.station_id = k.station_id and r.check_id = k.id
      where k.station_id = :stationId and k.channel_id = :channelId and k.installation_id = :installationId
        and k.id <> :id and k.closed_at < :openedAt and r.phase = 'as-found' and r.excluded_at is null
      group by k.id, k.closed_at order by k.closed_at desc limit ${mostEarlier}`,
    { stationId, id, channelId, installationId, openedAt },
    tx,
  );
  return pooledRepeatability(sets.map((s) => s.differences));
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
