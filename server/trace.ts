import type { TracePoint, TraceView } from '@/contract/views';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf, type Aggregate } from '@/core/quantity/quantity';
import { circularMean } from '@/core/series/circular';
import { query, rows, type Database } from '@/db/database';
import { fineBuckets, readingsPage, rollups, type Bucket } from '@/db/record';
import type { LayerRow } from '@/db/rows';
import { badField } from './problem';
import { channelOf, loadStation } from './stationGraph';

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
    const ms = Date.parse(text);
    if (!Number.isFinite(ms))
      throw badField(
        'bad-time',
        field,
        text,
        `"${text}" is not a time.`,
        'Use a form like 2026-03-01T09:30Z.',
      );
    return ms;
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
  if (end - start > 120 * 366 * 86_400_000)
    throw badField(
      'window-too-long',
      'from',
      from,
      'The window is longer than 120 years.',
      'Choose a shorter one.',
    );
  const width = Number(pixels ?? 800);
  return {
    from: start,
    until: end,
    pixels: Number.isFinite(width) ? Math.min(4000, Math.max(50, Math.round(width))) : 800,
  };
}

/** One channel over a window, with what was done to it. Cost grows with pixels, not with years. */
export async function trace(
  db: Database,
  stationId: string,
  channelId: string,
  window: TraceWindow,
): Promise<TraceView> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const { from, until, pixels } = window;
  const q = quantityOf(channel.row.quantity);
  const perPixel = (until - from) / 1000 / pixels;
  const storage = channel.written?.settings.storageInterval ?? 600;
  const key = channel.row.key;
  const width = perPixel >= 86_400 / 2 ? 86_400 : perPixel >= 1800 ? 3600 : Math.max(1, Math.ceil(perPixel));
  const buckets =
    width >= 3600
      ? await rollups(db, [key], width as 3600 | 86_400, from, until)
      : await fineBuckets(db, graph.station.key, key, width, from, until);
  const [layers, marks, clock] = await Promise.all([
    activeLayers(db, stationId, channelId, from, until),
    markers(db, stationId, channelId, from, until, q.unit, q.decimals),
    query<{ difference: number }>(
      db,
      'select difference from clock_comparison where station_id = :stationId order by compared_at desc limit 1',
      { stationId },
    ),
  ]);
  return {
    stationId,
    stationCode: graph.station.code,
    channelId,
    name: channel.name,
    quantity: q.code,
    unit: q.unit,
    decimals: q.decimals,
    from,
    until,
    width,
    points: points(buckets, q.aggregate, Math.max(width, storage)),
    markers: marks,
    spans: layers
      .filter((l) => l.kind !== 'clock')
      .map((l) => ({
        from: l.fromAt.getTime(),
        until: l.untilAt?.getTime() ?? until,
        kind: l.kind,
        reason: l.reason,
      })),
    clockDifference: clock[0]?.difference ?? null,
    siteZone: graph.site.zone,
  };
}

/** Buckets as points, with a break wherever the record has one. */
function points(buckets: readonly Bucket[], aggregate: Aggregate, spacing: number): TracePoint[] {
  const all: TracePoint[] = [];
  let previous: number | null = null;
  for (const b of buckets) {
    if (previous !== null && b.start - previous > 2.5 * spacing)
      all.push({ t: (previous + spacing) * 1000, mean: null, min: null, max: null, n: 0 });
    const circular = aggregate === 'circular';
    const mean = circular ? circularMean(b.sinSum, b.cosSum) : aggregate === 'total' ? b.sum : b.sum / b.n;
    all.push({
      t: b.start * 1000,
      n: b.n,
      mean: Number.isFinite(mean) ? mean : null,
      min: circular || aggregate === 'total' ? null : b.min,
      max: circular || aggregate === 'total' ? null : b.max,
    });
    previous = b.start;
  }
  return all;
}

async function activeLayers(
  db: Database,
  stationId: string,
  channelId: string,
  from: number,
  until: number,
): Promise<LayerRow[]> {
  const all = await rows(db.layer, { where: { stationId, channelId }, order: [['fromAt', 'ASC']] });
  const revoked = new Set(all.map((l) => l.revokes));
  return all.filter(
    (l) =>
      !revoked.has(l.id) &&
      !l.parameters.empty &&
      l.fromAt.getTime() < until &&
      (l.untilAt?.getTime() ?? Infinity) > from,
  );
}

async function markers(
  db: Database,
  stationId: string,
  channelId: string,
  from: number,
  until: number,
  unit: string,
  decimals: number,
): Promise<TraceView['markers']> {
  const span = { stationId, channelId, from: new Date(from), until: new Date(until) };
  const [checks, adjustments] = await Promise.all([
    query<{ at: Date; outcome: string | null; difference: number | null }>(
      db,
      `select opened_at as at, outcome, closing_difference as difference from reference_check
        where station_id = :stationId and channel_id = :channelId and opened_at between :from and :until
          and outcome is distinct from 'abandoned'`,
      span,
    ),
    query<{ at: Date; previous: number; resulting: number; place: string }>(
      db,
      `select effective_at as at, previous, resulting, place from adjustment
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
      text: `Adjusted in the ${a.place}: ${formatDifference(a.previous, decimals)} → ${formatDifference(a.resulting, decimals)} ${unit}`,
    })),
  ].sort((a, b) => a.t - b.t);
}

/** The record of a window as CSV: logged and corrected side by side, with what lay over each stamp. */
export async function* traceCsv(
  db: Database,
  stationId: string,
  channelId: string,
  window: TraceWindow,
): AsyncGenerator<string> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const layers = await activeLayers(db, stationId, channelId, window.from, window.until);
  yield `logger_stamp_utc,clock_run,logged_${channel.row.quantity},corrected_${channel.row.quantity},marks\r\n`;
  let from = window.from;
  for (;;) {
    const page = await readingsPage(db, graph.station.key, channel.row.key, from, window.until, 5000);
    if (page.length === 0) return;
    yield page
      .map((r) => {
        const over = layers.filter((l) => l.fromAt <= r.at && (!l.untilAt || l.untilAt >= r.at));
        const correction = over.filter((l) => l.kind === 'correction').at(-1)?.parameters.offset;
        const corrected = r.value + (typeof correction === 'number' ? correction : 0);
        const marks = over
          .filter((l) => l.kind !== 'correction')
          .map((l) => l.kind)
          .join(' ');
        return `${r.at.toISOString()},${r.clockRun},${Number(r.value.toFixed(6))},${Number(corrected.toFixed(6))},${marks}\r\n`;
      })
      .join('');
    from = page.at(-1)!.at.getTime() + 1;
  }
}
