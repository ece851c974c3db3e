import type { Transaction } from 'sequelize';
import type { StoreSettings } from '@/contract/requests';
import { row, type Database } from '@/db/database';
import type { DeviceActionRow } from '@/db/rows';
import { storedAction } from '@/db/stored/action';
import { LoggerFault } from '@/devices/logger';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay } from '../problem';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { runDeviceAction, saysOf, settleByReadBack, type Talked } from './deviceAction';
import type { Lease } from './lease';
import { loggerLine } from './line';
import { loggerLink } from './loggerLink';
import { writeThenRead } from './writeThenRead';

/** Loggers that hold what they are told until power-off only, unless they are told to store it. */

const newestKeeping = (db: Database, graph: StationGraph, transaction?: Transaction) =>
  graph.logger &&
  row(db.loggerKeeping, {
    transaction,
    where: { stationId: graph.station.id, loggerId: graph.logger.id },
    order: [
      ['notedAt', 'DESC'],
      ['id', 'DESC'],
    ],
  });

/** Whether something was written to it that it would lose with its power. */
export async function isUnstored(db: Database, graph: StationGraph): Promise<boolean> {
  if (graph.loggerProfile?.keeps !== 'when told') return false;
  return (await newestKeeping(db, graph))?.kept === false;
}

/** Notes that it holds something until power-off only, or keeps all. */
export async function noteKeeping(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  kept: boolean,
): Promise<void> {
  if (graph.loggerProfile?.keeps !== 'when told') return;
  const last = await newestKeeping(ctx.db, graph, tx);
  if ((last?.kept ?? true) === kept) return;
  await ctx.db.loggerKeeping.create(
    {
      stationId: graph.station.id,
      id: newId(),
      loggerId: loggerOf(graph).id,
      kept,
      notedAt: ctx.now(),
      personId: ctx.person.id,
    },
    { transaction: tx },
  );
}

/** Has it keep for good what it holds now, and asks whether it does. */
export async function storeSettings(
  ctx: Context,
  stationId: string,
  { actionId }: StoreSettings,
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const graph = await loadStation(ctx.db, stationId);
  const { address } = loggerOf(graph);
  if (graph.loggerProfile?.keeps !== 'when told')
    throw inTheWay(
      'kept-at-once',
      'This logger keeps what it is told at once.',
      'Nothing needs to be stored.',
    );
  const action = await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId,
      line: loggerLine(address),
      kind: 'store-settings',
      intent: storedAction.write({ says: 'store what the logger holds for good' }) as Record<string, unknown>,
    },
    writeThenRead(
      async () => (await loggerLink(ctx, graph)).store(),
      (lease) => storedNow(ctx, graph, lease),
    ),
    (tx, done) => consequences(ctx, tx, graph, done),
  );
  return { state: action.state, says: saysOf(action) };
}

async function storedNow(ctx: Context, graph: StationGraph, lease: Lease): Promise<Talked> {
  try {
    await lease.renew();
    const { stored } = await (await loggerLink(ctx, graph)).status();
    return stored
      ? { state: 'done', outcome: { says: 'it keeps what it holds' } }
      : { state: 'failed', outcome: { says: 'it still says that something is not stored' } };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}` } };
  }
}

async function consequences(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  action: DeviceActionRow,
): Promise<void> {
  await noteKeeping(ctx, tx, graph, true);
  await recordAct(ctx, tx, {
    stationId: graph.station.id,
    occurredAt: ctx.now(),
    kind: 'write',
    text: 'Stored what the logger holds for good: it comes up with it after power-off',
    action: 'settings.store',
    subject: { actionId: action.id },
  });
}

/** Settles a storing of unknown outcome by what the logger says of itself. */
export const settleStore = (ctx: Context, graph: StationGraph, action: DeviceActionRow) =>
  settleByReadBack(
    ctx,
    action,
    (lease) => storedNow(ctx, graph, lease),
    (tx, done) => consequences(ctx, tx, graph, done),
  );
