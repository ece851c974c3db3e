import type { ClockStripView, RoundStop, RoundView } from '@/contract/views';
import {
  cairnOf,
  holding,
  joinAlike,
  type Finding,
  type FindingCode,
  type StoneName,
} from '@/core/trust/finding';
import { storedBring } from '@/db/stored/finding';
import { query, type Database } from '@/db/database';
import { unknownActions } from '../device/deviceAction';
import { contactsOf } from './facts';
import { mendStandings } from './standings';
import { findingView } from './views';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';

/** Which part of the Round is asked for. */
export interface RoundQuery {
  readonly page: number;
  /** Stops whose name, site or reasons hold this text. */
  readonly text: string;
}

/** So many stops a page, and so many reasons of each. */
const pageSize = 40;
const mostReasons = 6;

export const roundQuery = (p: URLSearchParams): RoundQuery => {
  const page = Number(p.get('page') ?? 1);
  return {
    page: Number.isInteger(page) && page > 0 ? Math.min(page, 10_000) : 1,
    text: (p.get('text') ?? '').trim().slice(0, 80),
  };
};

interface StopRow {
  stationId: string;
  code: string;
  name: string;
  site: string;
  cautions: string[];
  lastContact: Date | null;
}

interface StoredFinding {
  stationId: string;
  code: FindingCode;
  subjectKind: Finding['subject']['kind'];
  subjectId: string;
  who: string;
  stone: StoneName;
  state: Finding['state'];
  weight: number;
  text: string;
  next: string;
  bring: string[];
}

