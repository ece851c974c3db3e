import type { Transaction } from 'sequelize';
import type { StageSettings, WriteSettings } from '@/contract/requests';
import type { ChannelSettingsView, RevisionView } from '@/contract/settingViews';
import { inputDifference } from '@/core/device/inputText';
import { inputOf } from './channelInput';
import { describeChannel, quantityOf } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import {
  settingDifferences,
  type ChannelSettings,
  type SettingDifference,
} from '@/core/settings/channelSettings';
import { query, row, rows, type Database } from '@/db/database';
import type { DeviceActionRow, SettingRevisionRow } from '@/db/rows';
import { settingIntent, settingOutcome, type SettingIntent } from '@/db/stored/action';
import { LoggerFault } from '@/devices/logger';
import { atStation } from '../station/atStation';
import { noteClock } from '../clock/compare';
import type { Context } from '../context';
import {
  requireSettled,
  runDeviceAction,
  settleByReadBack,
  type Consequences,
  type Talked,
  saysOf,
} from './deviceAction';
import { noteKeeping } from './keeping';
import type { Lease } from './lease';
import { markRestart, waitForRestart } from './restart';
import { stageRevision } from './stageRevision';
import { writeThenRead } from './writeThenRead';
import { refuseUnfit } from './unfitSettings';
import { waysOf } from './ways';
import { loggerLine } from './line';
import { loggerLink } from './loggerLink';
import { inTheWay, notFound } from '../problem';
import {
  channelOf,
  loadStation,
  type ChannelNode,
  type StationGraph,
  isLogged,
  loggerNumber,
  loggerOf,
} from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Stages settings of a channel. The person says which revision they were looking at; if it is no longer the newest, they are told and shown the difference. */
export async function stageSettings(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: StageSettings,
  /** What the settings follow from, where nobody typed them. */
  born: { readonly text: string; readonly sum: string } | null = null,
): Promise<{ revision: number }> {
  const { settings } = request;
  return atStation(ctx, stationId, async (tx) => {
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    refuseUnfit(channel, settings);
    const newest = await row(ctx.db.settingRevision, {
      where: { stationId, channelId },
      order: [['revision', 'DESC']],
      transaction: tx,
    });
    if (newest?.id === request.revisionId) return { revision: newest.revision };
    if ((newest?.revision ?? 0) !== request.basedOn) {
      const theirs = newest?.settings ?? null;
      const by =
        newest && (await row(ctx.db.person, { where: { id: newest.stagedBy }, transaction: tx }))?.initials;
      throw inTheWay(
        'edited-meanwhile',
        `${by ?? 'Someone'} changed these settings meanwhile (revision ${newest?.revision ?? 0}, you were looking at ${request.basedOn}).`,
        'Compare both versions, then stage yours again or keep theirs.',
        {
          newest: newest?.revision ?? 0,
          theirs,
          differences: theirs ? settingDifferences(settings, theirs as never) : [],
        },
      );
    }
    const next = { row: channel.row, newest: newest?.revision ?? 0 };
    const revision = await stageRevision(ctx, tx, next, settings, request.revisionId);
    const before = channel.staged?.settings ?? channel.written?.settings;
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'stage',
      text: `Staged settings of channel ${loggerNumber(channel)} (${settings.description})${born ? `: ${born.text}` : ''}, revision ${revision}, not yet written`,
      sum: born
        ? born.sum
        : before
          ? settingDifferences(settings, before as never)
              .map(differenceText)
              .join(', ') || 'no change'
          : null,
      action: 'settings.stage',
      subject: { channelId, revision },
    });
    return { revision };
  });
}

const differenceText = (d: SettingDifference) => `${d.field}: ${d.found} → ${d.wanted}`;

