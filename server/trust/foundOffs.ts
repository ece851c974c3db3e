import { Op } from 'sequelize';
import { rejudge } from '@/core/check/foundOff';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { ReferenceFacts } from '@/core/trust/stationFacts';
import { query, rows, type Database } from '@/db/database';
import { loadJudged } from '../check/load';

interface FoundOffRow {
  readonly instrumentId: string;
  readonly name: string;
  readonly quantity: QuantityCode;
  readonly by: number;
  readonly goodUntil: Date;
  readonly foundAt: Date;
}

/** Of checks by their ids: the reference that was found off since, where with the truth they say something else. */
export async function foundOffs(
  db: Database,
  stationId: string,
  checkIds: readonly string[],
): Promise<ReadonlyMap<string, NonNullable<ReferenceFacts['foundOff']>>> {
  const touched = new Map<string, NonNullable<ReferenceFacts['foundOff']>>();
  if (checkIds.length === 0) return touched;
  const found = await query<FoundOffRow>(
    db,
    `select f.instrument_id as "instrumentId", i.name || ' ' || i.serial as name, f.quantity, f.off_by as by,
            f.good_until as "goodUntil", f.found_at as "foundAt"
       from found_off f join reference_instrument i on i.id = f.instrument_id
      where f.revokes is null and not exists (select 1 from found_off b where b.revokes = f.id)
        and f.instrument_id in (select k.instrument_id from reference_check k where k.station_id = :stationId)`,
    { stationId },
  );
  if (found.length === 0) return touched;
  const checks = await rows(db.check, { where: { stationId, id: { [Op.in]: checkIds } } });
  const between = checks.flatMap((check) => {
    const its = found.filter(
      (f) =>
        f.instrumentId === check.instrumentId && f.goodUntil <= check.openedAt && check.openedAt < f.foundAt,
    );
    return its.length > 0 ? [{ check, its }] : [];
  });
  const loaded = await loadJudged(
    db,
    stationId,
    between.map((b) => b.check),
  );
  for (const [i, { judged, adjustments }] of loaded.entries()) {
    const changing = between[i]!.its.find((f) => rejudge(judged, adjustments, f).isChanged);
    if (changing)
      touched.set(between[i]!.check.id, {
        instrument: changing.name,
        quantity: changing.quantity,
        by: changing.by,
      });
  }
  return touched;
}
