import type { Transaction } from 'sequelize';
import type { Conflict } from '@/db/bulk';
import { query, type Database } from '@/db/database';

export interface ImportIssue {
  readonly kind: 'refused' | 'conflict';
  readonly line: number;
  readonly column: number | null;
  readonly text: string;
  readonly why: string;
}

/** So many rows that were not taken are kept one by one; their number is always exact. Our own choice. */
export const mostIssues = 20_000;

/** Gathers what an import did not take. */
export function issueList() {
  const kept: ImportIssue[] = [];
  const add = (issue: ImportIssue) => {
    if (kept.length < mostIssues) kept.push(issue);
  };
  return {
    add,
    conflict({ line, at, value, stored }: Conflict) {
      add({
        kind: 'conflict',
        line,
        column: null,
        text: `${at.toISOString().replace('.000Z', 'Z')} ${value}`,
        why: `stored is ${stored}, the file says ${value}; the stored value stays`,
      });
    },
    /** How many more may be kept. */
    room: () => mostIssues - kept.length,
    async store(db: Database, tx: Transaction, key: { stationId: string; importId: string }) {
      for (let i = 0; i < kept.length; i += 2000) {
        const some = kept.slice(i, i + 2000);
        await db.sequelize.query(
          `insert into import_issue (station_id, import_id, number, kind, line, column_number, text, why)
           select $1::uuid, $2::uuid, $3::int + n, k, l, c, t, w
             from unnest($4::text[], $5::int[], $6::int[], $7::text[], $8::text[]) with ordinality as i(k, l, c, t, w, n)`,
          {
            bind: [
              key.stationId,
              key.importId,
              i,
              some.map((x) => x.kind),
              some.map((x) => x.line),
              some.map((x) => x.column),
              // PostgreSQL's text holds no zero character.
              some.map((x) => x.text.replaceAll('\u0000', '␀')),
              some.map((x) => x.why.replaceAll('\u0000', '␀')),
            ],
            transaction: tx,
          },
        );
      }
    },
  };
}

export interface IssueRow extends ImportIssue {
  readonly number: number;
}

/** Rows an import did not take, in their order. */
export const importIssues = (
  db: Database,
  stationId: string,
  importId: string,
  after = 0,
  limit = 200,
): Promise<IssueRow[]> =>
  query<IssueRow>(
    db,
    `select number, kind, line, column_number as "column", text, why from import_issue
      where station_id = :stationId and import_id = :importId and number > :after order by number limit :limit`,
    { stationId, importId, after, limit },
  );
