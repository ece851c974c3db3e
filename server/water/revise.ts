import type { ReviseLevels } from '@/contract/water';
import { formatDifference } from '@/core/quantity/format';
import { levelSum } from '@/core/water/levelSum';
import { row } from '@/db/database';
import { holds } from '../book/holds';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { readingOf, revisionOf, waterFile } from './load';
import { requireStation } from './points';

/** Adds to levels what was found out of them afterwards: a correction they lack, or what a later survey says. */
export async function reviseLevels(
  ctx: Context,
  stationId: string,
  { revisions, because, surveyId, reason }: ReviseLevels,
): Promise<{ revised: number }> {
  await requireStation(ctx, stationId);
  if ((because === 'survey') !== (surveyId !== null))
    throw badField(
      'which-survey',
      'surveyId',
      surveyId,
      because === 'survey' ? 'Which survey is it because of?' : 'That correction is not because of a survey.',
      'Name the survey where there is one, and only there.',
    );
  return atStation(ctx, stationId, async (tx) => {
    if (
      surveyId &&
      !(await row(ctx.db.levelSurvey, {
        where: { stationId, id: surveyId, takenBackAt: null },
        transaction: tx,
      }))
    )
      throw notFound('survey', surveyId);
    const file = await waterFile(ctx.db, stationId, tx);
    const record = { readings: file.readings.map(readingOf), revisions: file.revisions.map(revisionOf) };
    for (const { readingId, revisionId, adds } of revisions) {
      const reading = record.readings.find((r) => r.id === readingId);
      if (!reading) throw notFound('reading', readingId);
      const lacks = reading.read.kind === 'wire' && levelSum(reading, record).level === null;
      if (because !== 'survey' && !lacks)
        throw inTheWay(
          'has-correction',
          'That reading has a correction already.',
          'Take the one it was given back first, where it was assumed.',
        );
      if (
        record.revisions.some(
          (r) => r.readingId === readingId && r.surveyId === surveyId && surveyId !== null,
        )
      )
        throw inTheWay(
          'revised-already',
          'That reading was put right by this survey already.',
          'Nothing needs to be done.',
        );
      await ctx.db.levelRevision.create(
        {
          stationId,
          id: revisionId,
          readingId,
          because,
          adds,
          surveyId,
          reason,
          personId: ctx.person.id,
          recordedAt: ctx.now(),
          ...holds,
        },
        { transaction: tx },
      );
    }
    const [least, most] = [
      Math.min(...revisions.map((r) => r.adds)),
      Math.max(...revisions.map((r) => r.adds)),
    ].map((v) => formatDifference(v, 3));
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `${revisions.length === 1 ? 'A level is' : `${revisions.length} levels are`} put right: ${reason}`,
      sum: least === most ? `level ${least} m` : `level ${least} … ${most} m`,
      action: 'water.revise',
      subject: { because, surveyId, readings: revisions.map((r) => r.readingId) },
    });
    return { revised: revisions.length };
  });
}
