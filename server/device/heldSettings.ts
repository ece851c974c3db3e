import type { HeldChannelView, HeldOwnView, HeldSettingsView } from '@/contract/settingViews';
import { inputDifference, inputText } from '@/core/device/inputText';
import { settingFields, type SettingField } from '@/core/settings/channelSettings';
import { ownFields, ownText, type OwnSettings } from '@/core/settings/ownSettings';
import { LoggerFault, type ChannelState, type Logger } from '@/devices/logger';
import type { Context } from '../context';
import {
  isLogged,
  loadStation,
  loggerOf,
  type LoggedChannel,
  type StationGraph,
} from '../station/stationGraph';
import { askLogger } from './askLogger';
import { inputOf } from './channelInput';
import { noteFirmware } from './loggerLabel';
import { loggerLink } from './loggerLink';
import { ownStanding, type OwnStanding } from './ownSettings';

/**
 * What the logger holds in every channel, asked now, beside what was written last and what is staged. Its firmware is
 * noted first. Nothing is written to it.
 */
export async function heldSettings(ctx: Context, stationId: string): Promise<HeldSettingsView> {
  const graph = await loadStation(ctx.db, stationId);
  loggerOf(graph);
  const link = await loggerLink(ctx, graph);
  const { firmware, held, own } = await askLogger(
    async () => {
      const status = await link.status();
      const channels: { channel: LoggedChannel; state: ChannelState | null }[] = [];
      for (const channel of graph.channels.filter(isLogged))
        channels.push({ channel, state: await heldBy(link, channel.row.number) });
      const ofItself = graph.loggerProfile?.own ? await link.own() : null;
      return { firmware: status.firmware, held: channels, own: ofItself };
    },
    'The logger could not be asked what it holds',
    'Nothing was changed. Check the link, then compare again.',
  );
  const faults = await noteFirmware(ctx, graph, firmware);
  const channels = held.map(({ channel, state }) => heldView(graph, channel, state));
  return {
    at: ctx.now().toISOString(),
    firmware,
    faults,
    own: own && ownHeld(own, await ownStanding(ctx.db, graph)),
    channels,
  };
}

/** What it holds of itself, beside what was written last and what is staged. */
function ownHeld(held: OwnSettings, { staged, history }: OwnStanding): HeldOwnView[] {
  const written = history[0]?.settings ?? null;
  return ownFields.map((field) => {
    const text = (of: OwnSettings | null | undefined) => (of ? ownText(of, field) : null);
    const [holds, wrote, wanted] = [ownText(held, field), text(written), text(staged?.settings)];
    return {
      field,
      staged: wanted === wrote ? null : wanted,
      held: holds,
      written: wrote,
      // Nobody told it anything yet: what it came with is no difference.
      changed: (wrote !== null && holds !== wrote) || (wanted !== null && wanted !== wrote),
    };
  });
}

/** What it holds in a channel; null for one that nobody configured there. */
async function heldBy(link: Logger, number: number): Promise<ChannelState | null> {
  try {
    return await link.channel(number);
  } catch (error) {
    // A refusal in its own words; silence is another matter.
    if (error instanceof LoggerFault && error.message.includes('not configured')) return null;
    throw error;
  }
}

function heldView(graph: StationGraph, c: LoggedChannel, state: ChannelState | null): HeldChannelView {
  const text = (settings: Partial<Record<SettingField, unknown>> | null | undefined, f: SettingField) =>
    settings?.[f] == null ? null : String(settings[f]);
  const written = c.written?.settings;
  const staged = c.staged?.settings;
  const fields = settingFields.map((field) => {
    const [wrote, held, wanted] = [written, state?.settings, staged].map((of) => text(of, field));
    const changed = held !== wrote || (staged !== undefined && wanted !== wrote);
    // What is staged to be none is said, too.
    const stagedText = staged === undefined || wanted === wrote ? null : (wanted ?? 'none');
    return { field, staged: stagedText, held: held ?? null, written: wrote ?? null, changed };
  });
  const told = inputOf(c, graph);
  const input = written && told ? inputDifference(told, state?.source ?? null) : null;
  return {
    channelId: c.row.id,
    number: c.row.number,
    name: c.name,
    configured: state?.settings != null,
    fields: [
      ...fields,
      ...(told
        ? [
            {
              field: 'input' as const,
              staged: null,
              held: input?.found ?? (written ? inputText(told) : null),
              written: written ? inputText(told) : null,
              changed: input !== null,
            },
          ]
        : []),
    ],
  };
}