/** Takes back what was staged and not written; the written settings stay as they are. */
export async function discardStaged(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<{ discarded: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    if (await writeUnderWay(ctx, tx, stationId, channelId))
      throw inTheWay(
        'write-running',
        'These settings are being written just now, or nobody knows whether they were.',
        'Wait a few seconds and look at what the logger holds.',
      );
    const [discarded] = await ctx.db.settingRevision.update(
      { discardedAt: ctx.now() },
      { where: { stationId, channelId, writtenAt: null, discardedAt: null }, transaction: tx },
    );
    if (discarded > 0) {
      await recordAct(ctx, tx, {
        stationId,
        channelId,
        occurredAt: ctx.now(),
        kind: 'stage',
        text: `Discarded staged settings of channel ${loggerNumber(channel)}`,
        action: 'settings.discard',
        subject: { channelId },
      });
    }
    return { discarded };
  });
}

async function writeUnderWay(ctx: Context, tx: Transaction, stationId: string, channelId: string) {
  const open = await query(
    ctx.db,
    `select 1 as x from device_action
      where station_id = :stationId and channel_id = :channelId and settled_at is null and kind = 'write-settings'`,
    { stationId, channelId },
    tx,
  );
  return open.length > 0;
}

/** Writes a staged revision to the logger and reads it back; only equal counts as written. */
export async function writeSettings(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: WriteSettings,
): Promise<{
  state: DeviceActionRow['state'];
  differences: readonly SettingDifference[];
  says: string | null;
}> {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  const revision = await row(ctx.db.settingRevision, {
    where: { stationId, channelId, id: request.revisionId },
  });
  if (!revision) throw notFound('revision', request.revisionId);
  if (revision.discardedAt)
    throw inTheWay('revision-discarded', 'These settings were discarded meanwhile.', 'Stage them again.');
  const current = channel.staged ?? channel.written;
  if (current && current.id !== revision.id)
    throw inTheWay(
      'edited-meanwhile',
      `Revision ${current.revision} has taken the place of revision ${revision.revision} meanwhile.`,
      'Look at the newest revision, then write that.',
    );
  await requireSettled(ctx, stationId, channelId);
  const link = await loggerLink(ctx, graph);
  const intent: SettingIntent = {
    revisionId: revision.id,
    number: loggerNumber(channel),
    settings: revision.settings,
    source: inputOf(channel, graph),
    says: `settings of channel ${loggerNumber(channel)}, revision ${revision.revision}`,
  };
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId,
      line: loggerLine(loggerOf(graph).address),
      kind: 'write-settings',
      channelId,
      intent: settingIntent.write(intent) as Record<string, unknown>,
      stillDue: (tx) => requireNewest(ctx, revision, tx),
    },
    writeThenRead(
      () => link.writeChannel(intent.number, { settings: intent.settings, source: intent.source }),
      (lease) => compareReadBack(ctx, graph, intent, lease),
      (lease) => waitForRestart(graph, lease),
    ),
    settingConsequences(ctx, graph, intent),
  );
  if (action.state === 'done') await noteClock(ctx, graph);
  return settingResult(action);
}

async function requireNewest(ctx: Context, revision: SettingRevisionRow, tx: Transaction): Promise<void> {
  const { stationId, channelId } = revision;
  const newest = await row(ctx.db.settingRevision, {
    where: { stationId, channelId, discardedAt: null },
    order: [['revision', 'DESC']],
    transaction: tx,
  });
  if (newest?.id === revision.id) return;
  throw inTheWay(
    'edited-meanwhile',
    'These settings were changed or discarded just now.',
    'Nothing was written. Look at the newest revision, then write that.',
  );
}

async function compareReadBack(
  ctx: Context,
  graph: StationGraph,
  intent: SettingIntent,
  lease: Lease,
): Promise<Talked> {
  try {
    await lease.renew();
    lease.assertHeld();
    const held = await (await loggerLink(ctx, graph)).channel(intent.number);
    // An intent of an earlier release did not keep what the logger was told.
    const input = intent.source && inputDifference(intent.source, held.source);
    const readBack = { ...held.settings, ...(input && { input }) } as Record<string, unknown>;
    return { state: 'done', outcome: { readBack, differences: differencesOf(intent.settings, readBack) } };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `written, but not read back: ${error.message}` } };
  }
}

