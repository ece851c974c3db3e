import type { SetClock } from '@/contract/verifyRequests';
import { formatDifference } from '@/core/quantity/format';
import type { DeviceActionRow } from '@/db/rows';
import { LoggerFault } from '@/devices/logger';
import type { Transaction } from 'sequelize';
import { query } from '@/db/database';
import { clockIntent, clockOutcome, type ClockIntent } from '@/db/stored/action';
import type { Context } from '../context';
import {
  runDeviceAction,
  settleByReadBack,
  unknownActions,
  type Consequences,
  type Talked,
  saysOf,
} from '../device/deviceAction';
import { askLogger } from '../device/askLogger';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { inTheWay } from '../problem';
import { writeThenRead } from '../device/writeThenRead';
import { loadStation, type StationGraph, loggerOf } from '../station/stationGraph';
import { compareClock, readClock } from './compare';
import { loggerText } from './stamp';
import { recordAct } from '../book/recordAct';

/** A clock that was set shows the time within this, s. */
const setWithin = 3;

/** Sets the logger's clock to the true time and begins a new clock run; what it stored keeps its stamps. */
export async function setClock(
  ctx: Context,
  stationId: string,
  request: SetClock,
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const graph = await loadStation(ctx.db, stationId);
  const open = (await unknownActions(ctx.db, [stationId])).find((a) => a.kind === 'set-clock');
  if (open)
    throw inTheWay(
      'action-unknown',
      'An earlier setting of this clock has an unknown outcome.',
      'Read the logger back first to settle it.',
      { actionId: open.id },
    );
  const link = await loggerLink(ctx, graph);
  const before = await asked(() => compareClock(ctx, graph));
  const intent: ClockIntent = {
    difference: before.difference,
    run: before.run,
    says: `clock of the logger, ${formatDifference(before.difference, 0)} s off`,
  };
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId,
      line: loggerLine(loggerOf(graph).address),
      kind: 'set-clock',
      intent: { ...intent },
      stillDue: (tx) => requireSameRun(ctx, graph, intent, tx),
    },
    writeThenRead(
      () => link.setClock(loggerText(ctx.now(), loggerOf(graph).utcOffsetMinutes)),
      () => readBack(ctx, graph, intent),
    ),
    consequences(ctx, graph, intent),
  );
  return { state: action.state, says: saysOf(action) };
}

/** Set by somebody else since it was read: setting it again would begin a run of nothing. */
async function requireSameRun(
  ctx: Context,
  graph: StationGraph,
  intent: ClockIntent,
  tx: Transaction,
): Promise<void> {
  const { id: stationId } = graph.station;
  const later = await query(
    ctx.db,
    'select 1 as x from clock_run where station_id = :stationId and logger_id = :loggerId and run > :run',
    { stationId, loggerId: loggerOf(graph).id, run: intent.run },
    tx,
  );
  if (later.length > 0)
    throw inTheWay(
      'set-meanwhile',
      'Somebody set this clock just now.',
      'Nothing was set. Compare it again if you doubt it.',
    );
}

const asked = <T>(work: () => Promise<T>): Promise<T> =>
  askLogger(
    work,
    "The logger's clock could not be read",
    'Nothing was set. Check power and network, then try again.',
  );

async function readBack(ctx: Context, graph: StationGraph, intent: ClockIntent): Promise<Talked> {
  try {
    const now = await readClock(ctx, graph);
    return now.run > intent.run && Math.abs(now.difference) <= setWithin + now.uncertainty
      ? { state: 'done', outcome: { ...now } }
      : {
          state: 'failed',
          outcome: { ...now, says: `the logger still shows ${formatDifference(now.difference, 0)} s` },
        };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}` } };
  }
}

function consequences(ctx: Context, graph: StationGraph, intent: ClockIntent): Consequences {
  return async (tx, action) => {
    const after = clockOutcome.read(action.outcome);
    const stationId = graph.station.id;
    await ctx.db.clockRun.create(
      {
        stationId,
        loggerId: loggerOf(graph).id,
        run: after.run,
        setAt: new Date(after.at),
        stampBefore: new Date(after.at + intent.difference * 1000),
        stampAfter: new Date(after.loggerTime),
        deviceActionId: action.id,
        personId: action.personId,
      },
      { transaction: tx },
    );
    await ctx.db.clockComparison.create(
      {
        stationId,
        id: action.id,
        loggerId: loggerOf(graph).id,
        clockRun: after.run,
        comparedAt: new Date(after.at),
        loggerTime: new Date(after.loggerTime),
        difference: after.difference,
        uncertainty: after.uncertainty,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: new Date(after.at),
      kind: 'clock',
      text: `Set the logger’s clock: it was ${formatDifference(intent.difference, 0)} s off; clock run ${after.run} begins`,
      sum: after.sum,
      action: 'clock.set',
      subject: { actionId: action.id, run: after.run },
    });
  };
}

/** Settles a setting of unknown outcome by what the logger's clock shows now. */
export const settleClock = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = clockIntent.read(action.intent);
  return settleByReadBack(ctx, action, () => readBack(ctx, graph, intent), consequences(ctx, graph, intent));
};

/** Compares the clock now, and keeps it. */
export async function compareNow(ctx: Context, stationId: string): Promise<{ difference: number }> {
  const graph = await loadStation(ctx.db, stationId);
  const { difference } = await asked(() => compareClock(ctx, graph));
  return { difference };
}
