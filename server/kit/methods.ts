import type { MethodOfQuantity } from '@/contract/persons';
import { personDifferences } from '@/core/check/persons';
import { groupBy } from '@/core/groupBy';
import type { ProcedureCode } from '@/core/procedure/codes';
import type { QuantityCode } from '@/core/quantity/quantity';
import { query, rows, type Database } from '@/db/database';

/** So far back persons are compared, days. */
const days = 730;

interface Made {
  quantity: QuantityCode;
  procedure: ProcedureCode;
  personId: string;
  sensor: string;
  at: Date;
  difference: number;
  isAdjusted: boolean;
}

/** How each quantity was checked over the last two years: by which procedures, and whether it matters by whom. */
export async function methods(db: Database, now: Date): Promise<MethodOfQuantity[]> {
  const [made, people] = await Promise.all([
    query<Made>(
      db,
      `select k.plan->>'quantity' as quantity, coalesce(k.plan->>'procedure', 'side-by-side') as procedure,
              k.opened_by as "personId", k.installation_id || ' ' || k.channel_id as sensor, k.opened_at as at,
              (k.result->>'asFound')::double precision as difference,
              exists (select 1 from adjustment a where a.station_id = k.station_id and a.check_id = k.id) as "isAdjusted"
         from reference_check k
        where k.opened_at > :since and k.outcome not in ('abandoned', 'not-settled')
          and k.result->>'asFound' is not null
        order by k.opened_at`,
      { since: new Date(now.getTime() - days * 86_400_000) },
    ),
    rows(db.person),
  ]);
  return [...groupBy(made, (m) => m.quantity)].map(([quantity, its]): MethodOfQuantity => ({
    quantity,
    procedures: [...groupBy(its, (m) => m.procedure)]
      .map(([code, all]) => ({ code, checks: all.length }))
      .sort((a, b) => b.checks - a.checks),
    persons: personDifferences(its.map((m) => ({ ...m, person: m.personId, at: m.at.getTime() }))).map(
      (p) => ({ ...p, initials: people.find((x) => x.id === p.person)?.initials ?? '?' }),
    ),
  }));
}