/** Fields in which a logger holds something else than was written; its input with both in words. */
const differencesOf = (settings: ChannelSettings, readBack: Readonly<Record<string, unknown>>) => [
  ...settingDifferences(settings, readBack),
  ...(readBack.input
    ? [{ field: 'input' as const, ...(readBack.input as { wanted: string; found: string }) }]
    : []),
];

function settingConsequences(ctx: Context, graph: StationGraph, intent: SettingIntent): Consequences {
  return async (tx, action) => {
    const { readBack, differences } = settingOutcome.read(action.outcome);
    const equal = differences.length === 0;
    await ctx.db.settingRevision.update(
      { readBack, writtenAt: equal ? ctx.now() : null },
      {
        // Written once already and still held: nothing to close again.
        where: { stationId: action.stationId, id: intent.revisionId, ...(equal && { writtenAt: null }) },
        transaction: tx,
      },
    );
    await noteKeeping(ctx, tx, graph, false);
    await markRestart(ctx, tx, graph, action.intendedAt);
    await recordAct(ctx, tx, {
      stationId: action.stationId,
      channelId: action.channelId,
      occurredAt: ctx.now(),
      kind: 'write',
      text: equal
        ? `Wrote ${intent.says} to the logger; read back equal`
        : `Wrote ${intent.says}; read back differs in ${differences.map((d) => d.field).join(', ')}: not called written`,
      sum: differences.map((d) => `${d.field}: wrote ${d.wanted}, holds ${d.found}`).join('; ') || null,
      action: 'settings.write',
      subject: {
        actionId: action.id,
        revisionId: intent.revisionId,
        equal,
      },
    });
  };
}

export const settleSettings = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = settingIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => compareReadBack(ctx, graph, intent, lease),
    settingConsequences(ctx, graph, intent),
  );
};

const settingResult = (action: DeviceActionRow) => ({
  state: action.state,
  differences: action.outcome?.differences ? settingOutcome.read(action.outcome).differences : [],
  says: saysOf(action),
});

/** Staged and written settings of every channel, side by side. */
export async function channelSettingsView(db: Database, graph: StationGraph): Promise<ChannelSettingsView[]> {
  const people = new Map((await rows(db.person)).map((u) => [u.id, u.initials]));
  const view = (r: SettingRevisionRow | null): RevisionView | null =>
    r && {
      id: r.id,
      revision: r.revision,
      settings: r.settings,
      stagedAt: r.stagedAt.toISOString(),
      stagedBy: people.get(r.stagedBy) ?? '?',
      writtenAt: r.writtenAt?.toISOString() ?? null,
      differences: r.readBack ? differencesOf(r.settings, r.readBack) : null,
    };
  return graph.channels.filter(isLogged).map((c) => ({
    channelId: c.row.id,
    fed: c.installation !== null,
    wetMargin: c.output?.wetMargin ?? null,
    ways: [...waysOf(graph, c)],
    number: c.row.number,
    quantity: c.row.quantity,
    zoneName: c.row.zoneName,
    staged: view(c.staged),
    written: view(c.written),
    newest: c.newest,
    changes: c.staged && c.written ? settingDifferences(c.staged.settings, c.written.settings as never) : [],
  }));
}

/** Settings a new channel is offered: our own defaults. */
export const proposedSettings = (channel: ChannelNode, storageInterval = 600): ChannelSettings => {
  const q = quantityOf(channel.row.quantity);
  return {
    description: describeChannel(channel.row.zoneName, q.code),
    enabled: true,
    quantity: q.code,
    unit: q.unit as Unit,
    measurementInterval: Math.min(60, storageInterval),
    storageInterval,
    adjustIn: 'device',
  };
};
