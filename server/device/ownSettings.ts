import type { Transaction } from 'sequelize';
import type { StageOwn, WriteSettings } from '@/contract/requests';
import type { OwnView } from '@/contract/settingViews';
import { outputsMeanwhile, type LoggerProfile } from '@/core/device/loggerProfile';
import {
  ownDifferences,
  ownFieldNames,
  ownText,
  proposedOwn,
  refuseOwn,
  type OwnAbilities,
  type OwnDifference,
  type OwnSettings,
} from '@/core/settings/ownSettings';
import { row, rows, type Database } from '@/db/database';
import type { DeviceActionRow, OwnSettingRow } from '@/db/rows';
import { ownIntent, ownOutcome, type OwnIntent } from '@/db/stored/own';
import { LoggerFault } from '@/devices/logger';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { terminalLabel } from './channelInput';
import { runDeviceAction, saysOf, settleByReadBack, unknownActions, type Talked } from './deviceAction';
import { isUnstored, noteKeeping } from './keeping';
import type { Lease } from './lease';
import { loggerLine } from './line';
import { loggerLink } from './loggerLink';
import { newestDevices } from './profiles';
import { markRestart, waitForRestart } from './restart';
import { writeThenRead } from './writeThenRead';

/** What a logger holds of itself: staged, written and read back, like the settings of its channels. */

/** What of itself the logger can be told; refused where it takes nothing. */
function ownAbilities(graph: StationGraph): OwnAbilities {
  const takes = graph.loggerProfile?.own;
  if (takes) return takes;
  throw inTheWay(
    'no-own-settings',
    `The logger of ${graph.station.code} takes no station ID and no name.`,
    'Tell its files apart by its serial number.',
  );
}

export interface OwnStanding {
  /** Newest that is neither written nor discarded. */
  readonly staged: OwnSettingRow | null;
  /** Newest first. */
  readonly history: readonly OwnSettingRow[];
  readonly newest: number;
  /** A read-back that did not agree, and that no later write has put right. */
  readonly differing: OwnSettingRow | null;
}

/** Its revisions as they stand. */
export async function ownStanding(
  db: Database,
  graph: StationGraph,
  transaction?: Transaction,
): Promise<OwnStanding> {
  const all = graph.logger
    ? await rows(db.ownSetting, {
        where: { stationId: graph.station.id, loggerId: graph.logger.id },
        order: [['revision', 'DESC']],
        transaction,
      })
    : [];
  const last = all.find((r) => !r.discardedAt) ?? null;
  const held = all.find((r) => r.readBack) ?? null;
  return {
    staged: last?.writtenAt ? null : last,
    history: all.filter((r) => r.writtenAt),
    newest: all[0]?.revision ?? 0,
    differing: held && !held.writtenAt ? held : null,
  };
}

/** Stages what the logger is to hold of itself; who looked at an older revision is told. */
export async function stageOwn(
  ctx: Context,
  stationId: string,
  { revisionId, basedOn, settings }: StageOwn,
): Promise<{ revision: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const refused = refuseOwn(settings, ownAbilities(graph));
    if (refused) throw badField('own-unfit', refused.field, refused.value, refused.detail, refused.remedy);
    const standing = await ownStanding(ctx.db, graph, tx);
    const { staged, newest } = standing;
    if (staged?.id === revisionId) return { revision: staged.revision };
    if (newest !== basedOn)
      throw inTheWay(
        'edited-meanwhile',
        `Somebody staged another name or ID meanwhile (revision ${newest}, you were looking at ${basedOn}).`,
        'Look at theirs, then stage yours again or keep theirs.',
      );
    return { revision: await stageOwnRevision(ctx, tx, graph, standing, settings, revisionId) };
  });
}

/** Puts it on file as the next revision, staged by whoever acts, with its line in the book. */
export async function stageOwnRevision(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  { staged, history, newest }: OwnStanding,
  settings: OwnSettings,
  id = newId(),
): Promise<number> {
  const stationId = graph.station.id;
  const revision = newest + 1;
  await ctx.db.ownSetting.create(
    {
      stationId,
      id,
      loggerId: loggerOf(graph).id,
      revision,
      settings,
      stagedAt: ctx.now(),
      stagedBy: ctx.person.id,
    },
    { transaction: tx },
  );
  const before = (staged ?? history[0])?.settings;
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'stage',
    text: `Staged what the logger holds of itself, revision ${revision}, not yet written`,
    sum: before
      ? ownDifferences(settings, before)
          .map((d) => `${ownFieldNames[d.field]}: ${d.found} → ${d.wanted}`)
          .join(', ') || 'no change'
      : `${settings.stationId}, ${settings.name}, activated ${ownText(settings, 'activated')}`,
    action: 'own.stage',
    subject: { revision },
  });
  return revision;
}

/** Takes back what was staged and not written. */
export async function discardOwn(ctx: Context, stationId: string): Promise<{ discarded: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const { id: loggerId } = loggerOf(graph);
    const open = await row(ctx.db.deviceAction, {
      where: { stationId, kind: 'write-own', settledAt: null },
      transaction: tx,
    });
    if (open)
      throw inTheWay(
        'write-running',
        'It is being written just now, or nobody knows whether it was.',
        'Wait a few seconds and look at what the logger holds.',
      );
    const [discarded] = await ctx.db.ownSetting.update(
      { discardedAt: ctx.now() },
      { where: { stationId, loggerId, writtenAt: null, discardedAt: null }, transaction: tx },
    );
    if (discarded > 0)
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'stage',
        text: 'Discarded what was staged of the logger itself',
        action: 'own.discard',
      });
    return { discarded };
  });
}

