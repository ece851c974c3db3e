import type { SayLabel } from '@/contract/requests';
import { row, type Database } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { firmwareFaults, firmwareOf, labelOf } from './loggerStanding';

const logIns = {
  none: 'it has no log-in',
  factory: 'its log-in is still the factory’s',
  changed: 'its log-in was changed',
} as const;

/** Keeps what stands on a logger's label and how its log-in stands; a password is asked for nowhere. */
export async function sayLabel(
  ctx: Context,
  stationId: string,
  request: SayLabel,
): Promise<{ labelId: string }> {
  const { labelId, registrationCode, registeredAt, logIn } = request;
  await atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const logger = loggerOf(graph);
    const known = await row(ctx.db.loggerLabel, { where: { stationId, id: labelId }, transaction: tx });
    if (known) return;
    const last = await labelOf(ctx.db, graph, tx);
    if (
      last?.registrationCode === registrationCode &&
      last.registeredAt === registeredAt &&
      last.logIn === logIn
    )
      throw inTheWay('said-already', 'That is on file already.', 'Nothing needs to be done.');
    await ctx.db.loggerLabel.create(
      {
        stationId,
        id: labelId,
        loggerId: logger.id,
        registrationCode,
        registeredAt,
        logIn,
        saidAt: ctx.now(),
        personId: ctx.person.id,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `Logger ${logger.serial}: ${registrationCode ? 'registration code kept' : 'no registration code'}, ${registeredAt ? `registered at ${registeredAt}` : 'registered nowhere'}; ${logIns[logIn]}`,
      action: 'logger.label',
      // The code gives access to the logger upstream: it is kept in one place.
      subject: { labelId, registeredAt, logIn },
    });
  });
  return { labelId };
}

/** Notes the firmware a logger said it has, where it is another than before; what is known to be wrong with it. */
export async function noteFirmware(
  ctx: Context,
  graph: StationGraph,
  version: string,
): Promise<readonly string[]> {
  const faults = firmwareFaults(graph, version);
  const { id: stationId } = graph.station;
  await atStation(ctx, stationId, async (tx) => {
    const logger = loggerOf(graph);
    const last = await firmwareOf(ctx.db, graph, tx);
    if (last?.version === version) return;
    await ctx.db.loggerFirmware.create(
      {
        stationId,
        id: newId(),
        loggerId: logger.id,
        version,
        notedAt: ctx.now(),
        personId: ctx.person.id,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `Logger ${logger.serial} has firmware ${version}${last ? `, before it was ${last.version}` : ''}${faults.map((f) => `; known to be bad: ${f}`).join('')}`,
      action: 'logger.firmware',
      subject: { version },
    });
  });
  return faults;
}

/** What is on file of a logger's label and firmware, for the page; the registration code only for who may use it. */
export async function labelView(db: Database, graph: StationGraph, showsCode: boolean) {
  const [label, firmware] = await Promise.all([labelOf(db, graph), firmwareOf(db, graph)]);
  return {
    serial: graph.logger?.serial ?? '',
    registrationCode: (showsCode && label?.registrationCode) || '',
    registeredAt: label?.registeredAt ?? '',
    logIn: label?.logIn ?? null,
    firmware: firmware && {
      version: firmware.version,
      notedAt: firmware.notedAt.toISOString(),
      faults: firmwareFaults(graph, firmware.version),
    },
  };
}
