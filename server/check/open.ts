import { Op } from 'sequelize';
import type { OpenCheck } from '@/contract/requests';
import type { CheckStartView, InstrumentView } from '@/contract/checkViews';
import type { CheckPlan } from '@/core/check/plan';
import { procedureOf, proceduresFor } from '@/core/procedure/procedures';
import { formatDifference } from '@/core/quantity/format';
import { inSentence, type QuantityCode, quantityOf } from '@/core/quantity/quantity';
import { query, row, rows, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';
import type { InstrumentRow, StandardRow } from '@/db/rows';
import { atStation } from '../station/atStation';
import { noteClock } from '../clock/compare';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { daysPast } from '../kit/daysPast';
import { instrumentView, instrumentViews } from '../kit/instrumentViews';
import { standards as standardsInKit } from '../kit/standards';
import { badField, inTheWay, notFound } from '../problem';
import { channelOf, isLogged, loadStation, toleranceOf } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';
import { partInUse } from './partInUse';
import { planOf } from './planOf';

/** Opens a check: channel, zone said aloud, by which procedure against what, in date or with a reason, plan fixed. */
export async function openCheck(
  ctx: Context,
  stationId: string,
  request: OpenCheck,
): Promise<{ checkId: string }> {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, request.channelId);
  if (!channel.installation)
    throw inTheWay('no-sensor', 'No sensor is mapped to this channel.', 'Connect one first.');
  if (!channel.written)
    throw inTheWay(
      'never-written',
      'This channel’s settings were never written to the logger.',
      'Stage and write them under Connect first.',
    );
  if (request.zoneName !== channel.row.zoneName)
    throw badField(
      'wrong-zone',
      'zoneName',
      request.zoneName,
      `The reference is said to be in ${request.zoneName}, the channel’s sensor hangs in ${channel.row.zoneName}.`,
      'Carry the reference to the sensor, or choose the channel of the zone you stand in.',
    );
  if (procedureOf(request.procedure).isOfMaterial && !request.material?.trim())
    throw badField(
      'material-missing',
      'material',
      null,
      'It is not said what the goods are.',
      'Name them: what is adjusted on one material proves nothing of another.',
    );
  const at = personTime(ctx, request.occurredAt);
  const { instrument, standards } = await againstWhat(ctx, channel.row.quantity, request);
  const reason = request.outOfDateReason?.trim() || null;
  const inHand = instrument && (await instrumentView(ctx.db, instrument, at));
  const isFoundOff = requireSound(inHand, channel.row.quantity, reason);
  const outOfDateReason = requireInDate(at, instrument, standards, reason) ?? (isFoundOff ? reason : null);
  const newest = await newestReadings(ctx.db, [channel.row.key]);
  const plan = planOf({
    graph,
    channel,
    instrument: inHand,
    standards,
    request,
    outOfDateReason,
    newest: newest.get(channel.row.key)?.value ?? null,
    part: await partInUse(ctx.db, channel),
  });
  await atStation(ctx, stationId, async (tx) => {
    // What was looked at before may have changed: the sensor, the settings, the instrument.
    const same = await query(
      ctx.db,
      `select 1 as x from mapping m
        where m.station_id = :stationId and m.channel_id = :channelId and m.installation_id = :installationId and m.until_at is null
          and (:instrumentId::uuid is null or exists (select 1 from reference_instrument i where i.id = :instrumentId and i.retired_at is null))
          and (select count(*) from standard s where s.id = any(string_to_array(:standardIds, ',')::uuid[]) and s.retired_at is null) = :standards`,
      {
        stationId,
        channelId: channel.row.id,
        installationId: channel.installation!.row.id,
        instrumentId: instrument?.id ?? null,
        standardIds: standards.map((x) => x.id).join(','),
        standards: standards.length,
      },
      tx,
    );
    if (same.length === 0)
      throw inTheWay(
        'changed-meanwhile',
        'The sensor, the instrument or a standard was changed just now.',
        'Load the page again and begin anew.',
      );
    const open = await row(ctx.db.check, {
      where: { stationId, channelId: channel.row.id, closedAt: null },
      transaction: tx,
    });
    // The same form sent twice.
    if (open?.id === request.checkId) return;
    if (open)
      throw inTheWay(
        'check-open',
        'A check of this channel is already open.',
        'Go on with it, or abandon it first.',
        { checkId: open.id },
      );
    await ctx.db.check.create(
      {
        stationId,
        id: request.checkId,
        channelId: channel.row.id,
        installationId: channel.installation!.row.id,
        instrumentId: instrument?.id ?? null,
        plan,
        openedAt: at,
        openedBy: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: channel.row.id,
      occurredAt: at,
      kind: 'check',
      text:
        `Began a check of ${channel.name} in ${plan.zoneName} against ${againstText(plan, instrument)}` +
        (plan.material ? `, on ${plan.material}` : '') +
        (plan.outOfDateReason ? ` (out of date: ${plan.outOfDateReason})` : ''),
      sum: `accuracy ratio ±${plan.sensorTolerance} ÷ ±${plan.referenceTolerance} = ${(plan.sensorTolerance / plan.referenceTolerance).toFixed(1)}`,
      action: 'check.open',
      subject: {
        checkId: request.checkId,
        channelId: channel.row.id,
        procedure: plan.procedure,
        instrumentId: instrument?.id ?? null,
      },
    });
  });
  await noteClock(ctx, graph);
  return { checkId: request.checkId };
}

