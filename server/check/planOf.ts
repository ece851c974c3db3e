import type { OpenCheck } from '@/contract/requests';
import type { InstrumentView } from '@/contract/checkViews';
import type { CheckPlan, PlannedCompanion, PlannedPoint } from '@/core/check/plan';
import type { PartInUse } from '@/core/device/part';
import { certificateFor, limitOfCertificate, type Certificate } from '@/core/kit/certificate';
import type { ProcedureCode } from '@/core/procedure/codes';
import { areOne } from '@/core/procedure/label';
import type { GivenPoint } from '@/core/procedure/procedure';
import { procedureOf } from '@/core/procedure/procedures';
import { decimalsOf } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import type { StandardRow } from '@/db/rows';
import { badField, inTheWay } from '../problem';
import { loggerNumber, toleranceOf, type ChannelNode, type StationGraph } from '../station/stationGraph';

/** What a check is fixed by when it is opened. */

export interface PlanParts {
  readonly graph: StationGraph;
  readonly channel: ChannelNode;
  /** Null where none is read. */
  readonly instrument: InstrumentView | null;
  /** In the order they are read. */
  readonly standards: readonly StandardRow[];
  readonly request: OpenCheck;
  readonly outOfDateReason: string | null;
  /** The newest logged value, base unit: what a tolerance in shares of the reading is a share of. */
  readonly newest: number | null;
  /** What of the sensor wears and bears on this quantity. */
  readonly part: PartInUse | null;
}

export function planOf({
  graph,
  channel,
  instrument,
  standards,
  request,
  outOfDateReason,
  newest,
  part,
}: PlanParts): CheckPlan {
  const q = quantityOf(channel.row.quantity);
  const { procedure } = request;
  const reference = instrument && shownBy(instrument, q.code);
  const points = pointsOf(channel, procedure, standards);
  const sensorTolerance = toleranceOf(channel, newest);
  const resolution = channel.output?.resolution ?? 10 ** -q.decimals;
  const certificate = instrument && certificateFor(instrument.certified, q.code);
  return {
    procedure,
    quantity: q.code,
    unit: channel.written!.settings.unit,
    zoneName: request.zoneName,
    repeats: request.repeats,
    school: request.school,
    settleWindow: request.settleWindow,
    settleBand: Math.max(q.settle.share * sensorTolerance, 2 * resolution),
    guard: q.guard,
    sensorTolerance: reference ? sensorTolerance : Math.max(...points.map((p) => p.sensorTolerance)),
    sensorResolution: resolution,
    sensorResponse: channel.output?.response ?? 0,
    sensorDeadTime: channel.output?.deadTime ?? 0,
    part,
    pools: true,
    referenceTolerance:
      limitOf(certificate) ?? reference?.tolerance ?? Math.max(...points.map((p) => p.tolerance)),
    referenceResolution: reference?.resolution ?? 0,
    referenceRange: reference ? [reference.low, reference.high] : q.range,
    referenceResponse: instrument?.care.responses.find((r) => r.quantity === q.code)?.seconds ?? 0,
    certificate,
    companions: companionsOf(graph, channel, instrument, procedure),
    points,
    comparesDirectly: true,
    outOfDateReason,
    material: procedureOf(procedure).isOfMaterial ? (request.material?.trim() ?? null) : null,
    adjustIn: channel.written!.settings.adjustIn,
    offsets: offsetsOf(graph, channel),
    decimals: reference
      ? Math.max(q.decimals, Math.min(3, decimalsOf(reference.resolution)))
      : Math.max(q.decimals, Math.min(3, decimalsOf(resolution))),
  };
}

/** What its logger takes of an offset; a correction of the record takes every digit. */
function offsetsOf({ loggerProfile }: StationGraph, { row, written }: ChannelNode): CheckPlan['offsets'] {
  const taken = loggerProfile?.offsets?.find((o) => o.quantity === row.quantity);
  return taken && written!.settings.adjustIn === 'device' ? { step: taken.step, most: taken.most } : null;
}

