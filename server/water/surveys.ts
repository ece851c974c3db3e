import type { Transaction } from 'sequelize';
import type { AddSurvey } from '@/contract/water';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { elevationsOf, reduceSheet, sheetFault, type ReducedSheet } from '@/core/water/levelling';
import { row } from '@/db/database';
import type { LevelSurveyRow, MeasuringPointRow } from '@/db/rows';
import { holds } from '../book/holds';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, conflictWith, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { waterFile } from './load';
import { requireStation } from './points';

/** A survey as it was levelled or reported: from its day on readings go by it. */
export async function addSurvey(
  ctx: Context,
  stationId: string,
  request: AddSurvey,
): Promise<{ surveyId: string }> {
  await requireStation(ctx, stationId);
  const { surveyId, sheet, stated, keptBecause } = request;
  const at = personTime(ctx, request.occurredAt);
  const reduced = sheet && reducedSheet(sheet, keptBecause);
  return atStation(ctx, stationId, async (tx) => {
    const { points, surveys } = await waterFile(ctx.db, stationId, tx);
    await requireOwnDay(ctx, tx, surveys, at);
    const elevations = outcome(points, reduced, stated);
    await ctx.db.levelSurvey.create(
      {
        stationId,
        id: surveyId,
        surveyedAt: at,
        surveyedBy: request.surveyedBy,
        note: [request.note, keptBecause].filter(Boolean).join(' '),
        sheet,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    for (const e of elevations)
      await ctx.db.pointElevation.create({ stationId, surveyId, ...e }, { transaction: tx });
    const named = elevations.map(({ pointId, elevation }) => {
      const point = points.find((p) => p.id === pointId)!;
      return `${point.code} ${formatValue(elevation, 3)} m`;
    });
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'level',
      text: `Levelled by ${request.surveyedBy}: ${named.join(', ')}${keptBecause ? `. Kept all the same: ${keptBecause}` : ''}`,
      sum: reduced && misclosureText(reduced),
      action: 'water.survey',
      subject: { surveyId },
    });
    return { surveyId };
  });
}

type StatedElevation = AddSurvey['stated'][number];

const misclosureText = ({ misclosure, allowed, setUps, backs, fores }: ReducedSheet): string =>
  misclosure === null
    ? `Σ back ${formatValue(backs, 3)} − Σ fore ${formatValue(fores, 3)} m over ${setUps} set-ups, not closed`
    : `misclosure ${formatDifference(misclosure, 4)} m, allowed ±${formatValue(allowed, 4)} m over ${setUps} set-ups`;

function reducedSheet(sheet: NonNullable<AddSurvey['sheet']>, keptBecause: string | null): ReducedSheet {
  const fault = sheetFault(sheet);
  if (fault)
    throw badField(
      'bad-sheet',
      `sheet.${fault.row === null ? '' : `rows.${fault.row}.`}${fault.field}`,
      fault.value,
      fault.says,
      fault.remedy,
    );
  const reduced = reduceSheet(sheet);
  const { misclosure, allowed } = reduced;
  if (misclosure !== null && Math.abs(misclosure) > allowed && keptBecause === null)
    throw badField(
      'misclosure',
      'sheet',
      misclosure,
      `The circuit closes to ${formatDifference(misclosure, 4)} m, more than ±${formatValue(allowed, 4)} m.`,
      'Look for a slipped digit, level it again, or say why it is kept.',
    );
  return reduced;
}

/** One survey a day: two would both hold for the readings of that day. */
async function requireOwnDay(
  ctx: Context,
  tx: Transaction,
  surveys: readonly LevelSurveyRow[],
  at: Date,
): Promise<void> {
  const day = at.toISOString().slice(0, 10);
  const other = surveys.find((s) => s.surveyedAt.toISOString().slice(0, 10) === day);
  if (!other) return;
  const by = await row(ctx.db.person, { where: { id: other.personId }, transaction: tx });
  throw inTheWay(
    'survey-that-day',
    `A survey of ${day} is on file already, by ${other.surveyedBy}.`,
    'Take that one back first, and enter both as one survey.',
    conflictWith(by?.initials ?? '', `survey by ${other.surveyedBy}`, other.surveyedAt),
  );
}

/** What a survey says of the station's points: by its sheet, and what was stated beside it. */
function outcome(
  points: readonly MeasuringPointRow[],
  reduced: ReducedSheet | null,
  stated: readonly StatedElevation[],
): StatedElevation[] {
  const unknown = stated.find((s) => !points.some((p) => p.id === s.pointId));
  if (unknown) throw notFound('measuring point', unknown.pointId);
  const levelled = reduced
    ? elevationsOf(reduced, (name) => points.some((p) => p.id === name)).map(({ point, ...e }) => ({
        pointId: point,
        ...e,
      }))
    : [];
  const twice = stated.find((s) => levelled.some((l) => l.pointId === s.pointId));
  if (twice)
    throw badField(
      'said-twice',
      'stated',
      twice.elevation,
      `${points.find((p) => p.id === twice.pointId)!.code} is levelled in the sheet and stated beside it.`,
      'Leave out what is stated.',
    );
  const all = [...levelled, ...stated];
  if (all.length === 0)
    throw badField(
      'no-points',
      'stated',
      0,
      'The survey says nothing of a measuring point of this station.',
      'Choose a measuring point in a row of the sheet, or state an elevation.',
    );
  return all;
}
