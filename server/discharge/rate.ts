import type { SetRating } from '@/contract/discharge';
import { reckonSheet } from '@/core/discharge/gaugingSheet';
import { gaugingsAtOdds, notOneToOne } from '@/core/discharge/rating';
import { stationDischarge } from '@/core/discharge/stationDischarge';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { row } from '@/db/database';
import { holds } from '../book/holds';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, instantOf, inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { requireStation } from '../water/points';
import { curveOf, dischargeFile, sectionOf, type DischargeFile } from './load';
import { dischargeView } from './view';

/** Another version of the rating by level alone; refused where a level does not say what flows. */
export async function setRating(
  ctx: Context,
  stationId: string,
  { ratingId, basedOn, segments, shift, holdsFrom, note }: SetRating,
): Promise<{ ratingId: string; number: number }> {
  await requireStation(ctx, stationId);
  segments.forEach(({ from }, i) => {
    const before = segments[i - 1]?.from ?? -Infinity;
    if ((i === 0) !== (from === null) || (from !== null && from <= before))
      throw badField(
        'out-of-order',
        `segments.${i}.from`,
        from,
        'The reaches of a rating are not in their order.',
        'The lowest has no beginning; each further one begins above the one before.',
      );
  });
  const from = instantOf('holdsFrom', holdsFrom);
  const { record } = await dischargeView(ctx, stationId);
  return atStation(ctx, stationId, async (tx) => {
    const file = await dischargeFile(ctx.db, stationId, tx);
    requireOneToOne(file, record);
    const last = file.ratings.at(-1) ?? null;
    if ((last?.id ?? null) !== basedOn)
      throw inTheWay(
        'led-meanwhile',
        `The rating was made anew meanwhile: rating ${last?.number ?? '–'} is the last.`,
        'Load the page again and look at that one first.',
      );
    const newest = await row(ctx.db.levelRating, {
      where: { stationId },
      order: [['number', 'DESC']],
      transaction: tx,
    });
    const number = 1 + (newest?.number ?? 0);
    await ctx.db.levelRating.create(
      {
        stationId,
        id: ratingId,
        number,
        holdsFrom: from,
        segments,
        shift,
        gaugings: file.gaugings.map((g) => g.id),
        note,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'discharge',
      text: `Rating ${number} by level from ${from.toISOString().slice(0, 16)}Z${shift === 0 ? '' : `, shift ${formatDifference(shift, 3)} m`}: ${note}`,
      sum: segments
        .map(
          (s) =>
            `Q = ${formatValue(s.a, 3)} · (h − ${formatValue(s.zero, 3)})^${formatValue(s.b, 3)}${s.from === null ? '' : ` from ${formatValue(s.from, 3)} m`}`,
        )
        .join('; '),
      action: 'discharge.rating',
      subject: { ratingId, number },
    });
    return { ratingId, number };
  });
}

function requireOneToOne(
  { sections, curves, gaugings }: DischargeFile,
  {
    at,
    level,
    velocity,
  }: {
    readonly at: readonly number[];
    readonly level: readonly number[];
    readonly velocity: readonly number[];
  },
): void {
  const refuse = (value: number, says: string) =>
    badField(
      'not-one-to-one',
      'segments',
      value,
      `${says} A level alone does not say what flows here.`,
      'Measure a velocity beside the level, and lead a k curve.',
    );
  const known = gaugings.map((g) => {
    const { discharge, U } = reckonSheet(g.sheet);
    return { level: g.level, discharge, U };
  });
  const back = known.find((g) => g.discharge < 0);
  if (back)
    throw refuse(
      back.discharge,
      `A gauging of ${formatValue(back.discharge, 3)} m³/s ran against the stream.`,
    );
  const odd = gaugingsAtOdds(known);
  if (odd)
    throw refuse(
      odd[0].level,
      `At ${formatValue(odd[0].level, 2)} m two gaugings found ${formatValue(odd[0].discharge, 3)} and ${formatValue(odd[1].discharge, 3)} m³/s, further apart than both may be off.`,
    );
  if (velocity.length === 0 || curves.length === 0 || sections.length === 0) return;
  const reckon = stationDischarge(sections.map(sectionOf), curves.map(curveOf));
  const loop = notOneToOne(
    at.map((t, i) => ({ level: level[i]!, discharge: reckon(t, level[i]!, velocity[i]!) })),
  );
  if (loop)
    throw refuse(
      loop.share,
      loop.kind === 'reverse'
        ? `It ran back for ${formatValue(100 * loop.share, 0)} % of the last days.`
        : `At one level it carried ${formatValue(100 * loop.share, 0)} % more or less while it rose than while it fell.`,
    );
}
