import type { StageTemplate } from '@/contract/requests';
import { describeChannel, quantityOf } from '@/core/quantity/quantity';
import { settingDifferences } from '@/core/settings/channelSettings';
import { applyTemplate, type SettingsTemplate } from '@/core/settings/template';
import type { Database } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, loggerNumber, loggerOf, type StationGraph } from '../station/stationGraph';
import { stageRevision } from './stageRevision';
import { refuseUnfit } from './unfitSettings';

/** Settings of a whole logger as JSON for other stations, by what feeds each channel. */

const feds = (graph: StationGraph) =>
  graph.channels.filter(isLogged).flatMap((c) => {
    const { installation, output } = c;
    return installation && output
      ? [{ channel: c, target: { id: c.row.id, sensor: installation.profile.code, output: output.key } }]
      : [];
  });

/** The settings of a station as they stand, staged before written. */
export async function settingsTemplate(db: Database, stationId: string): Promise<SettingsTemplate> {
  const graph = await loadStation(db, stationId);
  loggerOf(graph);
  return {
    format: 'outer-cairn-settings',
    version: 1,
    from: `${graph.station.code} ${graph.station.name}`,
    channels: feds(graph).flatMap(({ channel, target: { sensor, output } }) => {
      const settings = (channel.staged ?? channel.written)?.settings;
      if (!settings) return [];
      const { description: _, ...rest } = settings;
      return [{ sensor, output, settings: rest }];
    }),
  };
}

/**
 * Stages the settings of a template wherever a channel is fed by the same model and output; refused where none is.
 * Descriptions stay this station's own.
 */
export async function stageTemplate(
  ctx: Context,
  stationId: string,
  { template }: StageTemplate,
): Promise<{ staged: number; equal: number; unused: readonly string[] }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    loggerOf(graph);
    const here = feds(graph);
    const { taken, unused } = applyTemplate(
      template,
      here.map((h) => h.target),
    );
    if (taken.length === 0)
      throw badField(
        'template-other-models',
        'template',
        template.from,
        `The template of ${template.from} is for ${[...new Set(template.channels.map((c) => c.sensor))].join(', ') || 'no channel at all'}; here hang ${[...new Set(here.map((h) => h.target.sensor))].join(', ') || 'no sensors'}.`,
        'Use a template of a station with the same models.',
      );
    const staged: number[] = [];
    for (const { id, settings } of taken) {
      const { channel } = here.find((h) => h.target.id === id)!;
      const now = (channel.staged ?? channel.written)?.settings;
      const wanted = {
        ...settings,
        description:
          now?.description ?? describeChannel(channel.row.zoneName, quantityOf(channel.row.quantity).code),
      };
      if (now && settingDifferences(wanted, now).length === 0) continue;
      refuseUnfit(channel, wanted);
      await stageRevision(ctx, tx, channel, wanted);
      staged.push(loggerNumber(channel));
    }
    if (staged.length > 0)
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'stage',
        text: `Staged settings by the template of ${template.from} for channels ${staged.join(', ')}, not yet written`,
        action: 'settings.stage-template',
        subject: { from: template.from, channels: staged },
      });
    return {
      staged: staged.length,
      equal: taken.length - staged.length,
      unused: unused.map((c) => `${c.sensor} ${c.output}`),
    };
  });
}

/** Stages, for every channel that was written more than once, what was written before the last time. */
export async function stagePrevious(ctx: Context, stationId: string): Promise<{ staged: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    loggerOf(graph);
    const waiting = graph.channels.filter((c) => isLogged(c) && c.staged);
    if (waiting.length > 0)
      throw inTheWay(
        'settings-staged',
        `Settings of channel ${waiting.map(loggerNumber).join(', ')} are staged and not written.`,
        'Write or discard them first: then it is clear what was there before.',
      );
    const before = graph.channels.flatMap((c) => {
      const last = c.history.at(-2);
      return isLogged(c) && c.installation && last ? [{ c, settings: last.settings }] : [];
    });
    for (const { c, settings } of before) {
      refuseUnfit(c, settings);
      await stageRevision(ctx, tx, c, settings);
    }
    if (before.length === 0)
      throw inTheWay(
        'nothing-before',
        'No channel was written more than once.',
        'There is nothing to go back to.',
      );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'stage',
      text: `Staged what was written before for channels ${before.map(({ c }) => loggerNumber(c)).join(', ')}, not yet written`,
      action: 'settings.stage-previous',
      subject: { channels: before.map(({ c }) => c.row.id) },
    });
    return { staged: before.length };
  });
}
