import type { AddStandard, RetireStandard, StandardView } from '@/contract/standards';
import { faultOfLabel } from '@/core/procedure/label';
import { inSentence } from '@/core/quantity/quantity';
import { row, rows, type Database } from '@/db/database';
import type { StandardRow } from '@/db/rows';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { dayOf } from './dayOf';
import { daysPast } from './daysPast';

/** Standards that are not used up, those that end first at the top. */
export async function standards(db: Database, now: Date): Promise<StandardView[]> {
  const all = await rows(db.standard, {
    where: { retiredAt: null },
    order: [
      ['expiresOn', 'ASC'],
      ['name', 'ASC'],
      ['lot', 'ASC'],
    ],
  });
  return all.map((s) => standardView(s, now));
}

export const standardView = (s: StandardRow, now: Date): StandardView => ({
  id: s.id,
  name: s.name,
  quantity: s.quantity,
  lot: s.lot,
  values: s.label.values,
  tolerance: s.tolerance,
  openedOn: s.openedOn,
  expiresOn: s.expiresOn,
  overdueDays: daysPast(s.expiresOn, now),
});

/** Takes a standard into the kit, by its label. */
export async function addStandard(ctx: Context, request: AddStandard): Promise<{ id: string }> {
  const { standardId, values, openedOn, expiresOn, ...rest } = request;
  const fault = faultOfLabel(values, rest.quantity);
  if (fault)
    throw badField(
      'label-faulty',
      `values.${fault.row}.${fault.of}`,
      values[fault.row]![fault.of],
      fault.says,
      fault.remedy,
    );
  const [opened, expires] = [openedOn && dayOf('openedOn', openedOn), dayOf('expiresOn', expiresOn)];
  if (opened && opened > expires)
    throw badField(
      'opened-after-end',
      'openedOn',
      opened,
      `It would have been opened on ${opened}, after its end on ${expires}.`,
      'Read both dates on its label again.',
    );
  await ctx.db.transact(async (tx) => {
    const { quantity, name, lot } = rest;
    const there = await row(ctx.db.standard, {
      where: { quantity, name, lot, retiredAt: null },
      transaction: tx,
    });
    // The same form sent twice.
    if (there?.id === standardId) return;
    if (there)
      throw badField(
        'lot-taken',
        'lot',
        lot,
        `${name} of lot ${lot} is on file for ${inSentence(quantity)}.`,
        'Read the label again, or put the other one away first.',
      );
    await ctx.db.standard.create(
      {
        ...rest,
        id: standardId,
        label: { values },
        openedOn: opened,
        expiresOn: expires,
        personId: ctx.person.id,
        addedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.standard', null, { standardId, name, lot });
  });
  return { id: standardId };
}

/** Puts a standard away: used up, spilt, past its end. What was checked with it keeps its values. */
export async function retireStandard(
  ctx: Context,
  standardId: string,
  { reason }: RetireStandard,
): Promise<{ retired: string }> {
  await ctx.db.transact(async (tx) => {
    const found = await row(ctx.db.standard, {
      where: { id: standardId },
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (!found) throw notFound('standard', standardId);
    if (found.retiredAt)
      throw inTheWay(
        'retired-already',
        `${found.name} of lot ${found.lot} was put away already.`,
        'Nothing needs to be done.',
      );
    await ctx.db.standard.update(
      { retiredAt: ctx.now() },
      { where: { id: standardId, retiredAt: null }, transaction: tx },
    );
    await audit(ctx, tx, 'kit.standard-away', null, { standardId, reason });
  });
  return { retired: standardId };
}
