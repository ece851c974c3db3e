import type { Transaction } from 'sequelize';
import { findingsOf } from '@/core/trust/findings';
import { standingOverTime, urgencyOverTime } from '@/core/trust/standing';
import { query, type Database } from '@/db/database';
import { Problem } from '../problem';
import { loadStation, type StationGraph } from '../station/stationGraph';
import { mendDerived } from '../record/mendDerived';
import { approvals } from '../verify/approval';
import { gatherFacts } from './facts';

/**
 * What the Round and Verify read: the findings of every station and what follows from them, kept as they
 * were derived. The database marks a station in every transaction that changes a fact of it; the next
 * reader derives it anew.
 */

/** Class of the advisory lock under which one process at a time derives a station. */
const deriveLock = 4715;
/** So many stations are derived before a list is answered; the others are said to be pending. */
const mostAtOnce = 40;

/**
 * One derivation at a time in a process: each needs several connections of the pool. Whoever asks meanwhile
 * shares the next one, which begins after all of them asked. Kept on globalThis, as the pool is.
 */
const mending = ((globalThis as { outerCairnMending?: Mending }).outerCairnMending ??= {
  now: null,
  next: null,
});

interface Mending {
  now: Promise<number> | null;
  next: Promise<number> | null;
}

/** Derives anew what was marked; how many stations are still left. */
export function mendStandings(db: Database, most = mostAtOnce): Promise<number> {
  const begin = (): Promise<number> => {
    const run = mend(db, most).finally(() => {
      if (mending.now === run) mending.now = null;
    });
    return (mending.now = run);
  };
  if (!mending.now) return begin();
  return (mending.next ??= mending.now
    .catch(() => 0)
    .then(() => {
      mending.next = null;
      return begin();
    }));
}

async function mend(db: Database, most: number): Promise<number> {
  await mendDerived(db);
  const marked = await query<{ stationId: string }>(
    db,
    'select distinct station_id as "stationId" from standing_mark limit :n',
    { n: most + 1 },
  );
  for (const { stationId } of marked.slice(0, most)) await deriveStation(db, stationId);
  return Math.max(0, marked.length - most);
}

/** Derives a station from what is stored, and takes away the marks it answers. */
async function deriveStation(db: Database, stationId: string): Promise<void> {
  const run = (tx: Transaction, sql: string, bind: unknown[]) =>
    db.sequelize.query(sql, { bind, transaction: tx });
  await db.transact(async (tx) => {
    await run(tx, 'select pg_advisory_xact_lock($1::int, hashtext($2::text))', [deriveLock, stationId]);
    const [, marks] = await run(tx, 'delete from standing_mark where station_id = $1', [stationId]);
    if ((marks as { rowCount?: number }).rowCount === 0) return;
    // What is read from here on is at least as new as the marks taken away.
    const graph = await loadStation(db, stationId).catch((error: unknown) => {
      // A station of another time, as in a test that made only its row.
      if (error instanceof Problem) return null;
      throw error;
    });
    if (!graph) return;
    const { facts, newest } = await gatherFacts(db, graph);
    const findings = findingsOf(facts);
    const places = new Map(
      graph.channels.map((c) => [c.row.id, `${graph.station.code} ${String(c.row.number).padStart(3, '0')}`]),
    );
    for (const table of ['finding', 'channel_word', 'station_urgency'])
      await run(tx, `delete from ${table} where station_id = $1`, [stationId]);
    await insert(
      db,
      tx,
      stationId,
      'finding',
      findingColumns,
      findings.map((f, number) => ({
        ...f,
        number,
        kind: f.subject.kind,
        id: f.subject.id,
        place: instant(f.placeAt ?? null),
        from: instant(f.from),
        until: instant(f.until),
      })),
    );
    await insert(
      db,
      tx,
      stationId,
      'channel_word',
      wordColumns,
      facts.channels.flatMap((c) =>
        standingOverTime(findings, c).map(({ from, until, is }) => ({
          id: c.id,
          ...is,
          place: instant(is.placeAt),
          from: instant(from),
          until: instant(until),
          order: places.get(c.id),
        })),
      ),
    );
    await insert(
      db,
      tx,
      stationId,
      'station_urgency',
      urgencyColumns,
      urgencyOverTime(findings).map(({ from, until, is }) => ({
        ...is,
        from: instant(from),
        until: instant(until),
      })),
    );
    await storeNumbers(db, tx, graph, facts.channels, facts.logger, newest);
  });
}

