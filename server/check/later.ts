import type { Transaction } from 'sequelize';
import type { ExcludeReading, ObserveLater } from '@/contract/requests';
import { procedureOf } from '@/core/procedure/procedures';
import { formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { row } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { loadOpenCheck, requireFree, type LoadedCheck, type LoadedReading } from './load';
import { inBase, quantityInBase, requirePlausible } from './typedValue';

/** What comes after the sensor was read: tests of a sample, masses from the oven. The check waits for them. */

/** The same test typed twice: so close together, s, the second is asked about. */
const soonAfter = 180;

/** Adds to a reading what was still to come of it. */
export async function observeLater(
  ctx: Context,
  stationId: string,
  checkId: string,
  readingId: string,
  request: ObserveLater,
): Promise<{ observationId: string }> {
  const at = personTime(ctx, request.occurredAt);
  await atStation(ctx, stationId, async (tx) => {
    const id = request.observationId;
    if (await row(ctx.db.observation, { where: { stationId, id }, transaction: tx })) return;
    const { check, reading } = await openReading(ctx, tx, stationId, checkId, readingId);
    const { name, unit, value, decimals } = valueOf(check, request);
    if (at < reading.row.occurredAt)
      throw badField(
        'before-its-sample',
        'occurredAt',
        request.occurredAt,
        'This would have been read before the sensor it belongs to.',
        'Say when it was read, or add it to the sample it was taken of.',
      );
    const same = reading.kept.filter((o) => o.role === request.role && !o.excludedAt);
    if (request.role !== 'reference' && same.length > 0)
      throw inTheWay(
        'there-already',
        `${name} of this sample is ${formatValue(same[0]!.value, decimals)} ${unit} already.`,
        'Take that back first, with its reason.',
      );
    const twice = same.find(
      (o) => o.value === value && Math.abs(o.occurredAt.getTime() - at.getTime()) < soonAfter * 1000,
    );
    if (twice && !request.confirmed)
      throw badField(
        'entered-twice',
        'entered',
        request.entered.value,
        `${formatValue(value, decimals)} ${unit} was entered just before.`,
        'If another test really gave the same, confirm it.',
        { confirm: true },
      );
    await ctx.db.observation.create(
      {
        stationId,
        id,
        readingId,
        role: request.role,
        value,
        since: null,
        occurredAt: at,
        recordedAt: ctx.now(),
        recordedBy: ctx.person.id,
        entered: { ...request.entered },
      },
      { transaction: tx },
    );
    const number = request.role === 'reference' ? ` ${same.length + 1}` : '';
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: at,
      kind: 'check',
      text: `${name}${number} of sample ${numberOf(check, reading)} of ${check.channel.name}: ${formatValue(value, decimals)} ${unit}`,
      action: 'check.observe',
      subject: { checkId, readingId, observationId: id },
    });
  });
  return { observationId: request.observationId };
}

/** Takes what came later out of the reckoning; it stays on file with its reason. */
export async function excludeObservation(
  ctx: Context,
  stationId: string,
  checkId: string,
  readingId: string,
  observationId: string,
  { reason }: ExcludeReading,
): Promise<{ excluded: string }> {
  await atStation(ctx, stationId, async (tx) => {
    const { check, reading } = await openReading(ctx, tx, stationId, checkId, readingId);
    const kept = reading.kept.find((o) => o.id === observationId);
    if (!kept) throw notFound('observation', observationId);
    if (kept.role === 'sensor')
      throw inTheWay(
        'is-the-sensor',
        'This is what the sensor read.',
        'Take the whole reading back instead.',
      );
    if (kept.excludedAt)
      throw inTheWay(
        'excluded-already',
        `It was excluded already: ${kept.excludedReason}.`,
        'Nothing needs to be done.',
      );
    await ctx.db.observation.update(
      { excludedAt: ctx.now(), excludedReason: reason },
      { where: { stationId, id: observationId, excludedAt: null }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: ctx.now(),
      kind: 'check',
      text: `Excluded ${formatValue(kept.value, check.plan.decimals)} of sample ${numberOf(check, reading)} of ${check.channel.name}: ${reason}`,
      action: 'check.exclude-observation',
      subject: { checkId, readingId, observationId },
    });
  });
  return { excluded: observationId };
}

/** The reading of an open check, as long as nothing rests on it. */
async function openReading(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  checkId: string,
  readingId: string,
): Promise<{ check: LoadedCheck; reading: LoadedReading }> {
  const check = await loadOpenCheck(ctx.db, stationId, checkId, tx);
  const reading = check.readings.find((r) => r.id === readingId);
  if (!reading) throw notFound('reading', readingId);
  if (reading.isExcluded)
    throw inTheWay(
      'reading-excluded',
      `This reading was taken back: ${reading.row.excludedReason}.`,
      'Add it to the sample it was taken of.',
    );
  if (!procedureOf(check.plan.procedure).isLate)
    throw inTheWay(
      'nothing-later',
      'This check reads sensor and reference together.',
      'Capture them together, once more.',
    );
  await requireFree(ctx, tx, check, reading);
  return { check, reading };
}

const numberOf = (check: LoadedCheck, reading: LoadedReading): number =>
  check.readings.filter((r) => !r.isExcluded).findIndex((r) => r.id === reading.id) + 1;

/** What was typed, in its base unit, as far as it can be. */
function valueOf(
  { plan }: LoadedCheck,
  { role, entered, confirmed }: ObserveLater,
): { readonly name: string; readonly unit: Unit; readonly value: number; readonly decimals: number } {
  const { against, companions } = procedureOf(plan.procedure);
  if (role === 'reference' && against === 'instrument') {
    const value = quantityInBase(plan.quantity, 'entered', entered);
    requirePlausible(plan.quantity, 'entered', entered, null, plan.referenceRange, Infinity, confirmed);
    return { name: 'Test', unit: quantityOf(plan.quantity).unit, value, decimals: plan.decimals };
  }
  const spec = companions[role];
  if (!spec?.isLate)
    throw badField(
      'no-such-companion',
      'role',
      role,
      `Nothing called ${role} comes later in this check.`,
      `Use ${[...(against === 'instrument' ? ['reference'] : []), ...Object.keys(companions)].join(', ')}.`,
    );
  const value = inBase(spec, 'entered', entered);
  const [low, high] = spec.range;
  if (!(value >= low && value <= high))
    throw badField(
      'outside-range',
      'entered',
      String(entered.value),
      `“${spec.name}” of ${entered.value} ${entered.unit} cannot be: ${low} to ${high} ${spec.unit} can.`,
      'Read it again, and look at its unit.',
    );
  return { name: capital(spec.name), unit: spec.unit, value, decimals: spec.decimals };
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