/** Stations worst first, with their reasons as they hold at `now`: read from what was derived of each. */
export async function round(
  db: Database,
  now: Date,
  { page, text }: RoundQuery = { page: 1, text: '' },
): Promise<RoundView> {
  const pending = await mendStandings(db);
  const like = `%${text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const filter = text
    ? `where s.code || ' ' || s.name || ' ' || si.name ilike :like
         or exists (select 1 from finding f where f.station_id = s.id and f.${holds} and f.who || ': ' || f.text ilike :like)`
    : '';
  const values = { now, like };
  const [counts, stops] = await Promise.all([
    query<{ total: number; needing: number }>(
      db,
      text
        ? `select count(*)::int as total, count(*) filter (where u.heaviest > 0)::int as needing
             from open_station s join site si on si.id = s.site_id
             left join station_urgency u on u.station_id = s.id and u.${holds} ${filter}`
        : `select (select count(*)::int from open_station) as total,
                  (select count(*)::int from station_urgency where ${holds} and heaviest > 0
                      and station_id in (select id from open_station)) as needing`,
      values,
    ),
    query<StopRow>(
      db,
      `select s.id as "stationId", s.code, s.name, si.name as site, s.cautions,
              (select max(at) from (${contactsOf('s.id')}) contact) as "lastContact"
         from (select s.id, s.site_id, s.code, s.name, s.cautions, coalesce(u.heaviest, 0) as heaviest, coalesce(u.total, 0) as total
                 from open_station s join site si on si.id = s.site_id
                 left join station_urgency u on u.station_id = s.id and u.${holds} ${filter}
                order by 5 desc, 6 desc, s.name, s.code limit ${pageSize} offset ${(page - 1) * pageSize}) s
         join site si on si.id = s.site_id order by s.heaviest desc, s.total desc, s.name, s.code`,
      values,
    ),
  ]);
  const found = await storedFindings(
    db,
    stops.map((s) => s.stationId),
    now,
  );
  return {
    ...counts[0]!,
    page,
    pageSize,
    pending,
    stops: stops.map((s) =>
      stopView(s, found.filter((f) => f.stationId === s.stationId).map(asFinding), now),
    ),
  };
}

const holds = 'from_at <= :now and until_at > :now';

/** What was derived of these stations, as it holds at an instant. */
const storedFindings = (db: Database, ids: readonly string[], now: Date): Promise<StoredFinding[]> =>
  ids.length === 0
    ? Promise.resolve([])
    : query<StoredFinding>(
        db,
        `select station_id as "stationId", code, subject_kind as "subjectKind", subject_id as "subjectId", who, stone, state,
                weight, text, next, bring from finding
          where station_id in (:ids) and ${holds} order by station_id, number`,
        { now, ids: [...ids] },
      );

/** Why a station needs someone now, worst first, alike ones said once. */
export async function findingsNow(db: Database, stationId: string, now: Date): Promise<Finding[]> {
  await mendStandings(db);
  return joinAlike(holding((await storedFindings(db, [stationId], now)).map(asFinding), now.getTime()));
}

const asFinding = ({ subjectKind: kind, subjectId: id, bring, ...f }: StoredFinding): Finding => ({
  ...f,
  bring: storedBring.read(bring),
  subject: { kind, id },
  from: -Infinity,
  until: Infinity,
  placeAt: null,
  channels: [],
});

function stopView(s: StopRow, findings: readonly Finding[], now: Date): RoundStop {
  const said = joinAlike(holding(findings, now.getTime()));
  return {
    ...s,
    lastContact: s.lastContact?.toISOString() ?? null,
    cairn: cairnOf(findings),
    findings: said.slice(0, mostReasons).map((f) => findingView(f, now.getTime())),
    more: Math.max(0, said.length - mostReasons),
    bring: [...new Set(said.flatMap((f) => f.bring))].slice(0, 8),
  };
}

/** What runs now, for the strip on every view. */
export async function clockStrip(db: Database): Promise<ClockStripView> {
  const [openChecks, staged, offLine, held, unknown] = await Promise.all([
    query<NamedChannel & { id: string; stationId: string; stationCode: string; since: Date }>(
      db,
      `select k.id, k.station_id as "stationId", c.station_code as "stationCode", ${namedColumns('c')}, k.opened_at as since
         from reference_check k join named_channel c on c.station_id = k.station_id and c.id = k.channel_id
        where k.closed_at is null order by k.opened_at`,
    ),
    query<{ stationId: string; stationCode: string; count: number; since: Date }>(
      db,
      `with waiting as (
         select r.station_id, r.channel_id as of, r.staged_at from setting_revision r
          where r.written_at is null and r.discarded_at is null
            and not exists (select 1 from setting_revision w where w.station_id = r.station_id and w.channel_id = r.channel_id
                             and w.written_at is not null and w.revision > r.revision)
         union all
         select r.station_id, r.logger_id, r.staged_at from own_setting r
          where r.written_at is null and r.discarded_at is null
            and not exists (select 1 from own_setting w where w.station_id = r.station_id and w.logger_id = r.logger_id
                             and w.written_at is not null and w.revision > r.revision))
       select r.station_id as "stationId", s.code as "stationCode", count(distinct r.of)::int as count, min(r.staged_at) as since
         from waiting r join station s on s.id = r.station_id group by 1, 2 order by 2`,
    ),
    query<NamedChannel & { stationCode: string; since: Date }>(
      db,
      `select c.station_code as "stationCode", ${namedColumns('c')}, l.from_at as since
         from active_layer l join named_channel c on c.station_id = l.station_id and c.id = l.channel_id
        where l.kind = 'off-line' and l.until_at is null`,
    ),
    query<{ stationId: string; stationCode: string; lineName: string; since: Date }>(
      db,
      `select h.station_id as "stationId", s.code as "stationCode", p.name as "lineName", h.begun_at as since
         from line_session h join station s on s.id = h.station_id
         join port p on p.station_id = h.station_id and p.id = h.port_id
        where h.ended_at is null order by h.begun_at`,
    ),
    unknownActions(db),
  ]);
  const iso = <T extends { since: Date }>(all: T[]) =>
    all.map((x) => ({ ...x, since: x.since.toISOString() }));
  const named = <T extends NamedChannel & { since: Date }>(all: T[]) =>
    iso(all).map(({ description, zoneName, quantity, ...kept }) => ({
      ...kept,
      channelName: channelName({ description, zoneName, quantity }),
    }));
  const unknownBy = new Map<string, number>();
  for (const a of unknown) unknownBy.set(a.stationId, (unknownBy.get(a.stationId) ?? 0) + 1);
  const codes = unknown.length
    ? await query<{ id: string; code: string }>(db, 'select id, code from station where id in (:ids)', {
        ids: [...unknownBy.keys()],
      })
    : [];
  return {
    openChecks: named(openChecks),
    staged: iso(staged),
    offLine: named(offLine),
    held: iso(held),
    unknown: codes.map((c) => ({ stationId: c.id, stationCode: c.code, count: unknownBy.get(c.id)! })),
  };
}
