import type { Transaction } from 'sequelize';
import type { BeginLineSession, EndLineSession } from '@/contract/busRequests';
import { row, rows, type Database } from '@/db/database';
import type { DeviceActionRow, LineSessionRow } from '@/db/rows';
import { holdIntent, type HoldIntent } from '@/db/stored/line';
import { LoggerFault } from '@/devices/logger';
import { recordAct } from '../book/recordAct';
import type { Context, Person } from '../context';
import { runDeviceAction, saysOf, settleByReadBack, type Talked } from '../device/deviceAction';
import type { Lease } from '../device/lease';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { writeThenRead } from '../device/writeThenRead';
import { closeOffLine, openOffLine, openWindowsOf } from '../device/offLine';
import { inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { heldLineName, hungOn } from './line';

/**
 * Who is master: the logger polls its serial line, and two who ask on one pair garble each other. Before anybody
 * scans or writes there, its polling is held (by the logger, read back, with an end) or its pair is lifted, and
 * what all sensors of the line record meanwhile is marked as off-line.
 */
export async function beginLineSession(
  ctx: Context,
  stationId: string,
  request: BeginLineSession,
): Promise<{ sessionId: string; state: DeviceActionRow['state']; says: string | null }> {
  const graph = await loadStation(ctx.db, stationId);
  const name = await heldLineName(ctx, graph, request.portId);
  const known = await row(ctx.db.lineSession, { where: { stationId, id: request.sessionId } });
  if (known) return { sessionId: known.id, state: 'done', says: null };
  const intent: HoldIntent = {
    sessionId: request.sessionId,
    portId: request.portId,
    seconds: Math.round(request.minutes * 60),
    outputsInHand: request.outputsInHand,
    says: `hold the polling of ${name}`,
  };
  if (request.master === 'lifted') {
    await atStation(ctx, stationId, async (tx) => {
      await refuseSecond(ctx, tx, stationId, request.portId);
      await openSession(ctx, tx, stationId, intent, 'lifted');
    });
    return { sessionId: request.sessionId, state: 'done', says: null };
  }
  const action = await hold(ctx, graph, request.actionId, intent, (tx) =>
    refuseSecond(ctx, tx, stationId, request.portId),
  );
  return { sessionId: request.sessionId, state: action.state, says: saysOf(action) };
}

/** Ends it: the logger polls again (read back), and the off-line windows end. What was lifted or in hand has to be given back. */
export async function endLineSession(
  ctx: Context,
  stationId: string,
  sessionId: string,
  request: EndLineSession,
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const session = await row(ctx.db.lineSession, { where: { stationId, id: sessionId } });
  if (!session) throw notFound('held line', sessionId);
  if (session.endedAt) return { state: 'done', says: null };
  if ((session.master === 'lifted' || session.outputsInHand) && !request.givenBack)
    throw inTheWay(
      'not-given-back',
      session.master === 'lifted'
        ? 'The pair of the logger is still lifted, as far as anybody has said.'
        : 'Outputs are still in hand, as far as anybody has said.',
      'Reconnect what was lifted, give the outputs back, then confirm it.',
    );
  const graph = await loadStation(ctx.db, stationId);
  const intent: HoldIntent = {
    sessionId,
    portId: session.portId,
    seconds: 0,
    outputsInHand: session.outputsInHand,
    says: `let the logger poll ${graph.ports.find((p) => p.id === session.portId)?.name ?? 'its line'} again`,
  };
  if (session.master === 'lifted') {
    await atStation(ctx, stationId, (tx) => closeSession(ctx, tx, stationId, sessionId));
    return { state: 'done', says: null };
  }
  const action = await hold(ctx, graph, request.actionId, intent, async () => {});
  return { state: action.state, says: saysOf(action) };
}

const hold = (
  ctx: Context,
  graph: StationGraph,
  actionId: string,
  intent: HoldIntent,
  stillDue: (tx: Transaction) => Promise<void>,
): Promise<DeviceActionRow> =>
  runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId: graph.station.id,
      line: loggerLine(loggerOf(graph).address),
      kind: 'hold-polling',
      intent: holdIntent.write(intent) as Record<string, unknown>,
      stillDue,
    },
    writeThenRead(
      async () => (await loggerLink(ctx, graph)).holdPolling(intent.seconds),
      (lease) => readHold(ctx, graph, intent, lease),
    ),
    (tx) => holdConsequences(ctx, tx, graph.station.id, intent),
  );

