import { query, type Database } from '@/db/database';
import type { Context } from '@/server/context';
import { Problem } from '@/server/problem';

/** Six of one act at one moment, each with ids of its own. */
export const sixTimes = (
  ctx: () => Context,
  act: (ctx: Context, n: number) => Promise<unknown>,
): Promise<PromiseSettledResult<unknown>[]> =>
  Promise.allSettled(Array.from({ length: 6 }, (_, n) => act(ctx(), n)));

/** What whoever lost is told: by a Problem, or by the route where a unique rule of the database was broken. */
const codeOf = (error: unknown): string => {
  if (error instanceof Problem) return error.parts.code;
  if ((error as Error).name === 'SequelizeUniqueConstraintError') return 'already-there';
  throw error;
};

/** How many were done, and what the others were told; whatever nobody could be told is thrown. */
export function told(results: readonly PromiseSettledResult<unknown>[]): { done: number; codes: string[] } {
  return {
    done: results.filter((r) => r.status === 'fulfilled').length,
    codes: [...new Set(results.flatMap((r) => (r.status === 'rejected' ? [codeOf(r.reason)] : [])))],
  };
}

/** Counts rows ("layer where station_id = :s") and audit lines of a station. */
export function counterOf(of: () => { db: Database; stationId: string }) {
  const count = async (sql: string, values: Record<string, unknown> = {}): Promise<number> => {
    const { db, stationId } = of();
    const all = { s: stationId, ...values };
    return (await query<{ n: number }>(db, `select count(*)::int as n from ${sql}`, all))[0]!.n;
  };
  const audited = (action: string) => count('audit where station_id = :s and action = :action', { action });
  return { count, audited };
}
