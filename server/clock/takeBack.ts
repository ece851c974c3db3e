import { formatDifference } from '@/core/quantity/format';
import { query } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { recordAct } from '../book/recordAct';

/** Takes back a comparison that was made while our own clock was wrong; it stays on file and counts no more. */
export const takeBackComparison = (
  ctx: Context,
  stationId: string,
  comparisonId: string,
  reason: string,
): Promise<{ takenBack: string }> =>
  atStation(ctx, stationId, async (tx) => {
    const [comparison] = await query<{ difference: number; initials: string | null }>(
      ctx.db,
      `select c.difference, p.initials from clock_comparison c
         left join clock_comparison_taken_back t on t.station_id = c.station_id and t.comparison_id = c.id
         left join person p on p.id = t.person_id
        where c.station_id = :stationId and c.id = :comparisonId`,
      { stationId, comparisonId },
      tx,
    );
    if (!comparison) throw notFound('comparison', comparisonId);
    if (comparison.initials)
      throw inTheWay(
        'taken-back-already',
        `${comparison.initials} took this back already.`,
        'Nothing needs to be done.',
      );
    await query(
      ctx.db,
      `insert into clock_comparison_taken_back (station_id, comparison_id, person_id, reason)
       values (:stationId, :comparisonId, :personId, :reason)`,
      { stationId, comparisonId, personId: ctx.person.id, reason },
      tx,
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'clock',
      text: `Took back a comparison of the logger’s clock (${formatDifference(comparison.difference, 0)} s): ${reason}`,
      action: 'clock.take-back',
      subject: { comparisonId },
    });
    return { takenBack: comparisonId };
  });
