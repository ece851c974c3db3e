import type { StationLiveView } from '@/contract/views';
import { faultAdvice } from '@/core/bus/faultAdvice';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import type { TalkOutcome } from '@/db/stored/action';
import type { Context } from '../context';
import { withLease } from '../device/lease';
import { loggerLink } from '../device/loggerLink';
import { askSensor, wayTo } from '../device/talk';
import { newId } from '../id';
import { isLogged, loadStation, loggerOf, type InstallationNode, type StationGraph } from './stationGraph';

/**
 * What every hop of an open station shows at this moment: the sensors asked over their bus, one talker at a
 * time, and the logger for its own values. Nothing is kept: it is a look, not a talk. What does not answer
 * leaves its hop as it was.
 */
export async function stationLive(ctx: Context, stationId: string): Promise<StationLiveView> {
  const graph = await loadStation(ctx.db, stationId);
  // A station without a logger is refused; one whose logger is silent shows what it had.
  loggerOf(graph);
  const [logger, ...sensors] = await Promise.all([
    loggerLink(ctx, graph)
      .then((logger) => logger.live())
      .catch(() => null),
    // What the logger measures is in its own answer; only sensors on a line are asked apart.
    ...graph.installations
      .filter((i) => wayTo(graph, i).own)
      .map(async (i) => [i.row.id, await look(ctx, graph, i)] as const),
  ]);
  const asked = new Map(sensors);
  return {
    at: ctx.now().toISOString(),
    channels: graph.channels.filter(isLogged).map((c) => {
      const outcome = asked.get(c.installation?.row.id ?? '') ?? null;
      const { output } = c;
      const found = outcome?.decoded.find((d) => d.output === output?.key);
      const q = quantityOf(c.row.quantity);
      const decimals = output ? Math.min(q.decimals + 1, decimalsOf(output.resolution)) : q.decimals;
      const shown = logger?.channels.find((l) => l.number === c.row.number)?.value ?? null;
      const unit = c.written?.settings.unit ?? q.unit;
      return {
        channelId: c.row.id,
        hops: {
          ...(found?.value != null && { element: `${formatValue(found.value, decimals)} ${q.unit}` }),
          ...(outcome && { input: outcome.fault ? faultAdvice(outcome.fault).title : 'answered' }),
          ...(found?.raw != null && { conversion: `raw ${found.raw}` }),
          ...(shown !== null && { record: `${formatValue(shown, decimals)} ${unit}` }),
        },
      };
    }),
  };
}

/** A sensor's answer, or null where its line is busy or its address may not be dialled. */
const look = (ctx: Context, graph: StationGraph, i: InstallationNode): Promise<TalkOutcome | null> =>
  withLease(ctx.db, wayTo(graph, i).line, newId(), (lease) => askSensor(ctx, graph, i, lease)).catch(
    () => null,
  );