async function readHold(
  ctx: Context,
  graph: StationGraph,
  intent: HoldIntent,
  lease: Lease,
): Promise<Talked> {
  try {
    await lease.renew();
    const left = await (await loggerLink(ctx, graph)).heldFor();
    const asMeant = intent.seconds > 0 === left > 0;
    return {
      state: asMeant ? 'done' : 'failed',
      outcome: {
        says:
          left > 0
            ? `the logger holds its polling for ${Math.ceil(left / 60)} min`
            : 'the logger polls its line',
      },
    };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}` } };
  }
}

const holdConsequences = (ctx: Context, tx: Transaction, stationId: string, intent: HoldIntent) =>
  intent.seconds > 0
    ? openSession(ctx, tx, stationId, intent, 'held')
    : closeSession(ctx, tx, stationId, intent.sessionId);

/** Settles a hold of unknown outcome by what the logger says it does. */
export const settleHold = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = holdIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => readHold(ctx, graph, intent, lease),
    (tx) => holdConsequences(ctx, tx, graph.station.id, intent),
  );
};

async function refuseSecond(ctx: Context, tx: Transaction, stationId: string, portId: string): Promise<void> {
  const open = await row(ctx.db.lineSession, {
    where: { stationId, portId, endedAt: null },
    transaction: tx,
  });
  if (!open) return;
  const person = await row(ctx.db.person, { where: { id: open.personId }, transaction: tx });
  throw inTheWay(
    'line-held',
    `${person?.initials ?? 'Somebody'} holds this line already, since ${open.begunAt.toISOString().slice(11, 16)} UTC.`,
    'Go on in that one, or end it first.',
    { sessionId: open.id },
  );
}

async function openSession(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  intent: HoldIntent,
  master: LineSessionRow['master'],
): Promise<void> {
  const graph = await loadStation(ctx.db, stationId, tx);
  const there = hungOn(graph, intent.portId);
  const channels = graph.channels
    .filter((c) => there.some((i) => i.row.id === c.installation?.row.id))
    .map((c) => c.row.id);
  const off = new Set((await openWindowsOf(ctx, tx, stationId, channels)).map((w) => w.channelId));
  const at = ctx.now();
  const layers = await openOffLine(
    ctx,
    tx,
    stationId,
    channels.filter((c) => !off.has(c)),
    at,
    master === 'held' ? 'the logger holds its polling of this line' : 'the pair of the logger is lifted',
  );
  await ctx.db.lineSession.create(
    {
      stationId,
      id: intent.sessionId,
      portId: intent.portId,
      master,
      outputsInHand: intent.outputsInHand,
      layers,
      begunAt: at,
      untilAt: new Date(at.getTime() + intent.seconds * 1000),
      personId: ctx.person.id,
    },
    { transaction: tx },
  );
  const name = graph.ports.find((p) => p.id === intent.portId)!.name;
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: at,
    kind: 'off-line',
    text: `${master === 'held' ? `The logger holds its polling of ${name} for at most ${Math.round(intent.seconds / 60)} min` : `The pair of the logger on ${name} is lifted`}; ${there.map((i) => i.sensor.serial).join(', ') || 'no sensor'} off-line${intent.outputsInHand ? '; outputs that act on them are in hand' : ''}`,
    action: 'line.hold',
    subject: { sessionId: intent.sessionId, portId: intent.portId, master },
  });
}

async function closeSession(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  sessionId: string,
  at = ctx.now(),
): Promise<void> {
  const session = await row(ctx.db.lineSession, { where: { stationId, id: sessionId }, transaction: tx });
  if (!session || session.endedAt) return;
  await ctx.db.lineSession.update(
    { endedAt: at, endedBy: ctx.person.id },
    { where: { stationId, id: session.id }, transaction: tx },
  );
  const graph = await loadStation(ctx.db, stationId, tx);
  const open = await openWindowsOf(
    ctx,
    tx,
    stationId,
    graph.channels.map((c) => c.row.id),
  );
  await closeOffLine(
    ctx,
    tx,
    stationId,
    open.filter((w) => session.layers.includes(w.id)),
    at,
  );
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: at,
    kind: 'off-line',
    text: `${session.master === 'lifted' ? 'The pair of the logger is back' : isOver(session, ctx.now()) ? 'Nobody gave the line back in time: the logger polls it again by itself' : 'The logger polls its line again'}; its sensors are on-line${session.outputsInHand && !isOver(session, ctx.now()) ? ', outputs given back' : ''}`,
    action: 'line.give-back',
    subject: { sessionId: session.id },
  });
}

/** Whether the logger polls again by itself: a pair that was lifted stays lifted until somebody says otherwise. */
export const isOver = ({ master, untilAt }: LineSessionRow, now: Date): boolean =>
  master === 'held' && untilAt <= now;

/** Ends what nobody ended in time: the logger polls again, so what it records is real again. */
export async function closeOverdueSessions(db: Database): Promise<void> {
  const now = new Date();
  const open = await rows(db.lineSession, { where: { endedAt: null, master: 'held' } });
  for (const session of open.filter((s) => isOver(s, now))) {
    const person = await row(db.person, { where: { id: session.personId } });
    // In the name of who held it: the book says that it ended by itself.
    const ctx: Context = { db, person: person as Person, now: () => now, deviceAllow: '' };
    await atStation(ctx, session.stationId, (tx) =>
      closeSession(ctx, tx, session.stationId, session.id, session.untilAt),
    );
  }
}

/** The open session that an act on the line needs; refused where it ended, or its time ran out. */
export async function requireSession(
  ctx: Context,
  stationId: string,
  sessionId: string,
): Promise<LineSessionRow> {
  const session = await row(ctx.db.lineSession, { where: { stationId, id: sessionId } });
  if (!session) throw notFound('held line', sessionId);
  if (session.endedAt || isOver(session, ctx.now()))
    throw inTheWay(
      'line-not-held',
      session.endedAt
        ? 'This line was given back to the logger.'
        : 'The time for which the line was held ran out: the logger polls again.',
      'Hold the line again first.',
    );
  return session;
}

/** The open session on a port; null for none. */
export const openSessionOn = (
  db: Database,
  stationId: string,
  portId: string,
): Promise<LineSessionRow | null> => row(db.lineSession, { where: { stationId, portId, endedAt: null } });

/** Who takes a line from its logger has to hold it; gives the session by which it is held. */
export async function requireHeld(
  ctx: Context,
  stationId: string,
  { portId, name }: { readonly portId: string; readonly name: string },
): Promise<string> {
  const session = await openSessionOn(ctx.db, stationId, portId);
  if (!session || isOver(session, ctx.now()))
    throw inTheWay(
      'line-not-held',
      `The logger polls ${name}: two masters garble each other.`,
      'Have it hold its polling, or lift its leads, then go on.',
    );
  return session.id;
}
