import type { OpenCheck } from '@/contract/requests';
import type { CheckStartView, InstrumentView } from '@/contract/views';
import { decimalsOf } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { query, row, rows, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';
import type { InstrumentRow } from '@/db/rows';
import { atStation } from '../station/atStation';
import { noteClock } from '../clock/compare';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { badField, inTheWay, notFound } from '../problem';
import {
  channelOf,
  loadStation,
  toleranceOf,
  type ChannelNode,
  type StationGraph,
  isLogged,
  loggerNumber,
} from '../station/stationGraph';
import type { CheckPlan } from '@/core/check/plan';
import { recordAct } from '../book/recordAct';

/** Opens a check: channel, zone said aloud, reference instrument in date (or a reason), plan fixed. */
export async function openCheck(
  ctx: Context,
  stationId: string,
  request: OpenCheck,
): Promise<{ checkId: string }> {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, request.channelId);
  const instrument = await row(ctx.db.instrument, { where: { id: request.instrumentId } });
  if (!instrument || instrument.retiredAt) throw notFound('reference instrument', request.instrumentId);
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
  const at = personTime(ctx, request.occurredAt);
  const overdue = overdueDays(instrument, at);
  const reason = request.outOfDateReason?.trim() || null;
  if (overdue > 0 && !reason)
    throw badField(
      'reference-out-of-date',
      'outOfDateReason',
      instrument.dueOn,
      `The calibration of ${instrument.name} ${instrument.serial} ran out on ${instrument.dueOn}.`,
      'Take one that is in date, or say why this one is used all the same.',
    );
  const newest = await newestReadings(ctx.db, [channel.row.key]);
  const plan = planOf(
    graph,
    channel,
    instrument,
    request,
    overdue > 0 ? reason : null,
    newest.get(channel.row.key)?.value ?? null,
  );
  await atStation(ctx, stationId, async (tx) => {
    // What was looked at before may have changed: the sensor, the settings, the instrument.
    const same = await query(
      ctx.db,
      `select 1 as x from mapping m join reference_instrument i on i.id = :instrumentId and i.retired_at is null
        where m.station_id = :stationId and m.channel_id = :channelId and m.installation_id = :installationId and m.until_at is null`,
      {
        stationId,
        channelId: channel.row.id,
        installationId: channel.installation!.row.id,
        instrumentId: instrument.id,
      },
      tx,
    );
    if (same.length === 0)
      throw inTheWay(
        'changed-meanwhile',
        'The sensor or the instrument was changed just now.',
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
        temperatureChannelId: plan.temperature ? temperatureChannel(graph, channel)!.row.id : null,
        instrumentId: instrument.id,
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
        `Began a check of ${channel.name} in ${plan.zoneName} against ${instrument.name} ${instrument.serial}` +
        (plan.outOfDateReason ? ` (calibration overdue ${overdue} d: ${plan.outOfDateReason})` : ''),
      sum: `accuracy ratio ±${plan.sensorTolerance} ÷ ±${plan.referenceTolerance} = ${(plan.sensorTolerance / plan.referenceTolerance).toFixed(1)}`,
      action: 'check.open',
      subject: {
        checkId: request.checkId,
        channelId: channel.row.id,
        instrumentId: instrument.id,
      },
    });
  });
  await noteClock(ctx, graph);
  return { checkId: request.checkId };
}

function planOf(
  graph: StationGraph,
  channel: ChannelNode,
  instrument: InstrumentRow,
  request: OpenCheck,
  reason: string | null,
  /** The newest logged value, base unit: what a tolerance in shares of the reading is a share of. */
  at: number | null,
): CheckPlan {
  const q = quantityOf(channel.row.quantity);
  const reference = instrument.quantities.find((x) => x.quantity === q.code);
  if (!reference)
    throw badField(
      'instrument-cannot',
      'instrumentId',
      instrument.name,
      `${instrument.name} ${instrument.serial} does not measure ${q.name.toLowerCase()}.`,
      'Choose an instrument that does.',
    );
  const sensorTolerance = toleranceOf(channel, at);
  const resolution = channel.output?.resolution ?? 10 ** -q.decimals;
  return {
    quantity: q.code,
    unit: channel.written!.settings.unit,
    zoneName: request.zoneName,
    repeats: request.repeats,
    school: request.school,
    settleWindow: request.settleWindow,
    settleBand: Math.max(q.settle.share * sensorTolerance, 2 * resolution),
    guard: q.guard,
    sensorTolerance,
    sensorResolution: resolution,
    sensorResponse: channel.output?.response ?? 0,
    pools: true,
    referenceTolerance: reference.tolerance,
    referenceResolution: reference.resolution,
    referenceRange: [reference.low, reference.high],
    temperature: q.code === 'humidity' ? temperaturePlan(graph, channel, instrument) : null,
    outOfDateReason: reason,
    adjustIn: channel.written!.settings.adjustIn,
    decimals: Math.max(q.decimals, Math.min(3, decimalsOf(reference.resolution))),
  };
}

/** The air temperature channel of the same sensor: humidity hangs on temperature. */
const temperatureChannel = (graph: StationGraph, channel: ChannelNode) =>
  graph.channels.find(
    (c) => c.row.quantity === 'airTemperature' && c.installation?.row.id === channel.installation?.row.id,
  ) ?? null;

function temperaturePlan(
  graph: StationGraph,
  channel: ChannelNode,
  instrument: InstrumentRow,
): CheckPlan['temperature'] {
  const companion = temperatureChannel(graph, channel);
  const reference = instrument.quantities.find((x) => x.quantity === 'airTemperature');
  if (!companion?.written)
    throw inTheWay(
      'no-temperature-channel',
      'This sensor’s temperature channel is not set up, and humidity cannot be compared without it.',
      'Write its settings under Connect first.',
    );
  if (!reference)
    throw badField(
      'instrument-without-temperature',
      'instrumentId',
      instrument.name,
      `${instrument.name} shows no temperature, and humidity cannot be compared without it.`,
      'Choose a reference that shows both.',
    );
  return {
    channelNumber: loggerNumber(companion),
    unit: companion.written.settings.unit,
    sensorTolerance: toleranceOf(companion),
    referenceTolerance: reference.tolerance,
    referenceRange: [reference.low, reference.high],
    direct: true,
  };
}

/** Days by which an instrument's calibration has run out at an instant; 0 while it is in date. */
export function overdueDays(instrument: { dueOn: string }, at: Date): number {
  const due = Date.parse(`${instrument.dueOn}T23:59:59Z`);
  return Math.max(0, Math.ceil((at.getTime() - due) / 86_400_000));
}

export function instrumentView(i: InstrumentRow, now: Date): InstrumentView {
  return {
    id: i.id,
    name: i.name,
    model: i.model,
    serial: i.serial,
    calibratedOn: i.calibratedOn,
    dueOn: i.dueOn,
    overdueDays: overdueDays(i, now),
    linked: i.link !== null,
    quantities: i.quantities,
  };
}

/** What the start of a check has to offer. */
export async function checkStart(db: Database, stationId: string, now: Date): Promise<CheckStartView> {
  const graph = await loadStation(db, stationId);
  const [instruments, open, recent] = await Promise.all([
    rows(db.instrument, { where: { retiredAt: null }, order: [['name', 'ASC']] }),
    rows(db.check, { where: { stationId, closedAt: null } }),
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
      })),
    instruments: instruments.map((i) => instrumentView(i, now)),
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
