import { planContext } from '@/core/plan/context';
import type { Database } from '@/db/database';
import { terminalLabel } from '../device/channelInput';
import type { StationGraph } from '../station/stationGraph';
import { newestPlan, profilesFor } from './plan';

/** "white on A3, planned A2": where the leads of sensors lie elsewhere than planned, by installation. */
export async function deviations(
  db: Database,
  graph: StationGraph,
): Promise<ReadonlyMap<string, readonly string[]>> {
  const saved = await newestPlan(db, graph.station.id);
  if (!saved) return new Map();
  const context = planContext(saved.body, await profilesFor(db, saved.body));
  return new Map(
    graph.installations.flatMap((i) => {
      const planned = context.byId.get(i.row.id);
      const said = planned?.leads.flatMap((l) => {
        const landed = i.leads.find((x) => x.colour === l.colour);
        const wanted = l.terminal?.terminal.label ?? null;
        const is = landed && terminalLabel(graph, landed.terminalId);
        return is === undefined || is === wanted ? [] : [deviationText(l.colour, is, wanted)];
      });
      return said?.length ? [[i.row.id, said] as const] : [];
    }),
  );
}

/** Where a lead landed, and where it was planned. */
export const deviationText = (colour: string, landed: string, planned: string | null): string =>
  `${colour} on ${landed}, planned ${planned ?? 'nowhere'}`;
