import { terminalsOf } from '@/core/device/loggerProfile';
import { openSdi12 } from '@/devices/sdi12Adapter';
import type { Context } from '../context';
import { adapterOf, busLine, loggerLine, resolveDevice } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { badField } from '../problem';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { requireHeld } from './session';

/**
 * A data line of SDI-12 and who speaks on it: its logger, which makes break and marking itself and passes a command on
 * in its own time, so that nobody has to be quiet; or an adapter of its own on the network, a second master, for which
 * the logger has to hold its polling or its lead has to be lifted.
 */
export type SpokenBy = 'logger' | 'adapter';

export interface Sdi12Line {
  readonly graph: StationGraph;
  readonly terminal: string;
  /** What its lease is called. */
  readonly line: string;
  open(): Promise<{ say(command: string): Promise<string | null>; close(): void }>;
}

/** Terminals of a station's logger on which SDI-12 is spoken. */
export const sdi12Terminals = (graph: StationGraph): readonly string[] =>
  graph.loggerProfile
    ? terminalsOf(graph.loggerProfile)
        .filter(({ terminal }) => terminal.abilities.some((a) => a.does === 'sdi-12'))
        .map(({ terminal }) => terminal.label)
    : [];

/** The port a terminal belongs to, and where its adapter is. */
export function adapterAt(
  graph: StationGraph,
  terminal: string,
): { readonly portId: string; readonly name: string; readonly address: string } | null {
  const port = graph.ports.find((p) => p.terminals.some((t) => t.label === terminal));
  const address = port ? adapterOf(port) : null;
  return port && address !== null ? { portId: port.id, name: port.name, address } : null;
}

/** The line at a terminal, for acts on it. */
export async function sdi12Line(
  ctx: Context,
  stationId: string,
  terminal: string,
  by: SpokenBy,
): Promise<Sdi12Line> {
  const graph = await loadStation(ctx.db, stationId);
  loggerOf(graph);
  if (!sdi12Terminals(graph).includes(terminal))
    throw badField(
      'no-data-line',
      'terminal',
      terminal,
      `SDI-12 is not spoken on "${terminal}".`,
      'Choose a terminal of the logger that carries it.',
    );
  if (by === 'logger') return spoken(ctx, graph, terminal, by);
  const adapter = adapterAt(graph, terminal);
  if (!adapter)
    throw badField(
      'no-adapter',
      'by',
      by,
      `No adapter speaks on ${terminal}.`,
      'Speak through the logger, or say under Set up where its adapter is.',
    );
  await requireHeld(ctx, stationId, adapter);
  return spoken(ctx, graph, terminal, by);
}

/** The same for settling what was said already. */
export async function spoken(
  ctx: Context,
  graph: StationGraph,
  terminal: string,
  by: SpokenBy,
): Promise<Sdi12Line> {
  const adapter = by === 'adapter' ? adapterAt(graph, terminal) : null;
  if (!adapter) {
    const line = loggerLine(loggerOf(graph).address);
    return {
      graph,
      terminal,
      line,
      async open() {
        const logger = await loggerLink(ctx, graph);
        return { say: (command) => logger.sdi12(terminal, command), close: () => {} };
      },
    };
  }
  const at = await resolveDevice(ctx, adapter.address);
  return { graph, terminal, line: busLine(adapter.address), open: () => openSdi12(at) };
}
