import { Op } from 'sequelize';
import type { FoundOffRequest, TakeBackFinding, TouchedCheckView, TouchedSide } from '@/contract/foundOff';
import type { Evaluation } from '@/core/check/evaluate';
import { rejudge, type Off } from '@/core/check/foundOff';
import { groupBy } from '@/core/groupBy';
import { quantityOf, inSentence } from '@/core/quantity/quantity';
import { query, row, rows, type Database } from '@/db/database';
import { audit } from '../book/audit';
import { personTime } from '../book/fieldBook';
import { loadJudged } from '../check/load';
import type { Context } from '../context';
import { isId } from '../id';
import { badField, inTheWay, instantOf, notFound } from '../problem';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';
import { instrumentOf } from './instrumentPage';

/** A reference instrument that was found off: which checks that touches, and what they would have said. */

/** Every check made with an instrument between two instants that the error touches, newest first. */
export async function touchedChecks(
  db: Database,
  instrumentId: string,
  off: Off,
  { from, until }: { readonly from: Date; readonly until: Date },
): Promise<TouchedCheckView[]> {
  await instrumentOf(db, instrumentId);
  const made = await rows(db.check, {
    where: {
      instrumentId,
      openedAt: { [Op.gte]: from, [Op.lt]: until },
      outcome: { [Op.notIn]: ['abandoned'] },
    },
    order: [['openedAt', 'DESC']],
  });
  if (made.length === 0) return [];
  const named = await query<NamedChannel & { id: string; code: string }>(
    db,
    `select c.id, s.code, ${namedColumns('c')} from named_channel c join station s on s.id = c.station_id
      where c.id = any(string_to_array(:ids, ',')::uuid[])`,
    { ids: [...new Set(made.map((k) => k.channelId))].join(',') },
  );
  const names = new Map(named.map((n) => [n.id, n]));
  const touched: TouchedCheckView[] = [];
  for (const [stationId, checks] of groupBy(made, (k) => k.stationId)) {
    for (const { row: check, judged, adjustments } of await loadJudged(db, stationId, checks)) {
      const { before, after, isTouched, isChanged } = rejudge(judged, adjustments, off);
      if (!isTouched) continue;
      const name = names.get(check.channelId)!;
      const last = adjustments.at(-1);
      touched.push({
        checkId: check.id,
        stationId,
        stationCode: name.code,
        channelName: channelName(name),
        openedAt: check.openedAt.toISOString(),
        outcome: check.outcome!,
        unit: quantityOf(check.plan.quantity).unit,
        decimals: check.plan.decimals,
        before: sideOf(before),
        after: sideOf(after),
        isChanged,
        adjustedBy:
          last && last.previous !== null && last.resulting !== null ? last.resulting - last.previous : null,
        adjustedIn: last?.place ?? null,
      });
    }
  }
  return touched.sort((a, b) => b.openedAt.localeCompare(a.openedAt));
}

const sideOf = (e: Evaluation): TouchedSide => ({
  asFound: e.asFound,
  asLeft: e.asLeft,
  verdict: e.verdict?.kind ?? null,
  convergence: e.convergence?.kind ?? null,
});

/** Keeps what was found of an instrument. */
export async function keepFinding(
  ctx: Context,
  instrumentId: string,
  request: FoundOffRequest,
): Promise<{ id: string }> {
  const instrument = await instrumentOf(ctx.db, instrumentId);
  const { findingId, quantity, by, why } = request;
  if (!instrument.quantities.some((q) => q.quantity === quantity))
    throw badField(
      'instrument-cannot',
      'quantity',
      quantity,
      `${instrument.name} ${instrument.serial} does not measure ${inSentence(quantity)}.`,
      'Choose a quantity that it shows.',
    );
  if (by === 0)
    throw badField(
      'not-off',
      'by',
      0,
      'Off by 0 is not off.',
      'Enter what it shows too much; −0.4 for too little.',
    );
  const foundAt = personTime(ctx, request.occurredAt);
  const goodUntil = instantOf('goodUntil', request.goodUntil);
  if (goodUntil >= foundAt)
    throw badField(
      'good-until-later',
      'goodUntil',
      request.goodUntil,
      'It would have been good until after it was found off.',
      'Enter when it was last known to be good: its calibration, or its last comparison.',
    );
  await ctx.db.transact(async (tx) => {
    if (await row(ctx.db.instrumentFinding, { where: { id: findingId }, transaction: tx })) return;
    await ctx.db.instrumentFinding.create(
      {
        id: findingId,
        instrumentId,
        quantity,
        offBy: by,
        goodUntil,
        foundAt,
        why,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        revokes: null,
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.found-off', null, { findingId, instrumentId, quantity, by });
  });
  return { id: findingId };
}

/** Takes a finding back by a line of its own; both stay on file. */
export async function takeFindingBack(
  ctx: Context,
  instrumentId: string,
  findingId: string,
  request: TakeBackFinding,
): Promise<{ takenBack: string }> {
  await ctx.db.transact(async (tx) => {
    const found = isId(findingId)
      ? await row(ctx.db.instrumentFinding, {
          where: { id: findingId, instrumentId, revokes: null },
          transaction: tx,
        })
      : null;
    if (!found) throw notFound('finding', findingId);
    // One takes it back: the others wait here, and see it.
    await query(ctx.db, `select pg_advisory_xact_lock(4719, hashtext(:findingId))`, { findingId }, tx);
    const before = await row(ctx.db.instrumentFinding, { where: { revokes: findingId }, transaction: tx });
    if (before?.id === request.findingId) return;
    if (before)
      throw inTheWay('taken-back-already', 'It was taken back already.', 'Nothing needs to be done.');
    await ctx.db.instrumentFinding.create(
      {
        ...found,
        id: request.findingId,
        why: request.why,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        revokes: findingId,
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.found-off-back', null, { findingId, instrumentId });
  });
  return { takenBack: findingId };
}
