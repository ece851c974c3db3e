import type { AddMeter, MeterView } from '@/contract/bench';
import { row, rows, type Database } from '@/db/database';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, instantOf } from '../problem';

/** Handheld meters that are not retired. */
export async function meters(db: Database): Promise<MeterView[]> {
  const all = await rows(db.meter, {
    where: { retiredAt: null },
    order: [
      ['name', 'ASC'],
      ['serial', 'ASC'],
    ],
  });
  return all.map(({ id, name, model, serial, ranges, dueOn }) => ({
    id,
    name,
    model,
    serial,
    ranges: ranges.positions,
    dueOn,
  }));
}

/** Takes a meter into the kit, with every position of its dial. */
export async function addMeter(ctx: Context, request: AddMeter): Promise<{ id: string }> {
  const { meterId, ranges, dueOn, ...rest } = request;
  for (const [i, r] of ranges.entries()) {
    if (ranges.some((other, k) => k < i && other.does === r.does && other.upTo === r.upTo))
      throw badField(
        'position-twice',
        `ranges.${i}.upTo`,
        r.upTo,
        `Two positions of its dial go up to ${r.upTo}.`,
        'Keep one of them.',
      );
    if (!(r.count < r.upTo))
      throw badField(
        'count-too-large',
        `ranges.${i}.count`,
        r.count,
        `One count of ${r.count} is no step of a position up to ${r.upTo}.`,
        'Give the smallest step its display shows there.',
      );
  }
  await ctx.db.transact(async (tx) => {
    if (await row(ctx.db.meter, { where: { serial: rest.serial }, transaction: tx }))
      throw badField(
        'serial-taken',
        'serial',
        rest.serial,
        `A meter with serial number ${rest.serial} is on file.`,
        'Read the label again.',
      );
    await ctx.db.meter.create(
      {
        ...rest,
        id: meterId,
        ranges: { positions: ranges },
        dueOn: dueOn === null ? null : instantOf('dueOn', dueOn).toISOString().slice(0, 10),
        personId: ctx.person.id,
        addedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.meter', null, { meterId, serial: rest.serial });
  });
  return { id: meterId };
}
