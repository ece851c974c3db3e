import { explanationsOf } from '@/core/circuit/explanation';
import { rigOfSession } from '@/core/circuit/verdict';
import type { HopKind } from '@/core/wiring/hop';
import { query, type Database } from '@/db/database';
import { storedSetup } from '@/db/stored/bench';
import type { StationGraph } from '../station/stationGraph';

/** What a meter said of a path last. */
export interface Proven {
  readonly at: Date;
  readonly by: string;
  readonly says: string;
  /** Where the fault sits; null where nothing is wrong, or it was left undecided. */
  readonly hop: HopKind | null;
  readonly isSound: boolean;
}

/** By channel, what it came to when its sensor was measured last: the sensor that hangs there now. */
export async function lastProven(db: Database, graph: StationGraph): Promise<ReadonlyMap<string, Proven>> {
  const found = await query<{
    channelId: string;
    installationId: string;
    setup: unknown;
    at: Date;
    by: string;
    outcome: string;
    says: string;
  }>(
    db,
    `select distinct on (b.channel_id) b.channel_id as "channelId", b.installation_id as "installationId", b.setup,
            b.ended_at as at, p.initials as by, b.outcome, b.says
       from bench_session b join person p on p.id = b.ended_by
      where b.station_id = :stationId and b.ended_at is not null
      order by b.channel_id, b.ended_at desc`,
    { stationId: graph.station.id },
  );
  return new Map(
    found.flatMap(({ channelId, installationId, setup, outcome, ...rest }) => {
      const its = graph.installations.find((i) => i.row.id === installationId);
      if (!its) return [];
      const rig = rigOfSession(its.profile, storedSetup.read(setup));
      const hop = explanationsOf(rig, true).find((e) => e.id === outcome)?.hop ?? null;
      return [[channelId, { ...rest, hop, isSound: outcome === 'none' }] as const];
    }),
  );
}

/** Hops that a meter reaches. */
const reached: readonly HopKind[] = ['element', 'leads', 'input'];

/**
 * What a hop shows of it: proven good, the fault itself, or that the fault sits elsewhere; null where a meter says
 * nothing of it.
 */
export function provenAt(kind: HopKind, proven: Proven | null): { text: string; at: string } | null {
  if (!proven) return null;
  const at = proven.at.toISOString();
  if (proven.hop === kind) return { text: `${proven.says} (meter, ${proven.by})`, at };
  if (!reached.includes(kind)) return null;
  if (proven.isSound) return { text: `good by the meter, ${proven.by}`, at };
  return proven.hop ? { text: `not the fault, by the meter, ${proven.by}`, at } : null;
}
