import Papa from 'papaparse';
import { plainText } from '@/core/export/plainText';
import type { ImportStartView, ImportView } from '@/contract/recordViews';
import { storedPlan } from '@/db/stored/settings';
import { query, type Database } from '@/db/database';
import type { ImportPlan } from '@/core/import/plan';
import { isId } from '../id';
import { notFound } from '../problem';
import { loadStation } from '../station/stationGraph';
import { importLimit } from './declare';
import { importIssues, mostIssues } from './issues';
import { importLock } from './locks';
import { storedEnvelope } from './target';

interface Found extends Omit<ImportView, 'declaredAt' | 'from' | 'until'> {
  declaredAt: Date;
  fromAt: Date | null;
  untilAt: Date | null;
  plan: ImportPlan;
  signature: string;
}

/** A running import whose lock nobody holds is absent: its process is gone, and nothing of it was kept. */
const stateSql = `case when i.state = 'running' and not exists (
    select 1 from pg_locks l where l.locktype = 'advisory' and l.classid = ${importLock} and l.objsubid = 2
       and l.objid::bigint = (hashtext(i.id::text)::bigint & 4294967295)
       and l.database = (select oid from pg_database where datname = current_database()))
  then 'absent' else i.state end`;

async function findImports(db: Database, stationId: string, id: string | null): Promise<Found[]> {
  return query<Found>(
    db,
    `select i.id, i.file_name as "fileName", i.bytes, i.declared_at as "declaredAt", u.initials,
            ${stateSql} as state,
            case when i.state = 'running' and (${stateSql}) = 'absent' then 'The process that ran it stopped; nothing of it was kept. Import it again.' else i.message end as message,
            i.data_rows as rows, i.stored, i.known, i.conflicting, i.refused, i.missing,
            i.from_at as "fromAt", i.until_at as "untilAt", i.plan, i.signature,
            (select l.parameters->>'why' from active_layer l where l.station_id = i.station_id and l.kind = 'withdrawal'
                and l.parameters->>'importId' = i.id::text limit 1) as withdrawn
       from record_import i join person u on u.id = i.person_id
      where i.station_id = :stationId ${id ? 'and i.id = :id' : ''}
      order by i.declared_at desc limit 30`,
    { stationId, id },
  );
}

/** Writes down that imports whose process is gone are absent, so that they stand in nobody's way. */
export async function markAbandonedImports(db: Database, stationId: string): Promise<void> {
  const gone = (await findImports(db, stationId, null)).filter((i) => i.state === 'absent').map((i) => i.id);
  if (gone.length === 0) return;
  const ended = { endedAt: new Date(), message: 'The process that ran it stopped; nothing of it was kept.' };
  await db.operation.update({ state: 'failed', ...ended }, { where: { id: gone, state: 'running' } });
  await db.recordImport.update(
    { state: 'absent', ...ended },
    { where: { stationId, id: gone, state: 'running' } },
  );
}

const view = ({ plan: _, signature: _s, declaredAt, fromAt, untilAt, ...rest }: Found): ImportView => ({
  ...rest,
  declaredAt: declaredAt.toISOString(),
  from: fromAt?.toISOString() ?? null,
  until: untilAt?.toISOString() ?? null,
});

/** What the import view has to offer: channels with what they hold, layouts remembered, imports so far. */
export async function importStart(db: Database, stationId: string): Promise<ImportStartView> {
  const graph = await loadStation(db, stationId);
  const channels = graph.channels.filter((c) => c.row.source !== 'derived');
  const [imports, envelopes] = await Promise.all([
    findImports(db, stationId, null),
    Promise.all(channels.map((c) => storedEnvelope(db, graph.station.key, c.row.key))),
  ]);
  const remembered = new Map<string, ImportPlan>();
  for (const i of imports)
    if (i.state === 'complete' && !i.withdrawn && !remembered.has(i.signature))
      remembered.set(i.signature, planNow(i, graph.channels));
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    zone: graph.site.zone,
    loggerOffsetMinutes: graph.logger?.utcOffsetMinutes ?? 0,
    limit: importLimit(),
    channels: channels.map((c, i) => ({
      id: c.row.id,
      number: c.row.number,
      name: c.name,
      zoneName: c.row.zoneName,
      quantity: c.row.quantity,
      stored: envelopes[i] ?? null,
    })),
    remembered: [...remembered].map(([signature, plan]) => ({ signature, plan })),
    imports: imports.map(view),
  };
}

/** A remembered plan: the channels it made are there now. */
function planNow(
  found: Found,
  channels: readonly { row: { id: string; quantity: string; zoneName: string; source: string } }[],
): ImportPlan {
  const plan = storedPlan.read(found.plan);
  return {
    ...plan,
    columns: plan.columns.map((c) => {
      if (c.channel.kind === 'existing') return c;
      const { quantity, zoneName } = c.channel;
      const made = channels.find(
        (x) => x.row.source === 'file' && x.row.quantity === quantity && x.row.zoneName === zoneName.trim(),
      );
      return made ? { ...c, channel: { kind: 'existing', id: made.row.id, quantity } } : c;
    }),
  };
}

export async function importView(
  db: Database,
  stationId: string,
  importId: string,
): Promise<ImportView & { issues: Awaited<ReturnType<typeof importIssues>> }> {
  const [found] = isId(importId) ? await findImports(db, stationId, importId) : [];
  if (!found) throw notFound('import', importId);
  return { ...view(found), issues: await importIssues(db, stationId, importId) };
}

/** What was not taken, as CSV: line, column, kind, why, the row itself. */
export async function* issuesCsv(db: Database, stationId: string, importId: string): AsyncGenerator<string> {
  const { refused, conflicting } = await importView(db, stationId, importId);
  yield 'line,column,kind,why,row\r\n';
  for (let after = 0; ;) {
    const some = await importIssues(db, stationId, importId, after, 5000);
    if (some.length === 0) break;
    yield `${Papa.unparse(
      some.map((i) => [i.line, i.column ?? '', i.kind, i.why, i.text]),
      plainText,
    )}\r\n`;
    after = some.at(-1)!.number;
  }
  const all = (refused ?? 0) + (conflicting ?? 0);
  if (all > mostIssues) yield `,,note,"${all} were not taken; the first ${mostIssues} are listed",\r\n`;
}