/** What the sensor is compared with: the instrument, or the standards, that the procedure asks for. */
async function againstWhat(
  ctx: Context,
  quantity: QuantityCode,
  { procedure, instrumentId, standardIds }: OpenCheck,
): Promise<{ readonly instrument: InstrumentRow | null; readonly standards: readonly StandardRow[] }> {
  const { against, name, quantities } = procedureOf(procedure);
  if (!quantities.includes(quantity))
    throw badField(
      'procedure-unfit',
      'procedure',
      procedure,
      `${quantityOf(quantity).name} is not checked by “${name}”.`,
      `Choose ${proceduresFor(quantity)
        .map((code) => procedureOf(code).name)
        .join(', or ')}.`,
    );
  if (against === 'instrument') {
    const instrument =
      instrumentId === null ? null : await row(ctx.db.instrument, { where: { id: instrumentId } });
    if (!instrument || instrument.retiredAt)
      throw instrumentId === null
        ? badField(
            'instrument-missing',
            'instrumentId',
            null,
            'No reference instrument was chosen.',
            'Choose the one you hold beside the sensor.',
          )
        : notFound('reference instrument', instrumentId);
    return { instrument, standards: [] };
  }
  if (against === 'nature') return { instrument: null, standards: [] };
  if (standardIds.length === 0)
    throw badField(
      'standards-missing',
      'standardIds',
      null,
      'No standard was chosen.',
      'Choose those you bring it to, in the order in which you read them. Standards are added under Kit.',
    );
  const found = await rows(ctx.db.standard, { where: { id: { [Op.in]: standardIds }, retiredAt: null } });
  const standards = standardIds.map((id) => {
    const standard = found.find((s) => s.id === id);
    if (!standard) throw notFound('standard', id);
    if (standard.quantity !== quantity)
      throw badField(
        'standard-of-another',
        'standardIds',
        standard.name,
        `${standard.name} is a standard of ${inSentence(standard.quantity)}.`,
        `Choose one of ${inSentence(quantity)}.`,
      );
    return standard;
  });
  return { instrument: null, standards };
}

/** Refuses a reference that was found off in what is checked, without a reason; whether it was. */
function requireSound(
  instrument: InstrumentView | null,
  quantity: QuantityCode,
  reason: string | null,
): boolean {
  const off = instrument?.foundOff.find((f) => f.quantity === quantity);
  if (!off) return false;
  if (reason) return true;
  const { unit, decimals } = quantityOf(quantity);
  throw badField(
    'reference-found-off',
    'outOfDateReason',
    instrument!.serial,
    `${instrument!.name} ${instrument!.serial} was found on ${off.foundOn} to show ${formatDifference(off.by, decimals)} ${unit}, and was not calibrated since.`,
    'Take another, or say why this one is used all the same.',
  );
}

