import { channelInput, type ChannelInput } from '@/core/device/channelInput';
import type { ChannelNode, InstallationNode, StationGraph } from '../station/stationGraph';

/** The label of a terminal of a station. */
export const terminalLabel = (graph: Pick<StationGraph, 'ports'>, id: string): string =>
  graph.ports.flatMap((p) => p.terminals).find((t) => t.id === id)?.label ?? '?';

/** Where a sensor hangs, as its input is described by. */
const hanging = (i: InstallationNode, graph: Pick<StationGraph, 'ports'>) => ({
  busId: i.row.busId,
  busAddress: i.row.busAddress,
  serial: i.sensor.serial,
  leads: i.leads.map((l) => ({ colour: l.colour, terminal: terminalLabel(graph, l.terminalId) })),
});

/** What the logger is told of a channel's input; null without a sensor, or while a lead it needs is open. */
export const inputOf = (
  { installation, output }: Pick<ChannelNode, 'installation' | 'output'>,
  graph: Pick<StationGraph, 'ports'>,
): ChannelInput | null =>
  installation && output ? channelInput(installation.profile, output, hanging(installation, graph)) : null;