/** Writes the staged revision and reads it back; only equal counts as written. */
export async function writeOwn(
  ctx: Context,
  stationId: string,
  { actionId, revisionId }: WriteSettings,
): Promise<{
  state: DeviceActionRow['state'];
  differences: readonly OwnDifference[];
  says: string | null;
}> {
  const graph = await loadStation(ctx.db, stationId);
  ownAbilities(graph);
  const revision = await row(ctx.db.ownSetting, { where: { stationId, id: revisionId } });
  if (!revision) throw notFound('revision', revisionId);
  const unknown = (await unknownActions(ctx.db, [stationId])).find((a) => a.kind === 'write-own');
  if (unknown)
    throw inTheWay(
      'action-unknown',
      'An earlier write of it has an unknown outcome.',
      'Read the logger back first to settle it.',
      { actionId: unknown.id },
    );
  const intent: OwnIntent = {
    revisionId,
    settings: revision.settings,
    says: `station ID and name of the logger, revision ${revision.revision}`,
  };
  const action = await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId,
      line: loggerLine(loggerOf(graph).address),
      kind: 'write-own',
      intent: ownIntent.write(intent) as Record<string, unknown>,
      async stillDue(tx) {
        const { staged, history } = await ownStanding(ctx.db, graph, tx);
        if ((staged ?? history[0])?.id !== revisionId)
          throw inTheWay(
            'edited-meanwhile',
            'This was changed or discarded just now.',
            'Nothing was written. Look at the newest revision, then write that.',
          );
      },
    },
    writeThenRead(
      async () => (await loggerLink(ctx, graph)).writeOwn(intent.settings),
      (lease) => readBack(ctx, graph, intent, lease),
      (lease) => waitForRestart(graph, lease),
    ),
    (tx, done) => consequences(ctx, tx, graph, intent, done),
  );
  return {
    state: action.state,
    differences: action.outcome?.differences ? ownOutcome.read(action.outcome).differences : [],
    says: saysOf(action),
  };
}

async function readBack(ctx: Context, graph: StationGraph, intent: OwnIntent, lease: Lease): Promise<Talked> {
  try {
    await lease.renew();
    lease.assertHeld();
    const { stationId, name, activated } = await (await loggerLink(ctx, graph)).own();
    const held = { stationId, name, activated };
    const outcome = { readBack: held, differences: ownDifferences(intent.settings, held) };
    return { state: 'done', outcome: ownOutcome.write(outcome) as Record<string, unknown> };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `written, but not read back: ${error.message}` } };
  }
}

async function consequences(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  intent: OwnIntent,
  action: DeviceActionRow,
): Promise<void> {
  const { id: stationId } = graph.station;
  const { readBack: held, differences } = ownOutcome.read(action.outcome);
  const equal = differences.length === 0;
  await ctx.db.ownSetting.update(
    { readBack: held, writtenAt: equal ? ctx.now() : null },
    { where: { stationId, id: intent.revisionId, writtenAt: null, discardedAt: null }, transaction: tx },
  );
  await noteKeeping(ctx, tx, graph, false);
  await markRestart(ctx, tx, graph, action.intendedAt);
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'write',
    text: equal
      ? `Wrote ${intent.says}; read back equal`
      : `Wrote ${intent.says}; read back differs in ${differences.map((d) => ownFieldNames[d.field]).join(', ')}: not called written`,
    sum:
      differences.map((d) => `${ownFieldNames[d.field]}: wrote ${d.wanted}, holds ${d.found}`).join('; ') ||
      null,
    action: 'own.write',
    subject: { actionId: action.id, revisionId: intent.revisionId, equal },
  });
}

export const settleOwn = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = ownIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => readBack(ctx, graph, intent, lease),
    (tx, done) => consequences(ctx, tx, graph, intent, done),
  );
};

/** Terminals on which a lead is, by what is on file. */
const inUse = (graph: StationGraph): readonly string[] =>
  graph.installations.flatMap((i) => i.leads.map((l) => terminalLabel(graph, l.terminalId)));

/** The newest revision of a logger's profile, where it goes by an older one. */
async function newerRevision(db: Database, { code, revision }: LoggerProfile): Promise<OwnView['newer']> {
  const newest = (await newestDevices(db)).find((p) => p.code === code);
  return newest && newest.revision > revision ? { profileCode: code, revision: newest.revision } : null;
}

/** What the page shows of it; null for a logger that nobody described. */
export async function ownView(db: Database, graph: StationGraph): Promise<OwnView | null> {
  const profile = graph.loggerProfile;
  if (!profile) return null;
  const { staged, history, newest, differing } = await ownStanding(db, graph);
  const takes = profile.own ?? null;
  const { restarts } = profile;
  return {
    takes,
    staged: staged && { id: staged.id, settings: staged.settings },
    written: history[0]?.settings ?? null,
    newest,
    differences: differing?.readBack ? ownDifferences(differing.settings, differing.readBack) : [],
    proposed: takes && proposedOwn(graph.station, takes, inUse(graph)),
    newer: await newerRevision(db, profile),
    keepsWhenTold: profile.keeps === 'when told',
    unstored: await isUnstored(db, graph),
    restarts: restarts
      ? {
          seconds: restarts.seconds,
          outputs: outputsMeanwhile[restarts.outputs],
          channels: graph.channels
            .filter(isLogged)
            .filter((c) => c.written?.settings.enabled)
            .map((c) => c.row.number),
        }
      : null,
  };
}
