import type { InstrumentView } from '@/contract/checkViews';
import { groupBy } from '@/core/groupBy';
import { query, type Database } from '@/db/database';

type FoundOffNow = InstrumentView['foundOff'][number];

/**
 * What was found off of instruments and stands still, by instrument: not taken back, and not calibrated since. What they
 * showed before is another question, see `foundOff.ts`; this is for whoever takes one into their hand today.
 */
export async function foundOffNow(db: Database): Promise<ReadonlyMap<string, readonly FoundOffNow[]>> {
  const found = await query<FoundOffNow & { instrumentId: string }>(
    db,
    `select f.instrument_id as "instrumentId", f.quantity, f.off_by as by, f.found_at::date::text as "foundOn"
       from found_off f join reference_instrument i on i.id = f.instrument_id
      where f.revokes is null and not exists (select 1 from found_off b where b.revokes = f.id)
        and f.found_at::date >= i.calibrated_on
      order by f.found_at desc`,
    {},
  );
  return groupBy(found, (f) => f.instrumentId);
}
