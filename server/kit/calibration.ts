import type { CalibrationRequest, CareRequest, CrossCheckRequest } from '@/contract/instruments';
import { faultOfCertificate } from '@/core/kit/certificate';
import { inSentence, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { query, row } from '@/db/database';
import type { InstrumentRow } from '@/db/rows';
import { audit } from '../book/audit';
import { personTime } from '../book/fieldBook';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { dayOf } from './dayOf';
import { instrumentOf } from './instrumentPage';
import type { Transaction } from 'sequelize';

/** What happens to a reference instrument over the years: calibrated anew, compared with another, looked after. */

/** One after the other writes about an instrument. */
const lockInstrument = (ctx: Context, tx: Transaction, instrumentId: string): Promise<unknown> =>
  query(ctx.db, `select pg_advisory_xact_lock(4720, hashtext(:instrumentId))`, { instrumentId }, tx);

function measured(instrument: InstrumentRow, quantity: QuantityCode, field: string) {
  const its = instrument.quantities.find((q) => q.quantity === quantity);
  if (its) return its;
  throw badField(
    'instrument-cannot',
    field,
    quantity,
    `${instrument.name} ${instrument.serial} does not measure ${inSentence(quantity)}.`,
    'Choose a quantity that it shows.',
  );
}

/** Keeps a calibration: from its day on the instrument is in date again, and its corrections hold. */
export async function keepCalibration(
  ctx: Context,
  instrumentId: string,
  request: CalibrationRequest,
): Promise<{ id: string }> {
  const instrument = await instrumentOf(ctx.db, instrumentId);
  const { calibrationId, certificate, says } = request;
  const [doneOn, dueOn] = [dayOf('doneOn', request.doneOn), dayOf('dueOn', request.dueOn)];
  if (dueOn <= doneOn)
    throw badField(
      'due-before-calibration',
      'dueOn',
      dueOn,
      `The calibration would be due on ${dueOn}, before it was done on ${doneOn}.`,
      'Swap or correct the dates.',
    );
  if (doneOn > ctx.now().toISOString().slice(0, 10))
    throw badField(
      'calibrated-in-future',
      'doneOn',
      doneOn,
      `${doneOn} is still to come.`,
      'Enter the day that stands on the certificate.',
    );
  for (const [i, s] of says.entries()) {
    const its = measured(instrument, s.quantity, `says.${i}.quantity`);
    const fault = faultOfCertificate(s, its.tolerance);
    if (fault)
      throw badField(
        'certificate-faulty',
        fault.row === null ? `says.${i}.${fault.of}` : `says.${i}.points.${fault.row}.${fault.of}`,
        fault.row === null ? s.uncertainty : s.points[fault.row]![fault.of as 'shown' | 'correction'],
        `${quantityOf(s.quantity).name}: ${fault.says}`,
        fault.remedy,
      );
  }
  await ctx.db.transact(async (tx) => {
    await lockInstrument(ctx, tx, instrumentId);
    const there = await row(ctx.db.calibration, { where: { instrumentId, doneOn }, transaction: tx });
    // The same form sent twice.
    if (there?.id === calibrationId) return;
    if (there)
      throw badField(
        'calibrated-already',
        'doneOn',
        doneOn,
        `A calibration of ${doneOn} is on file: ${there.certificate}.`,
        'Enter another day; a certificate that was typed wrong is replaced by the next one.',
      );
    await ctx.db.calibration.create(
      {
        id: calibrationId,
        instrumentId,
        doneOn,
        dueOn,
        certificate,
        says,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.calibration', null, { calibrationId, instrumentId, doneOn, dueOn });
  });
  return { id: calibrationId };
}

/** Keeps how an instrument is treated; what held before stays on file. */
export async function keepCare(
  ctx: Context,
  instrumentId: string,
  { careId, basedOn, care }: CareRequest,
): Promise<{ id: string }> {
  const instrument = await instrumentOf(ctx.db, instrumentId);
  for (const [i, r] of care.responses.entries())
    measured(instrument, r.quantity, `care.responses.${i}.quantity`);
  const parts = care.parts.map((p, i) => ({
    ...p,
    renewedOn: dayOf(`care.parts.${i}.renewedOn`, p.renewedOn),
  }));
  await ctx.db.transact(async (tx) => {
    await lockInstrument(ctx, tx, instrumentId);
    const newest = await row(ctx.db.instrumentCare, {
      where: { instrumentId },
      order: [['recordedAt', 'DESC']],
      transaction: tx,
    });
    if (newest?.id === careId) return;
    if ((newest?.id ?? null) !== basedOn)
      throw inTheWay(
        'changed-meanwhile',
        'Someone else has just changed how it is treated.',
        'Load the page again: what they wrote is shown then.',
      );
    await ctx.db.instrumentCare.create(
      { id: careId, instrumentId, care: { ...care, parts }, personId: ctx.person.id, recordedAt: ctx.now() },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.care', null, { careId, instrumentId });
  });
  return { id: careId };
}

/** Keeps what two instruments of the kit showed side by side. */
export async function keepCrossCheck(
  ctx: Context,
  instrumentId: string,
  { crossCheckId, otherId, quantity, pairs, place, occurredAt }: CrossCheckRequest,
): Promise<{ id: string }> {
  const [one, other] = [await instrumentOf(ctx.db, instrumentId), await instrumentOf(ctx.db, otherId)];
  if (one.id === other.id)
    throw badField(
      'one-instrument',
      'otherId',
      otherId,
      'An instrument is compared with another one.',
      'Choose the other.',
    );
  for (const [instrument, side] of [
    [one, 'one'],
    [other, 'other'],
  ] as const) {
    const its = measured(instrument, quantity, 'quantity');
    const { unit } = quantityOf(quantity);
    for (const [i, pair] of pairs.entries())
      if (!(pair[side] >= its.low && pair[side] <= its.high))
        throw badField(
          'outside-range',
          `pairs.${i}.${side}`,
          pair[side],
          `${pair[side]} ${unit} is outside what ${instrument.name} ${instrument.serial} shows, ${its.low} to ${its.high} ${unit}.`,
          'Read it again, and look at its unit.',
        );
  }
  await ctx.db.transact(async (tx) => {
    await lockInstrument(ctx, tx, instrumentId);
    if (await row(ctx.db.crossCheck, { where: { id: crossCheckId }, transaction: tx })) return;
    await ctx.db.crossCheck.create(
      {
        id: crossCheckId,
        instrumentId,
        otherId,
        quantity,
        pairs,
        place,
        comparedAt: personTime(ctx, occurredAt),
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.cross-check', null, { crossCheckId, instrumentId, otherId, quantity });
  });
  return { id: crossCheckId };
}
