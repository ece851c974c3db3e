import type { InstrumentRequest } from '@/contract/requests';
import type { InstrumentView } from '@/contract/checkViews';
import { row, rows, type Database } from '@/db/database';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField } from '../problem';
import { dayOf } from './dayOf';
import { instrumentViews } from './instrumentViews';

/** Reference instruments, those whose calibration runs out first at the top. */
export async function kit(db: Database, now: Date): Promise<InstrumentView[]> {
  const all = await rows(db.instrument, { where: { retiredAt: null }, order: [['dueOn', 'ASC']] });
  return instrumentViews(db, all, now);
}

export async function addInstrument(
  ctx: Context,
  request: InstrumentRequest,
  link: string | null = null,
): Promise<{ id: string }> {
  const { instrumentId, calibratedOn, dueOn, ...rest } = request;
  const [calibrated, due] = [dayOf('calibratedOn', calibratedOn), dayOf('dueOn', dueOn)];
  if (due <= calibrated)
    throw badField(
      'due-before-calibration',
      'dueOn',
      dueOn,
      `The calibration would be due on ${due}, before it was done on ${calibrated}.`,
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
      { ...rest, id: instrumentId, calibratedOn: calibrated, dueOn: due, link },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.add', null, { instrumentId, serial: rest.serial });
  });
  return { id: instrumentId };
}
