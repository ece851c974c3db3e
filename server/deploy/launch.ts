import type { Transaction } from 'sequelize';
import type { LaunchLogger, StopLogger } from '@/contract/deployRequests';
import { fullKinds, startKinds, type LaunchOrder } from '@/core/deploy/launch';
import { row } from '@/db/database';
import type { DeviceActionRow } from '@/db/rows';
import { launchIntent, launchOutcome, type LaunchIntent } from '@/db/stored/deploy';
import { LoggerFault, type LaunchStatus } from '@/devices/logger';
import { recordAct } from '../book/recordAct';
import { loggerInstant, loggerText } from '../clock/stamp';
import type { Context } from '../context';
import { askLogger } from '../device/askLogger';
import {
  runDeviceAction,
  saysOf,
  settleByReadBack,
  unknownActions,
  type Talked,
} from '../device/deviceAction';
import type { Lease } from '../device/lease';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { writeThenRead } from '../device/writeThenRead';
import { badField, inTheWay, instantOf } from '../problem';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { expectedOf } from './expected';
import { newestCollected, newestDeployment, requireLaunchable, storedChannels } from './deployment';

/** What came of launching or stopping a logger. */
export interface Launched {
  readonly state: DeviceActionRow['state'];
  readonly says: string | null;
}

const days = 86_400_000;

/**
 * Launches a stand-alone logger, which wipes what it holds: refused while rows lie in it that nobody read out,
 * unless they may be lost; while settings wait to be written; and while its channels have several intervals. What it
 * was told is read back, and how long it was said to last is kept with it.
 */
export async function launchLogger(
  ctx: Context,
  stationId: string,
  request: LaunchLogger,
): Promise<Launched> {
  const graph = await loadStation(ctx.db, stationId);
  const profile = requireLaunchable(graph);
  const known = await row(ctx.db.deployment, { where: { stationId, id: request.deploymentId } });
  if (known) return { state: 'done', says: null };
  await requireKnownOutcome(ctx, stationId);
  const { standAlone } = profile;
  if (!standAlone.starts.includes(request.start))
    throw badField(
      'no-such-start',
      'start',
      request.start,
      `${profile.name} cannot be launched to start ${startKinds[request.start].says.toLowerCase()}.`,
      'Choose one of the starts it has.',
    );
  if (!standAlone.whenFull.includes(request.whenFull))
    throw badField(
      'no-such-memory',
      'whenFull',
      request.whenFull,
      `${profile.name} ${standAlone.whenFull[0] === 'stops' ? 'stops when full' : 'overwrites its oldest rows'}, and nothing else.`,
      'Choose what it does.',
    );
  if (request.storesBattery && !standAlone.storesBattery)
    throw badField(
      'no-battery-row',
      'storesBattery',
      true,
      `${profile.name} does not store its battery.`,
      'Launch it without.',
    );
  const { channels, storeEvery } = storedChannels(graph);
  const link = await loggerLink(ctx, graph);
  const standing = await asked(() => link.launched());
  await refuseUnread(ctx, graph, standing, request.discard);
  const order: LaunchOrder = {
    id: request.deploymentId,
    description: request.description,
    start: request.start,
    startAt: startStamp(ctx, graph, request),
    whenFull: request.whenFull,
    storesBattery: request.storesBattery,
  };
  const intent: LaunchIntent = {
    deploymentId: request.deploymentId,
    order,
    channels: channels.length,
    storeEvery,
    expected: await expectedOf(ctx.db, graph, channels.length, storeEvery, request.storesBattery),
    says: `launch the logger, ${startKinds[request.start].says.toLowerCase()}`,
  };
  const action = await tell(ctx, graph, request.actionId, intent, async (tx) => {
    const newest = await newestDeployment(ctx.db, stationId, tx);
    if ((newest?.id ?? null) !== request.after)
      throw inTheWay(
        'launched-meanwhile',
        'Somebody launched this logger meanwhile.',
        'Look at that launch first: another one wipes what it recorded.',
      );
  });
  return { state: action.state, says: saysOf(action) };
}

/** Stops it: it records nothing more, and keeps what it holds. */
export async function stopLogger(ctx: Context, stationId: string, request: StopLogger): Promise<Launched> {
  const graph = await loadStation(ctx.db, stationId);
  requireLaunchable(graph);
  await requireKnownOutcome(ctx, stationId);
  const newest = await newestDeployment(ctx.db, stationId);
  if (!newest || newest.endedAt)
    throw inTheWay(
      'not-launched-here',
      newest ? 'This launch ended already.' : 'Nobody launched this logger from here.',
      'Nothing needs to be done.',
    );
  const intent: LaunchIntent = {
    deploymentId: newest.id,
    order: null,
    channels: newest.channels,
    storeEvery: newest.storeEvery,
    expected: null,
    says: 'stop the logger',
  };
  const action = await tell(ctx, graph, request.actionId, intent, async (tx) => {
    const still = await newestDeployment(ctx.db, stationId, tx);
    if (still?.id !== newest.id || still.endedAt)
      throw inTheWay('stopped-meanwhile', 'Somebody stopped it meanwhile.', 'Nothing needs to be done.');
  });
  return { state: action.state, says: saysOf(action) };
}

const tell = (
  ctx: Context,
  graph: StationGraph,
  actionId: string,
  intent: LaunchIntent,
  stillDue: (tx: Transaction) => Promise<void>,
): Promise<DeviceActionRow> =>
  runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId: graph.station.id,
      line: loggerLine(loggerOf(graph).address),
      kind: 'launch',
      intent: launchIntent.write(intent) as Record<string, unknown>,
      stillDue,
    },
    writeThenRead(
      async () => (await loggerLink(ctx, graph)).launch(intent.order),
      (lease) => readBack(ctx, graph, intent, lease),
    ),
    (tx, action) => consequences(ctx, tx, graph, intent, action),
  );

