import type { LayerView, TracePoint, TraceSeriesView, TraceView } from '@/contract/recordViews';
import { adjustmentWayNames, isHandWay, type AdjustmentWay } from '@/core/device/adjustmentWay';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf, type Aggregate } from '@/core/quantity/quantity';
import { usualInterval } from '@/core/quality/timing';
import { meanDirection } from '@/core/series/circular';
import {
  changes,
  correctedBy,
  correctionAt,
  correctionEdges,
  driftedStamp,
  type ClockDrift,
  type Correction,
} from '@/core/series/correction';
import { query, row, type Database } from '@/db/database';
import { fineBuckets, readingsPage, rollupBuckets, type Bucket } from '@/db/record';
import { day, hour } from '@/db/rollup';
import { isId } from '../id';
import { badField, instantOf } from '../problem';
import { dischargeDoubtBy, type DischargeDoubtBy } from '../discharge/doubt';
import { dischargeProvenance } from '../discharge/provenance';
import { derivationText } from './derivation';
import { mendDerived } from './mendDerived';
import { channelOf, loadStation } from '../station/stationGraph';
import { activeLayers, correctionsOf, driftsOf, layerView, type ActiveLayer } from '../verify/layers';

export interface TraceWindow {
  /** ms since epoch */
  readonly from: number;
  readonly until: number;
  /** Width of the drawing, px. */
  readonly pixels: number;
}

/** A time window from text: ISO instants; the last seven days when nothing is said. Refuses what cannot be drawn. */
export function traceWindow(
  from: string | null,
  until: string | null,
  pixels: string | null,
  now: Date,
): TraceWindow {
  const read = (field: string, text: string | null, otherwise: number) => {
    if (!text) return otherwise;
    return instantOf(field, text).getTime();
  };
  const end = read('until', until, now.getTime());
  const start = read('from', from, end - 7 * 86_400_000);
  if (end <= start)
    throw badField(
      'empty-window',
      'until',
      until,
      'The window ends before it begins.',
      'Choose a later end.',
    );
  if (end - start > 500 * 366 * 86_400_000)
    throw badField(
      'window-too-long',
      'from',
      from,
      'The window is longer than 500 years.',
      'Choose a shorter one.',
    );
  const width = Number(pixels ?? 800);
  return {
    from: start,
    until: end,
    pixels: Number.isFinite(width) ? Math.min(4000, Math.max(50, Math.round(width))) : 800,
  };
}

/** A channel by its station and its own id. */
export interface ChannelRef {
  readonly stationId: string;
  readonly channelId: string;
}

/** So many channels are drawn together at the most. */
export const mostTraces = 6;

/** A channel and those drawn with it, "station.channel" by commas; refuses more than six. */
export function channelRefs(first: ChannelRef, others: string | null): ChannelRef[] {
  const texts = [`${first.stationId}.${first.channelId}`, ...(others ?? '').split(',').filter(Boolean)];
  if (texts.length > mostTraces)
    throw badField(
      'too-many-traces',
      'with',
      texts.length,
      `${texts.length} channels do not fit one trace.`,
      `Choose ${mostTraces} at the most.`,
    );
  return texts.map((text) => {
    const [stationId = '', channelId = ''] = text.split('.');
    return { stationId, channelId };
  });
}

/** One to six channels over a window, with what lies over them. Cost grows with pixels, not with years. */
export async function traces(
  db: Database,
  refs: readonly ChannelRef[],
  window: TraceWindow,
): Promise<TraceView> {
  await mendDerivedOf(db, refs);
  const series = await Promise.all(refs.map((r) => traceSeries(db, r, window)));
  return {
    from: window.from,
    until: window.until,
    siteZone: series[0]!.zone,
    series: series.map((s) => s.view),
  };
}

/** Brings derived channels of some stations up to date before they are read. */
export async function mendDerivedOf(db: Database, refs: readonly ChannelRef[]): Promise<void> {
  for (const id of new Set(refs.map((r) => r.stationId))) if (isId(id)) await mendDerived(db, id);
}

/** Bucket width for a window, s: fine ones over the readings, whole hours or days over the rollups. */
export function bucketWidth(window: TraceWindow): number {
  const perPixel = (window.until - window.from) / 1000 / window.pixels;
  if (perPixel >= day / 2) return Math.ceil(perPixel / day) * day;
  if (perPixel >= hour / 2) return Math.ceil(perPixel / hour) * hour;
  return Math.max(1, Math.ceil(perPixel));
}

