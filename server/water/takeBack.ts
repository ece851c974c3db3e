import type { Transaction } from 'sequelize';
import type { TakeBackLevel, TakenBackKind } from '@/contract/water';
import { readNames } from '@/core/water/measuringPoint';
import { row } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';

/** Takes a survey, a reading or what was found out of one back: it stays on file, and does not count. */
export const takeBackLevel = (
  ctx: Context,
  stationId: string,
  kind: TakenBackKind,
  id: string,
  { reason }: TakeBackLevel,
): Promise<{ takenBack: string }> =>
  atStation(ctx, stationId, async (tx) => {
    const of = { where: { stationId, id }, transaction: tx };
    const found = await find(ctx, tx, kind, stationId, id);
    if (!found) throw notFound(kind, id);
    if (found.takenBackAt)
      throw inTheWay(
        'taken-back-already',
        `The ${kind} was taken back already.`,
        'Nothing needs to be done.',
      );
    const back = { takenBackAt: ctx.now(), takenBackBy: ctx.person.id, takenBackReason: reason };
    if (kind === 'survey') await ctx.db.levelSurvey.update(back, of);
    else if (kind === 'reading') await ctx.db.levelReading.update(back, of);
    else await ctx.db.levelRevision.update(back, of);
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `Taken back: ${found.says}. ${reason}`,
      action: 'water.take-back',
      subject: { kind, id },
    });
    return { takenBack: id };
  });

async function find(
  ctx: Context,
  tx: Transaction,
  kind: TakenBackKind,
  stationId: string,
  id: string,
): Promise<{ takenBackAt: Date | null; says: string } | null> {
  const of = { where: { stationId, id }, transaction: tx };
  const time = (at: Date) => `${at.toISOString().slice(0, 16)}Z`;
  if (kind === 'survey') {
    const survey = await row(ctx.db.levelSurvey, of);
    return survey && { ...survey, says: `survey of ${time(survey.surveyedAt)} by ${survey.surveyedBy}` };
  }
  if (kind === 'reading') {
    const reading = await row(ctx.db.levelReading, of);
    return (
      reading && {
        ...reading,
        says: `${readNames[reading.read.kind].toLowerCase()} of ${time(reading.readAt)}`,
      }
    );
  }
  const revision = await row(ctx.db.levelRevision, of);
  return revision && { ...revision, says: `what was added to a level (${revision.reason})` };
}