/** A description may be kept shorter; anything else that reads back otherwise is no launch as it was meant. */
async function readBack(
  ctx: Context,
  graph: StationGraph,
  intent: LaunchIntent,
  lease: Lease,
): Promise<Talked> {
  try {
    await lease.renew();
    const now = await (await loggerLink(ctx, graph)).launched();
    const { order } = intent;
    if (order === null)
      return ['stopped', 'full', 'flat', 'idle'].includes(now.state)
        ? { state: 'done', outcome: { says: 'it records nothing more', kept: '' } }
        : { state: 'failed', outcome: { says: `it still says "${now.state}"`, kept: '' } };
    const held = now.order;
    const other = held
      ? (['id', 'start', 'startAt', 'whenFull', 'storesBattery'] as const).filter((f) => held[f] !== order[f])
      : ['everything'];
    if (other.length > 0)
      return {
        state: 'failed',
        outcome: { says: `it reads back otherwise: ${other.join(', ')}`, kept: held?.description ?? '' },
      };
    const kept = held!.description;
    return {
      state: 'done',
      outcome: {
        says: `launched and read back${kept === order.description ? '' : `; it keeps the description as "${kept}"`}`,
        kept,
      },
    };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}`, kept: '' } };
  }
}

async function consequences(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  intent: LaunchIntent,
  action: DeviceActionRow,
): Promise<void> {
  const { id: stationId } = graph.station;
  const at = ctx.now();
  await ctx.db.deployment.update(
    { endedAt: at, endedBy: action.personId },
    { where: { stationId, endedAt: null }, transaction: tx },
  );
  const { order } = intent;
  if (order === null) {
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'launch',
      text: 'Stopped the logger: it keeps what it holds and records nothing more',
      action: 'deployment.stop',
      subject: { deploymentId: intent.deploymentId },
    });
    return;
  }
  const { utcOffsetMinutes, id: loggerId } = loggerOf(graph);
  const { kept } = launchOutcome.read(action.outcome);
  await ctx.db.deployment.create(
    {
      stationId,
      id: intent.deploymentId,
      loggerId,
      description: kept || order.description,
      start: order.start,
      startAt: order.startAt === null ? null : new Date(loggerInstant(order.startAt, utcOffsetMinutes)),
      whenFull: order.whenFull,
      storesBattery: order.storesBattery,
      channels: intent.channels,
      storeEvery: intent.storeEvery,
      expected: intent.expected!,
      launchedAt: at,
      personId: action.personId,
    },
    { transaction: tx },
  );
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: at,
    kind: 'launch',
    text: `Launched the logger as "${kept}", ${startKinds[order.start].says.toLowerCase()}${order.startAt ? ` (${order.startAt} by its clock)` : ''}, ${intent.channels} channels every ${intent.storeEvery} s; ${fullKinds[order.whenFull].says.toLowerCase()}`,
    sum: intent.expected!.sums.join('; '),
    action: 'deployment.launch',
    subject: { deploymentId: intent.deploymentId, order },
  });
}

/** Settles a launch of unknown outcome by what the logger says it was launched with. */
export const settleLaunch = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = launchIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => readBack(ctx, graph, intent, lease),
    (tx, settled) => consequences(ctx, tx, graph, intent, settled),
  );
};

async function requireKnownOutcome(ctx: Context, stationId: string): Promise<void> {
  const open = (await unknownActions(ctx.db, [stationId])).find((a) => a.kind === 'launch');
  if (open)
    throw inTheWay(
      'action-unknown',
      `An earlier launch has an unknown outcome: ${open.says}.`,
      'Read the logger back first to settle it.',
      { actionId: open.id },
    );
}

const asked = <T>(work: () => Promise<T>): Promise<T> =>
  askLogger(
    work,
    'The logger could not be asked what it holds',
    'Nothing was changed. Check the link, then try again.',
  );

/** A launch wipes the memory: what nobody read out would be gone. */
async function refuseUnread(
  ctx: Context,
  graph: StationGraph,
  standing: LaunchStatus,
  discard: boolean,
): Promise<void> {
  if (discard || standing.rows === 0 || standing.lastRow === null) return;
  const last = loggerInstant(standing.lastRow, loggerOf(graph).utcOffsetMinutes);
  const newest = await newestCollected(ctx.db, graph);
  if (newest !== null && newest >= last) return;
  throw inTheWay(
    'not-read-out',
    `It holds ${standing.rows} rows, the newest of ${standing.lastRow} by its clock, and ${newest === null ? 'none of them was' : 'not all were'} read out. A launch wipes them.`,
    'Read it out first, or say that they may be lost.',
  );
}

/** The stamp at which a launch with a date and time begins, at the logger's own offset. */
function startStamp(ctx: Context, graph: StationGraph, { start, startAt }: LaunchLogger): string | null {
  if (start !== 'at') return null;
  const at = startAt === null ? null : instantOf('startAt', startAt);
  const ahead = at === null ? Number.NaN : at.getTime() - ctx.now().getTime();
  if (!(ahead > 0 && ahead <= 366 * days))
    throw badField(
      'bad-start',
      'startAt',
      startAt ?? '',
      startAt === null
        ? 'A start at a date and time needs one.'
        : `The start ${startAt} does not lie in the year to come.`,
      'Give a date and time in the future.',
    );
  return loggerText(at!, loggerOf(graph).utcOffsetMinutes);
}