async function traceSeries(
  db: Database,
  { stationId, channelId }: ChannelRef,
  window: TraceWindow,
): Promise<{ view: TraceSeriesView; zone: string }> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const { from, until } = window;
  const q = quantityOf(channel.row.quantity);
  const width = bucketWidth(window);
  const keys = [graph.station.key, channel.row.key] as const;
  const bucketsOf = (key: number) =>
    (width >= hour ? rollupBuckets : fineBuckets)(db, graph.station.key, key, width, from, until);
  const [buckets, layers, marks, clock] = await Promise.all([
    bucketsOf(channel.row.key),
    activeLayers(db, stationId, channelId, from, until),
    markers(db, stationId, channelId, from, until, q.unit, q.decimals),
    query<{ difference: number }>(
      db,
      'select difference from clock_compared where station_id = :stationId order by compared_at desc, clock_run desc limit 1',
      { stationId },
    ),
  ]);
  const derivation =
    channel.row.source === 'derived' ? await row(db.derivation, { where: { stationId, channelId } }) : null;
  const formula = derivation?.formula;
  const provenance =
    formula === 'surfaceVelocity' || formula === 'levelRating'
      ? `; ${await dischargeProvenance(db, stationId, formula, from, until)}`
      : '';
  const storage = channel.written?.settings.storageInterval ?? sparse(buckets, width);
  const drifts = driftsOf(layers);
  const corrected = await correctedMeans(db, keys, buckets, width, q.aggregate, correctionsOf(layers));
  const doubt = await dischargeDoubtBy(db, graph, derivation);
  const uncertainty = doubt && bucketDoubt(doubt, await bucketsOf(doubt.level.row.key));
  return {
    zone: graph.site.zone,
    view: {
      stationId,
      stationCode: graph.station.code,
      channelId,
      name: channel.name,
      quantity: q.code,
      aggregate: q.aggregate,
      unit: q.unit,
      decimals: q.decimals,
      width,
      points: points(buckets, corrected, q.aggregate, Math.max(width, storage), drifts, uncertainty),
      markers: marks,
      layers: layers.map((l) => drawnLayer(l, drifts)),
      derived: derivation && derivationText(derivation, graph.channels) + provenance,
      clockDifference: channel.row.source === 'logger' ? (clock[0]?.difference ?? null) : null,
    },
  };
}

/** What a bucket of discharges is good to: by the mean level of the same time. */
function bucketDoubt(doubt: DischargeDoubtBy, levels: readonly Bucket[]) {
  const keyOf = (b: Bucket) => `${b.start} ${b.clockRun ?? ''}`;
  const level = new Map(levels.map((b) => [keyOf(b), b.sum / b.n]));
  return (b: Bucket, discharge: number): number | null => {
    const h = level.get(keyOf(b));
    return h === undefined || !Number.isFinite(discharge) ? null : doubt.of(b.start * 1000, h, discharge);
  };
}

/** A layer where its readings are drawn: a corrected clock drift moves both. */
function drawnLayer(layer: ActiveLayer, drifts: readonly ClockDrift[]): LayerView {
  const view = layerView(layer);
  const drawn = (stamp: number) => Math.round(driftedStamp(drifts, stamp));
  return { ...view, from: drawn(view.from), until: view.until === null ? null : drawn(view.until) };
}

/** The spacing of a record without settings: the commonest distance of its buckets, s. */
function sparse(buckets: readonly Bucket[], width: number): number {
  return usualInterval(Float64Array.from(buckets, (b) => b.start)) ?? width;
}

/** Buckets as points, with a break wherever the record has one. */
function points(
  buckets: readonly Bucket[],
  corrected: ReadonlyMap<Bucket, number>,
  aggregate: Aggregate,
  spacing: number,
  drifts: readonly ClockDrift[],
  uncertainty: ((b: Bucket, value: number) => number | null) | null,
): TracePoint[] {
  // A single reading is drawn where it is, and not where its bucket begins.
  const drawnAt = (b: Bucket) =>
    driftedStamp(drifts, (b.n === 1 && b.firstAt ? b.firstAt : b.start) * 1000, b.clockRun ?? null);
  // A clock that was set back gives two runs the same stamps; what they mean is in order.
  const drawn = buckets.map((b) => ({ b, t: drawnAt(b) })).sort((x, y) => x.t - y.t);
  const all: TracePoint[] = [];
  let previous: number | null = null;
  for (const { b, t } of drawn) {
    if (previous !== null && t - previous > 2500 * spacing)
      all.push({ t: previous + 1000 * spacing, mean: null, min: null, max: null, corrected: null, n: 0 });
    const mean = meanOf(b, aggregate);
    const spread = aggregate === 'mean';
    const U = uncertainty?.(b, corrected.get(b) ?? mean) ?? null;
    all.push({
      t,
      n: b.n,
      mean: Number.isFinite(mean) ? mean : null,
      min: spread ? b.min : null,
      max: spread ? b.max : null,
      corrected: corrected.get(b) ?? null,
      ...(U !== null && { uncertainty: U }),
    });
    previous = t;
  }
  return all;
}

