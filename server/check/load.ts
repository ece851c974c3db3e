import { row, rows, type Database } from '@/db/database';
import type { AdjustmentRow, CheckReadingRow, CheckRow, InstrumentRow } from '@/db/rows';
import { inTheWay, notFound } from '../problem';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../stationGraph';
import type { CheckPlan } from './plan';

export interface LoadedCheck {
  readonly row: CheckRow;
  readonly plan: CheckPlan;
  readonly instrument: InstrumentRow;
  readonly readings: readonly CheckReadingRow[];
  readonly adjustments: readonly AdjustmentRow[];
  readonly graph: StationGraph;
  readonly channel: ChannelNode;
}

export async function loadCheck(db: Database, stationId: string, checkId: string): Promise<LoadedCheck> {
  const found = /^[0-9a-f-]{36}$/.test(checkId)
    ? await row(db.check, { where: { stationId, id: checkId } })
    : null;
  if (!found) throw notFound('check', checkId);
  const [graph, instrument, readings, adjustments] = await Promise.all([
    loadStation(db, stationId),
    row(db.instrument, { where: { id: found.instrumentId } }),
    rows(db.checkReading, {
      where: { stationId, checkId },
      order: [
        ['occurredAt', 'ASC'],
        ['id', 'ASC'],
      ],
    }),
    rows(db.adjustment, { where: { stationId, checkId }, order: [['round', 'ASC']] }),
  ]);
  return {
    row: found,
    plan: found.plan as CheckPlan,
    instrument: instrument!,
    readings,
    adjustments,
    graph,
    channel: channelOf(graph, found.channelId),
  };
}

/** A check that is still open, with its sensor still in place. */
export async function loadOpenCheck(db: Database, stationId: string, checkId: string): Promise<LoadedCheck> {
  const check = await loadCheck(db, stationId, checkId);
  if (check.row.closedAt)
    throw inTheWay('check-closed', `This check was closed as "${check.row.outcome}".`, 'Begin a new one.');
  if (check.channel.installation?.row.id !== check.row.installationId)
    throw inTheWay(
      'sensor-swapped',
      'The sensor was swapped since this check began.',
      'Abandon it and begin a new one.',
    );
  return check;
}
