import type { AddMeasuringPoint, RetireMeasuringPoint, SetDatum } from '@/contract/water';
import { formatDifference } from '@/core/quantity/format';
import { pointRules } from '@/core/water/measuringPoint';
import { row } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';

/** Names the zero of a station's levels, and where it lies in others. */
export async function setDatum(
  ctx: Context,
  stationId: string,
  { datumId, basedOn, name, others }: SetDatum,
): Promise<{ datumId: string }> {
  await requireStation(ctx, stationId);
  const own = others.find((o) => o.name === name);
  if (own)
    throw badField(
      'own-datum',
      'others',
      own.name,
      `"${own.name}" is the station’s own datum.`,
      'Name another, or leave it out.',
    );
  return atStation(ctx, stationId, async (tx) => {
    const last = await row(ctx.db.stationDatum, {
      where: { stationId },
      order: [
        ['recordedAt', 'DESC'],
        ['id', 'DESC'],
      ],
      transaction: tx,
    });
    if ((last?.id ?? null) !== basedOn)
      throw inTheWay(
        'changed-meanwhile',
        `The datum was changed meanwhile: it is ${last?.name ?? 'not named'} now.`,
        'Load the page again; what you entered is still in the form.',
      );
    await ctx.db.stationDatum.create(
      { stationId, id: datumId, name, others, personId: ctx.person.id, recordedAt: ctx.now() },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `Levels are above ${name}${others.map((o) => `; its zero lies at ${formatDifference(o.zero, 3)} m in ${o.name}`).join('')}`,
      action: 'water.datum',
      subject: { datumId },
    });
    return { datumId };
  });
}

/** Adds something that levels are read from. */
export async function addMeasuringPoint(
  ctx: Context,
  stationId: string,
  { pointId, code, name, kind, channelId }: AddMeasuringPoint,
): Promise<{ pointId: string }> {
  await requireStation(ctx, stationId);
  return atStation(ctx, stationId, async (tx) => {
    const same = await row(ctx.db.measuringPoint, {
      where: { stationId, code, retiredAt: null },
      transaction: tx,
    });
    if (same)
      throw badField(
        'code-taken',
        'code',
        code,
        `${code} is ${same.name} already.`,
        'Choose another code, or retire that point first.',
      );
    const channel =
      channelId && (await row(ctx.db.channel, { where: { stationId, id: channelId }, transaction: tx }));
    if (channelId && !channel) throw notFound('channel', channelId);
    if (channel && channel.quantity !== 'waterLevel')
      throw badField(
        'no-level',
        'channelId',
        channelId,
        'That channel logs no water level.',
        'Choose one that does, or none.',
      );
    if (kind === 'sensor-zero' && !channel)
      throw badField(
        'whose-zero',
        'channelId',
        null,
        'The zero of a channel needs its channel.',
        'Choose the channel that counts from it.',
      );
    await ctx.db.measuringPoint.create(
      {
        stationId,
        id: pointId,
        code,
        name,
        kind,
        channelId,
        personId: ctx.person.id,
        addedAt: ctx.now(),
        retiredAt: null,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `Measuring point ${code}, ${name} (${pointRules[kind].name.toLowerCase()})`,
      action: 'water.point',
      subject: { pointId },
    });
    return { pointId };
  });
}

/** A point that is there no more: what was read from it stays. */
export async function retireMeasuringPoint(
  ctx: Context,
  stationId: string,
  pointId: string,
  { reason }: RetireMeasuringPoint,
): Promise<{ pointId: string }> {
  return atStation(ctx, stationId, async (tx) => {
    const point = await row(ctx.db.measuringPoint, { where: { stationId, id: pointId }, transaction: tx });
    if (!point) throw notFound('measuring point', pointId);
    if (point.retiredAt)
      throw inTheWay('retired-already', `${point.code} was retired already.`, 'Nothing needs to be done.');
    await ctx.db.measuringPoint.update(
      { retiredAt: ctx.now() },
      { where: { stationId, id: pointId }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `Measuring point ${point.code}, ${point.name}, is there no more: ${reason}`,
      action: 'water.point-retire',
      subject: { pointId },
    });
    return { pointId };
  });
}

export async function requireStation(ctx: Context, stationId: string): Promise<void> {
  if (!(await row(ctx.db.station, { where: { id: stationId } }))) throw notFound('station', stationId);
}
