import type { ChannelSettings } from './channelSettings';

/** Settings of a logger's channels to be used at other stations: by what feeds each, not by its number. */
export interface TemplateChannel {
  /** Code of the sensor's profile, and the key of its output. */
  readonly sensor: string;
  readonly output: string;
  /** Without its description, that names a place, and from where on it is wet, that was read at a place. */
  readonly settings: Omit<ChannelSettings, 'description' | 'wetAbove'>;
}
export interface SettingsTemplate {
  readonly format: 'outer-cairn-settings';
  readonly version: 1;
  /** Where it comes from, in words. */
  readonly from: string;
  readonly channels: readonly TemplateChannel[];
}

/** A channel that may take settings of a template. */
export interface TemplateTarget {
  readonly id: string;
  readonly sensor: string;
  readonly output: string;
}

/**
 * Which channel takes which settings of a template: by sensor model and output, several of one kind in their order,
 * the last one again where the template has fewer. Our own.
 *
 * @param template of another station
 * @param targets channels of this one, by number
 * @returns what is taken, and what of the template found no place here
 */
export function applyTemplate(
  template: SettingsTemplate,
  targets: readonly TemplateTarget[],
): {
  readonly taken: readonly { readonly id: string; readonly settings: TemplateChannel['settings'] }[];
  readonly unused: readonly TemplateChannel[];
} {
  const kindOf = ({ sensor, output }: Pick<TemplateChannel, 'sensor' | 'output'>) => `${sensor} ${output}`;
  const used = new Set<TemplateChannel>();
  const seen = new Map<string, number>();
  const taken = targets.flatMap((target) => {
    const of = template.channels.filter((c) => kindOf(c) === kindOf(target));
    const nth = seen.get(kindOf(target)) ?? 0;
    seen.set(kindOf(target), nth + 1);
    const channel = of[Math.min(nth, of.length - 1)];
    if (!channel) return [];
    used.add(channel);
    return [{ id: target.id, settings: channel.settings }];
  });
  return { taken, unused: template.channels.filter((c) => !used.has(c)) };
}
