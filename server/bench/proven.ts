import type { Circuit } from '@/core/circuit/circuit';
import { explanationsOf } from '@/core/circuit/explanation';
import { hopOf, lastOfEach } from '@/core/circuit/session';
import { rigOfSession } from '@/core/circuit/verdict';
import { readingWords } from '@/core/circuit/words';
import { outputOf } from '@/core/device/profile';
import { quantityOf } from '@/core/quantity/quantity';
import type { HopKind } from '@/core/wiring/hop';
import { query, rows, type Database } from '@/db/database';
import type { BenchReadingRow } from '@/db/rows';
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
  /** What was read at each hop, in words. */
  readonly read: Readonly<Partial<Record<HopKind, string>>>;
}

/** So many readings of a hop are said. */
const mostSaid = 3;

/** By channel, what it came to when its sensor was measured last: the sensor that hangs there now. */
export async function lastProven(db: Database, graph: StationGraph): Promise<ReadonlyMap<string, Proven>> {
  const found = await query<{
    id: string;
    channelId: string;
    installationId: string;
    setup: unknown;
    at: Date;
    by: string;
    outcome: string;
    says: string;
  }>(
    db,
    `select distinct on (b.channel_id) b.id, b.channel_id as "channelId", b.installation_id as "installationId", b.setup,
            b.ended_at as at, p.initials as by, b.outcome, b.says
       from bench_session b join person p on p.id = b.ended_by
      where b.station_id = :stationId and b.ended_at is not null
      order by b.channel_id, b.ended_at desc`,
    { stationId: graph.station.id },
  );
  const readings = await rows(db.benchReading, {
    where: { stationId: graph.station.id, sessionId: found.map((f) => f.id) },
    order: [
      ['occurredAt', 'ASC'],
      ['id', 'ASC'],
    ],
  });
  return new Map(
    found.flatMap(({ id, channelId, installationId, setup, outcome, ...rest }) => {
      const its = graph.installations.find((i) => i.row.id === installationId);
      if (!its) return [];
      const rig = rigOfSession(its.profile, storedSetup.read(setup));
      const hop = explanationsOf(rig, true).find((e) => e.id === outcome)?.hop ?? null;
      const read = readAt(
        readings.filter((r) => r.sessionId === id),
        rig.at(rig.range[1]),
        quantityOf(outputOf(its.profile, storedSetup.read(setup).outputKey)!.quantity).unit,
      );
      return [[channelId, { ...rest, hop, isSound: outcome === 'none', read }] as const];
    }),
  );
}

/** What was read at each hop last, in the order it was read. */
function readAt(readings: readonly BenchReadingRow[], circuit: Circuit, unit: string): Proven['read'] {
  const last = lastOfEach(readings.map((r) => ({ ...r, at: r.occurredAt.getTime() })));
  const said = new Map<HopKind, string[]>();
  for (const { measured, shows } of last) {
    const hop = hopOf(measured, circuit);
    if (hop) said.set(hop, [...(said.get(hop) ?? []), readingWords(measured, shows, unit)]);
  }
  return Object.fromEntries([...said].map(([hop, all]) => [hop, all.slice(0, mostSaid).join(', ')]));
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
  const its = proven.read[kind];
  const read = its ? `: ${its}` : '';
  if (proven.hop === kind) return { text: `${proven.says} (meter, ${proven.by})${read}`, at };
  if (!reached.includes(kind)) return null;
  if (proven.isSound) return { text: `good by the meter, ${proven.by}${read}`, at };
  if (proven.hop) return { text: `not the fault, by the meter, ${proven.by}${read}`, at };
  // Left undecided, what was read here stands all the same.
  return its ? { text: `measured, ${proven.by}${read}`, at } : null;
}
