import type { AddLevelReading } from '@/contract/water';
import { formatValue } from '@/core/quantity/format';
import { levelFault, levelQuestion } from '@/core/water/levelFault';
import { stoodAt, type LevelReading } from '@/core/water/levelReading';
import { levelSum } from '@/core/water/levelSum';
import { lowestBed, pointRules, readNames } from '@/core/water/measuringPoint';
import { row } from '@/db/database';
import { holds } from '../book/holds';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, conflictWith, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';
import { channelFor, levelChannels } from './against';
import { readingOf, revisionOf, waterFile, type WaterFile } from './load';
import { requireStation } from './points';

/** Keeps a level as it was read, with the elevation its sum was made with. */
export async function addLevelReading(
  ctx: Context,
  stationId: string,
  request: AddLevelReading,
): Promise<{ readingId: string; level: number | null; sum: string }> {
  await requireStation(ctx, stationId);
  const at = personTime(ctx, request.occurredAt);
  const beside = await besideRecord(ctx, stationId, request, at);
  return atStation(ctx, stationId, async (tx) => {
    const file = await waterFile(ctx.db, stationId, tx);
    const point = file.points.find((p) => p.id === request.pointId) ?? null;
    if (request.pointId !== null && !point) throw notFound('measuring point', request.pointId);
    const there = await row(ctx.db.levelReading, {
      where: { stationId, id: request.readingId },
      transaction: tx,
    });
    if (there) {
      const by = await row(ctx.db.person, { where: { id: there.personId }, transaction: tx });
      throw inTheWay(
        'already-there',
        'Another reading has this id.',
        'Enter it as a new reading.',
        conflictWith(by?.initials ?? '', readNames[there.read.kind], there.readAt),
      );
    }
    const reading: LevelReading = {
      id: request.readingId,
      pointId: request.pointId,
      at: at.getTime(),
      read: request.read,
      accuracy: request.accuracy,
      elevation: elevationSaid(file, request, at),
    };
    const others = file.readings.map(readingOf);
    const fault = levelFault(reading, point, others);
    if (fault) throw badField('not-a-level', fault.field, fault.value, fault.says, fault.remedy);
    const sum = levelSum(reading, {
      readings: [...others, reading],
      revisions: file.revisions.map(revisionOf),
    });
    if (!request.lookedAgain) {
      const asked = levelQuestion(sum, { ...beside, bed: lowestBed(file, reading.at) });
      if (asked) throw badField('look-again', asked.field, asked.value, asked.says, asked.remedy);
    }
    await ctx.db.levelReading.create(
      {
        stationId,
        id: reading.id,
        pointId: reading.pointId,
        read: reading.read,
        accuracy: reading.accuracy,
        surveyId: reading.elevation?.surveyId ?? null,
        elevation: reading.elevation?.elevation ?? null,
        elevationAccuracy: reading.elevation?.accuracy ?? null,
        lookedAgain: request.lookedAgain,
        readAt: at,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: beside.channelId,
      occurredAt: at,
      kind: 'level',
      text: [
        point ? `${point.code} ${point.name}` : 'Level by hand',
        `${readNames[reading.read.kind].toLowerCase()}, ±${formatValue(sum.accuracy, 3)} m`,
        ...(request.lookedAgain ? ['looked at again'] : []),
        ...sum.doubts,
      ].join('; '),
      sum: sum.text,
      action: 'water.reading',
      subject: { readingId: reading.id },
    });
    return { readingId: reading.id, level: sum.level, sum: sum.text };
  });
}

/** What the record says of it: looked at before the act, since nothing is decided by it but a question. */
async function besideRecord(ctx: Context, stationId: string, request: AddLevelReading, at: Date) {
  const file = await waterFile(ctx.db, stationId);
  const channels = await levelChannels(
    ctx.db,
    await loadStation(ctx.db, stationId),
    file,
    ctx.now().getTime(),
  );
  const channel = channelFor(file, channels, request.pointId);
  const stood = stoodAt({ at: at.getTime(), read: request.read });
  const [record] = stood === null ? [] : ((await channel?.at([stood])) ?? []);
  return {
    channelId: channel?.view.id ?? null,
    logged: record?.corrected.value ?? null,
    far: channel?.view.far ?? 1,
  };
}

/** The elevation that the sum on screen was made with: one that was on file, of that point, levelled before it was read. */
function elevationSaid(
  { points, elevations }: WaterFile,
  { pointId, surveyId, read }: AddLevelReading,
  at: Date,
): LevelReading['elevation'] {
  if (surveyId === null) return null;
  const its = elevations.find((e) => e.surveyId === surveyId && e.pointId === pointId);
  const point = points.find((p) => p.id === pointId);
  if (!its)
    throw badField(
      'no-such-survey',
      'surveyId',
      surveyId,
      `No survey that holds says what ${point?.code ?? 'that point'} lies at by that name.`,
      'Load the page again: the survey may have been taken back. Then enter it again.',
    );
  if (its.at > at.getTime())
    throw badField(
      'later-survey',
      'surveyId',
      surveyId,
      `${point!.code} was levelled on ${new Date(its.at).toISOString().slice(0, 10)}, after this reading (${pointRules[point!.kind].name.toLowerCase()}, ${readNames[read.kind].toLowerCase()}).`,
      'A later survey changes later readings only: take the elevation that held then.',
    );
  return { surveyId, elevation: its.elevation, accuracy: its.accuracy };
}
