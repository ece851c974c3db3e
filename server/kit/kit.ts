import type { InstrumentRequest } from '@/contract/requests';
import type { InstrumentView } from '@/contract/views';
import { row, rows, type Database } from '@/db/database';
import type { InstrumentRow } from '@/db/rows';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, instantOf } from '../problem';
import { daysPast } from './daysPast';
import { foundOffNow } from './foundOffNow';

/** Reference instruments, those whose calibration runs out first at the top. */
export async function kit(db: Database, now: Date): Promise<InstrumentView[]> {
  const [all, off] = await Promise.all([
    rows(db.instrument, { where: { retiredAt: null }, order: [['dueOn', 'ASC']] }),
    foundOffNow(db),
  ]);
  return all.map((i) => instrumentView(i, now, off.get(i.id)));
}

export async function addInstrument(
  ctx: Context,
  request: InstrumentRequest,
  link: string | null = null,
): Promise<{ id: string }> {
  const { instrumentId, calibratedOn, dueOn, ...rest } = request;
  const day = (text: string, field = 'dueOn') => instantOf(field, text).toISOString().slice(0, 10);
  if (day(dueOn) <= day(calibratedOn))
    throw badField(
      'due-before-calibration',
      'dueOn',
      dueOn,
      `The calibration would be due on ${day(dueOn)}, before it was done on ${day(calibratedOn)}.`,
      'Swap or correct the dates.',
    );
  if (new Set(rest.quantities.map((q) => q.quantity)).size < rest.quantities.length)
    throw badField(
      'quantity-twice',
      'quantities',
      null,
      'A quantity is listed twice.',
      'Keep one line for each quantity.',
    );
  if (await row(ctx.db.instrument, { where: { serial: rest.serial } }))
    throw badField(
      'serial-taken',
      'serial',
      rest.serial,
      `An instrument with serial number ${rest.serial} is on file.`,
      'Read the label again.',
    );
  await ctx.db.transact(async (tx) => {
    await ctx.db.instrument.create(
      { ...rest, id: instrumentId, calibratedOn: day(calibratedOn), dueOn: day(dueOn), link },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.add', null, { instrumentId, serial: rest.serial });
  });
  return { id: instrumentId };
}

export function instrumentView(
  i: InstrumentRow,
  now: Date,
  foundOff: InstrumentView['foundOff'] = [],
): InstrumentView {
  return {
    id: i.id,
    name: i.name,
    model: i.model,
    serial: i.serial,
    calibratedOn: i.calibratedOn,
    dueOn: i.dueOn,
    overdueDays: daysPast(i.dueOn, now),
    linked: i.link !== null,
    quantities: i.quantities,
    foundOff,
  };
}