/** What a bucket is drawn at: its mean, its total, or its mean direction. */
const meanOf = (b: Bucket, aggregate: Aggregate): number =>
  aggregate === 'circular'
    ? meanDirection(b.sinSum, b.cosSum, b.n).degrees
    : aggregate === 'total'
      ? b.sum
      : b.sum / b.n;

/**
 * Corrected means of buckets. Where no edge of a correction crosses a bucket the
 * correction runs straight over it; where one does, the readings themselves are asked.
 */
async function correctedMeans(
  db: Database,
  [stationKey, channelKey]: readonly [number, number],
  buckets: readonly Bucket[],
  width: number,
  aggregate: Aggregate,
  corrections: readonly Correction[],
): Promise<Map<Bucket, number>> {
  const found = new Map<Bucket, number>();
  if (corrections.length === 0 || aggregate !== 'mean') return found;
  const edges = correctionEdges(corrections);
  for (const b of buckets) {
    // Of a rollup's readings it is known that they begin with it and are evenly spaced.
    const begin = (b.firstAt ?? b.start) * 1000;
    const end = (b.lastAt ?? b.start + width - width / b.n) * 1000;
    // The ends of a span belong to it, so an edge at the very first reading splits a bucket too.
    if (b.n > 1 && edges.some((e) => e >= begin && e <= end)) {
      const [from, until] = [b.start * 1000, (b.start + width) * 1000];
      const readings = (await readingsPage(db, stationKey, channelKey, from, until, 100_000)).filter(
        (r) => b.clockRun === undefined || r.clockRun === b.clockRun,
      );
      const sum = readings.reduce(
        (s, r) => s + correctedBy(correctionAt(corrections, r.at.getTime()), r.value),
        0,
      );
      found.set(b, sum / readings.length);
    } else {
      // The readings of a bucket lie about its middle.
      const correction = correctionAt(corrections, (begin + end) / 2);
      if (changes(correction)) found.set(b, correctedBy(correction, b.sum / b.n));
    }
  }
  return found;
}

async function markers(
  db: Database,
  stationId: string,
  channelId: string,
  from: number,
  until: number,
  unit: string,
  decimals: number,
): Promise<TraceSeriesView['markers']> {
  const span = { stationId, channelId, from: new Date(from), until: new Date(until) };
  const [checks, adjustments] = await Promise.all([
    query<{ at: Date; outcome: string | null; difference: number | null }>(
      db,
      `select opened_at as at, outcome, closing_difference as difference from reference_check
        where station_id = :stationId and channel_id = :channelId and opened_at between :from and :until
          and outcome is distinct from 'abandoned'`,
      span,
    ),
    query<{
      at: Date;
      previous: number | null;
      resulting: number | null;
      place: string;
      mode: AdjustmentWay;
    }>(
      db,
      `select effective_at as at, previous, resulting, place, mode from adjustment
        where station_id = :stationId and channel_id = :channelId and effective_at between :from and :until`,
      span,
    ),
  ]);
  return [
    ...checks.map((c) => ({
      t: c.at.getTime(),
      kind: 'check' as const,
      text: `Check: ${c.outcome ?? 'open'}${c.difference === null ? '' : `, ${formatDifference(c.difference, decimals)} ${unit}`}`,
    })),
    ...adjustments.map((a) => ({
      t: a.at.getTime(),
      kind: 'adjustment' as const,
      text: isHandWay(a.mode)
        ? `Adjusted in the device: ${adjustmentWayNames[a.mode]}`
        : `Adjusted in the ${a.place}: ${formatDifference(a.previous, decimals)} → ${formatDifference(a.resulting, decimals)} ${unit}`,
    })),
  ].sort((a, b) => a.t - b.t);
}