const findingColumns = `number smallint, code text, kind text, id uuid, who text, stone text, state text, weight smallint,
  "from" timestamptz, until timestamptz, text text, next text, bring jsonb, place timestamptz, channels jsonb`;
const wordColumns = `id uuid, "from" timestamptz, until timestamptz, word text, weight smallint, reason text, place timestamptz, "order" text`;
const urgencyColumns = `"from" timestamptz, until timestamptz, heaviest smallint, total integer`;

/** Rows as they are given, one statement however many. */
async function insert(
  db: Database,
  tx: Transaction,
  stationId: string,
  table: string,
  columns: string,
  all: readonly object[],
): Promise<void> {
  if (all.length === 0) return;
  await db.sequelize.query(
    `insert into ${table} select $1::uuid, r.* from jsonb_to_recordset($2::jsonb) as r(${columns})`,
    { bind: [stationId, JSON.stringify(all)], transaction: tx },
  );
}

/** An instant for the database; it knows no beginning and no end as well as we do. */
function instant(ms: number | null): string | null {
  if (ms === null) return null;
  // PostgreSQL holds instants from 4713 BC to 294276 AD, and nobody plans beyond.
  if (ms < -2e14) return '-infinity';
  if (ms > 9e15 || ms > 2e14) return 'infinity';
  return new Date(ms).toISOString();
}

/** The numbers the Verify list shows and sorts by. */
async function storeNumbers(
  db: Database,
  tx: Transaction,
  graph: StationGraph,
  channels: Awaited<ReturnType<typeof gatherFacts>>['facts']['channels'],
  logger: Awaited<ReturnType<typeof gatherFacts>>['facts']['logger'],
  newest: ReadonlyMap<number, { at: number; value: number }>,
): Promise<void> {
  const approved = await approvals(db, graph.station.id);
  const all = channels.map((c) => {
    const node = graph.channels.find((x) => x.row.id === c.id)!;
    const last = newest.get(node.row.key) ?? null;
    const approval = approved.get(c.id) ?? null;
    const logged = c.source === 'logger';
    const { record, reference } = c;
    return {
      channel_id: c.id,
      station_code: graph.station.code,
      station_name: graph.station.name,
      site: graph.site.name,
      quantity: c.quantity,
      name: c.name,
      last_at: instant(last?.at ?? null),
      last_value: last?.value ?? null,
      collected_at: logged ? instant(logger?.lastCollectedAt ?? null) : null,
      checked_at: logged ? instant(reference.last?.at ?? null) : null,
      difference: reference.last?.difference ?? null,
      difference_limit: reference.last?.limit ?? null,
      missing: record.gaps.reduce((n, g) => n + g.missing, 0),
      suspect: record.flagged.suspect,
      failed: record.flagged.failed,
      twin_difference: record.twin?.difference ?? null,
      twin_limit: record.twin?.limit ?? null,
      clock_difference: logged ? (logger?.clock?.difference ?? null) : null,
      approved_from: approval?.from.toISOString() ?? null,
      approved_until: approval?.until.toISOString() ?? null,
      approved_by: approval?.initials ?? null,
      approved_at: approval?.at.toISOString() ?? null,
      reopened: approval?.reopened ?? null,
    };
  });
  if (all.length === 0) return;
  const columns = Object.keys(all[0]!);
  await db.sequelize.query('delete from channel_standing where station_id = $1', {
    bind: [graph.station.id],
    transaction: tx,
  });
  await db.sequelize.query(
    `insert into channel_standing (station_id, ${columns.join(', ')})
     select $1::uuid, ${columns.map((c) => `r.${c}`).join(', ')}
       from jsonb_populate_recordset(null::channel_standing, $2::jsonb) r`,
    { bind: [graph.station.id, JSON.stringify(all)], transaction: tx },
  );
}
