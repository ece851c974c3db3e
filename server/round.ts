import type { ClockStripView, RoundStop, RoundView } from '@/contract/views';
import { byUrgency, cairnOf, type Finding } from '@/core/trust/finding';
import { findingsOf } from '@/core/trust/findings';
import { query, type Database } from '@/db/database';
import { unknownActions } from './deviceAction';
import { gatherFacts } from './facts';
import { loadStations } from './stationGraph';

/** Every station, worst first, with its reasons: derived from what is known at `now`. */
export async function round(db: Database, now: Date): Promise<RoundView> {
  const graphs = await loadStations(db);
  const facts = await gatherFacts(db, graphs, now);
  const stops = graphs.map((g): RoundStop => {
    const known = facts.get(g.station.id)!;
    const findings = sorted(findingsOf(known));
    return {
      stationId: g.station.id,
      code: g.station.code,
      name: g.station.name,
      site: g.site.name,
      cautions: g.station.cautions,
      cairn: cairnOf(findings),
      findings,
      bring: [...new Set(findings.flatMap((f) => f.bring))],
      lastContact: known.lastContact === null ? null : new Date(known.lastContact).toISOString(),
    };
  });
  return { at: now.toISOString(), stops: stops.sort(byUrgency) };
}

export const sorted = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort((a, b) => b.weight - a.weight);

/** What runs now, for the strip on every view. */
export async function clockStrip(db: Database): Promise<ClockStripView> {
  const name = `coalesce((select r.settings->>'description' from setting_revision r
     where r.station_id = c.station_id and r.channel_id = c.id order by r.revision desc limit 1), c.zone_name)`;
  const [openChecks, staged, offLine, unknown] = await Promise.all([
    query<{ id: string; stationId: string; stationCode: string; channelName: string; since: Date }>(
      db,
      `select k.id, k.station_id as "stationId", s.code as "stationCode", ${name} as "channelName", k.opened_at as since
         from reference_check k join station s on s.id = k.station_id
         join channel c on c.station_id = k.station_id and c.id = k.channel_id
        where k.closed_at is null order by k.opened_at`,
    ),
    query<{ stationId: string; stationCode: string; count: number; since: Date }>(
      db,
      `select r.station_id as "stationId", s.code as "stationCode", count(distinct r.channel_id)::int as count, min(r.staged_at) as since
         from setting_revision r join station s on s.id = r.station_id
        where r.written_at is null and r.discarded_at is null
          and not exists (select 1 from setting_revision w where w.station_id = r.station_id and w.channel_id = r.channel_id
                           and w.written_at is not null and w.revision > r.revision)
        group by 1, 2 order by 2`,
    ),
    query<{ stationCode: string; channelName: string; since: Date }>(
      db,
      `select s.code as "stationCode", ${name} as "channelName", l.from_at as since
         from layer l join station s on s.id = l.station_id join channel c on c.station_id = l.station_id and c.id = l.channel_id
        where l.kind = 'off-line' and l.until_at is null
          and not exists (select 1 from layer r where r.station_id = l.station_id and r.revokes = l.id)`,
    ),
    unknownActions(db),
  ]);
  const iso = <T extends { since: Date }>(all: T[]) =>
    all.map((x) => ({ ...x, since: x.since.toISOString() }));
  const unknownBy = new Map<string, number>();
  for (const a of unknown) unknownBy.set(a.stationId, (unknownBy.get(a.stationId) ?? 0) + 1);
  const codes = unknown.length
    ? await query<{ id: string; code: string }>(db, 'select id, code from station where id in (:ids)', {
        ids: [...unknownBy.keys()],
      })
    : [];
  return {
    openChecks: iso(openChecks),
    staged: iso(staged),
    offLine: iso(offLine),
    unknown: codes.map((c) => ({ stationId: c.id, stationCode: c.code, count: unknownBy.get(c.id)! })),
  };
}