/** Refuses what is past its date without a reason; the reason where there is one and it is needed. */
function requireInDate(
  at: Date,
  instrument: InstrumentRow | null,
  standards: readonly StandardRow[],
  reason: string | null,
): string | null {
  const past = standards.find((s) => daysPast(s.expiresOn, at) > 0);
  const isOverdue = instrument !== null && daysPast(instrument.dueOn, at) > 0;
  if (!past && !isOverdue) return null;
  if (reason) return reason;
  if (past)
    throw badField(
      'standard-out-of-date',
      'outOfDateReason',
      past.expiresOn,
      `${past.name} of lot ${past.lot} was good until ${past.expiresOn}.`,
      'Open a fresh one, or say why this one is used all the same.',
    );
  throw badField(
    'reference-out-of-date',
    'outOfDateReason',
    instrument!.dueOn,
    `The calibration of ${instrument!.name} ${instrument!.serial} ran out on ${instrument!.dueOn}.`,
    'Take one that is in date, or say why this one is used all the same.',
  );
}

/** In words: "Air handheld HX-771", "Phosphate, pH 6.86, lot 42; …". */
const againstText = ({ points }: CheckPlan, instrument: InstrumentRow | null): string =>
  instrument ? `${instrument.name} ${instrument.serial}` : points.map((p) => p.name).join('; ');

interface Latest {
  channelId: string;
  openedAt: Date;
  outcome: string | null;
  material: string | null;
}

function lastOf(latest: readonly Latest[], channelId: string): CheckStartView['channels'][number]['last'] {
  const last = latest.find((l) => l.channelId === channelId);
  return last
    ? { openedAt: last.openedAt.toISOString(), outcome: last.outcome, material: last.material }
    : null;
}

/** What the start of a check has to offer. */
export async function checkStart(db: Database, stationId: string, now: Date): Promise<CheckStartView> {
  const graph = await loadStation(db, stationId);
  const [instruments, standards, open, latest, recent] = await Promise.all([
    rows(db.instrument, { where: { retiredAt: null }, order: [['name', 'ASC']] }),
    standardsInKit(db, now),
    rows(db.check, { where: { stationId, closedAt: null } }),
    query<Latest>(
      db,
      `select distinct on (channel_id) channel_id as "channelId", opened_at as "openedAt", outcome, plan->>'material' as material
         from reference_check where station_id = :stationId order by channel_id, opened_at desc`,
      { stationId },
    ),
    query<{
      id: string;
      channelId: string;
      openedAt: Date;
      outcome: string | null;
      closingDifference: number | null;
    }>(
      db,
      `select id, channel_id as "channelId", opened_at as "openedAt", outcome, closing_difference as "closingDifference"
         from reference_check where station_id = :stationId order by opened_at desc limit 10`,
      { stationId },
    ),
  ]);
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    channels: graph.channels
      .filter(isLogged)
      .filter((c) => c.written && c.installation)
      .map((c) => ({
        id: c.row.id,
        number: c.row.number,
        name: c.name,
        zoneName: c.row.zoneName,
        quantity: c.row.quantity,
        openCheckId: open.find((o) => o.channelId === c.row.id)?.id ?? null,
        settleWindow: quantityOf(c.row.quantity).settle.window,
        tolerance: toleranceOf(c),
        last: lastOf(latest, c.row.id),
      })),
    instruments: await instrumentViews(db, instruments, now),
    standards,
    recent: recent.map((r) => {
      const c = channelOf(graph, r.channelId);
      const q = quantityOf(c.row.quantity);
      return {
        id: r.id,
        channelName: c.name,
        openedAt: r.openedAt.toISOString(),
        outcome: r.outcome,
        difference: r.closingDifference,
        unit: q.unit,
        decimals: q.decimals,
      };
    }),
  };
}