/** How far it may be off once it is put right, base unit; null where no certificate says so. */
const limitOf = (c: Certificate | null): number | null => c && limitOfCertificate(c);

function shownBy(instrument: InstrumentView, quantity: CheckPlan['quantity']) {
  const shown = instrument.quantities.find((x) => x.quantity === quantity);
  if (shown) return shown;
  throw badField(
    'instrument-cannot',
    'instrumentId',
    instrument.name,
    `${instrument.name} ${instrument.serial} does not measure ${inSentence(quantity)}.`,
    'Choose an instrument that does.',
  );
}

/** Where it is read: the standards chosen, or what nature gives. */
function pointsOf(
  channel: ChannelNode,
  procedure: ProcedureCode,
  standards: readonly StandardRow[],
): PlannedPoint[] {
  const { against, points } = procedureOf(procedure);
  const planned = (p: GivenPoint, standardId: string | null): PlannedPoint => ({
    key: p.key,
    name: p.name,
    values: p.values,
    tolerance: p.tolerance,
    sensorTolerance: toleranceOf(channel, p.values[0]?.value ?? p.usual ?? null),
    standardId,
  });
  if (against === 'instrument') return [];
  if (against === 'nature') return points(channel.row.quantity).map((p) => planned(p, null));
  const chosen = standards.map((s, i) =>
    planned(
      {
        key: `p${i + 1}`,
        name: `${s.name}, lot ${s.lot}`,
        values: s.label.values,
        tolerance: s.tolerance,
      },
      s.id,
    ),
  );
  chosen.forEach((a, i) => {
    const same = chosen.slice(i + 1).find((b) => areOne(a, b));
    if (same)
      throw badField(
        'points-are-one',
        'standardIds',
        same.name,
        `${a.name} and ${same.name} lie too close together to say more than one of them.`,
        'Keep one, and choose another further off.',
      );
  });
  return chosen;
}

/** What is read beside both, and by what it is shown here: a channel of the same sensor, or the reference. */
function companionsOf(
  graph: StationGraph,
  channel: ChannelNode,
  instrument: InstrumentView | null,
  procedure: ProcedureCode,
): PlannedCompanion[] {
  return Object.entries(procedureOf(procedure).companions).map(([key, spec]): PlannedCompanion => {
    const { of, quantity, range } = spec;
    if (of === 'reference' && quantity && instrument) {
      const shown = instrument.quantities.find((x) => x.quantity === quantity);
      if (!shown && spec.isNeeded)
        throw badField(
          'instrument-without-companion',
          'instrumentId',
          instrument.name,
          `${instrument.name} shows no ${inSentence(quantity)}. ${spec.why}`,
          'Choose a reference that shows both.',
        );
      const certificate = certificateFor(instrument.certified, quantity);
      return {
        key,
        channel: null,
        tolerance: limitOf(certificate) ?? shown?.tolerance ?? null,
        range: shown ? [shown.low, shown.high] : range,
        certificate,
      };
    }
    const beside =
      of === 'sensor' && quantity
        ? graph.channels.find(
            (c) =>
              c.row.quantity === quantity &&
              c.installation !== null &&
              c.installation.row.id === channel.installation?.row.id,
          )
        : undefined;
    if (beside && !beside.written && spec.isNeeded)
      throw inTheWay(
        'companion-not-written',
        `This sensor’s ${inSentence(quantity!)} channel is not set up. ${spec.why}`,
        'Write its settings under Connect first.',
      );
    return beside?.written
      ? {
          key,
          channel: { number: loggerNumber(beside), unit: beside.written.settings.unit },
          tolerance: toleranceOf(beside),
          range,
          certificate: null,
        }
      : { key, channel: null, tolerance: null, range, certificate: null };
  });
}
