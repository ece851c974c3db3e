import type { StageTemplate } from '@/contract/requests';
import { describeChannel, quantityOf } from '@/core/quantity/quantity';
import { settingDifferences } from '@/core/settings/channelSettings';
import { applyTemplate, type SettingsTemplate } from '@/core/settings/template';
import type { Database } from '@/db/database';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, loggerNumber, loggerOf, type StationGraph } from '../station/stationGraph';
import { ownStanding, stageOwnRevision } from './ownSettings';
import { stageEach, type Wanted } from './stageEach';

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
      const { description: _, wetAbove: __, ...rest } = settings;
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
    const wanted = taken.flatMap(({ id, settings }): Wanted[] => {
      const { channel } = here.find((h) => h.target.id === id)!;
      const now = (channel.staged ?? channel.written)?.settings;
      const { zoneName, quantity } = channel.row;
      const description = now?.description ?? describeChannel(zoneName, quantityOf(quantity).code);
      const next = { ...settings, description, ...(now?.wetAbove != null && { wetAbove: now.wetAbove }) };
      return now && settingDifferences(next, now).length === 0 ? [] : [{ channel, settings: next }];
    });
    await stageEach(ctx, tx, stationId, wanted, {
      action: 'settings.stage-template',
      says: (of) => `Staged settings by the template of ${template.from} for channels ${of}`,
      from: template.from,
    });
    return {
      staged: wanted.length,
      equal: taken.length - wanted.length,
      unused: unused.map((c) => `${c.sensor} ${c.output}`),
    };
  });
}

/** Stages what was written before the last time: for every channel that was written more than once, and for the logger itself. */
export async function stagePrevious(ctx: Context, stationId: string): Promise<{ staged: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    loggerOf(graph);
    const own = await ownStanding(ctx.db, graph, tx);
    if (own.staged)
      throw inTheWay(
        'settings-staged',
        'Station ID and name are staged and not written.',
        'Write or discard them first: then it is clear what was there before.',
      );
    const waiting = graph.channels.filter((c) => isLogged(c) && c.staged);
    if (waiting.length > 0)
      throw inTheWay(
        'settings-staged',
        `Settings of channel ${waiting.map(loggerNumber).join(', ')} are staged and not written.`,
        'Write or discard them first: then it is clear what was there before.',
      );
    const before = graph.channels.flatMap((channel): Wanted[] => {
      const last = channel.history.at(-2);
      return isLogged(channel) && channel.installation && last ? [{ channel, settings: last.settings }] : [];
    });
    const ownBefore = own.history[1];
    if (before.length === 0 && !ownBefore)
      throw inTheWay(
        'nothing-before',
        'Nothing was written more than once.',
        'There is nothing to go back to.',
      );
    await stageEach(ctx, tx, stationId, before, {
      action: 'settings.stage-previous',
      says: (of) => `Staged what was written before for channels ${of}`,
    });
    if (ownBefore) await stageOwnRevision(ctx, tx, graph, own, ownBefore.settings);
    return { staged: before.length + (ownBefore ? 1 : 0) };
  });
}
