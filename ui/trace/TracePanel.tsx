'use client';

import Box from '@mui/material/Box';
import { useEffect, useRef, useState, type RefObject } from 'react';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import type { TracePoint, TraceSeriesView } from '@/contract/recordViews';
import { formatValue } from '@/core/quantity/format';
import { timeText } from '../shared/time';
import type { LimitLine } from './limitLines';
import { seriesStyle } from './seriesStyle';
import { tickText, timeTicks, valueAxis, type ValueAxis } from './ticks';
import { TraceTooltip, type TooltipRow } from './TraceTooltip';

const colour = (name: string) => `var(--mui-palette-${name})`;
/**
 * Where the plot lies inside the chart, px: wheel and drag need to know. On the right there is room
 * for half of the longest time, since a tick may fall on the very end.
 */
const plot = { left: 84, right: 30 };

export interface PanelSeries {
  readonly series: TraceSeriesView;
  /** Its place among all channels shown. */
  readonly index: number;
  /** Means with a correction that is only proposed, by instant. */
  readonly proposed?: ReadonlyMap<number, number>;
}

interface Props {
  readonly panel: readonly PanelSeries[];
  readonly from: number;
  readonly until: number;
  readonly zone: string;
  readonly height: number;
  /** What a drag means just now. */
  readonly dragging: 'zoom' | 'span';
  readonly span: { from: number; until: number } | null;
  /** Ranges of thresholds that are being looked at. */
  readonly limits?: readonly LimitLine[];
  readonly onDrag: (from: number, until: number, asSpan: boolean) => void;
  /** The wheel: by what the window changes, about which instant. */
  readonly onWheel: (factor: number, about: number) => void;
}

type Point = Record<string, number | [number, number] | null>;

/** Channels of one unit over one window: extremes as bands so that they never vanish, means as lines. */
export function TracePanel(props: Props) {
  const { panel, from, until, zone, height, dragging, span, limits = [], onDrag, onWheel } = props;
  const box = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ from: number; until: number; asSpan: boolean } | null>(null);
  const instantAt = (clientX: number): number => {
    const rect = box.current!.getBoundingClientRect();
    const share = (clientX - rect.left - plot.left) / (rect.width - plot.left - plot.right);
    return from + Math.min(1, Math.max(0, share)) * (until - from);
  };
  const wheel = useRef<(e: WheelEvent) => void>(() => {});
  useEffect(() => {
    wheel.current = (e) => {
      e.preventDefault();
      onWheel(e.deltaY > 0 ? 1.4 : 1 / 1.4, instantAt(e.clientX));
    };
  });
  useEffect(() => {
    // React's own wheel handlers may not keep the page from scrolling.
    const element = box.current!;
    const turn = (e: WheelEvent) => wheel.current(e);
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, []);

  const data = pointsOf(panel);
  const [first] = panel;
  const { unit, decimals } = first!.series;
  const width = useWidth(box);
  const axis = axisOf(panel, limits);
  const roundTimes = timeTicks(from, until, zone, Math.max(2, Math.min(10, Math.floor(width / 110))));
  const label = (p: PanelSeries, what: string) =>
    panel.length > 1 ? `${p.index + 1} ${p.series.name}, ${what}` : what;
  const names = panel.map((p) => p.series.name).join(', ');
  return (
    <Box
      ref={box}
      sx={{
        width: '100%',
        height,
        overflow: 'hidden',
        cursor: 'crosshair',
        userSelect: 'none',
        touchAction: 'pan-y',
        '& .recharts-responsive-container': { minWidth: 0 },
      }}
      role="img"
      aria-label={`Trace of ${names} from ${timeText(from, zone)} to ${timeText(until, zone)}`}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        const at = instantAt(e.clientX);
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ from: at, until: at, asSpan: e.shiftKey || dragging === 'span' });
      }}
      onPointerMove={(e) => drag && setDrag({ ...drag, until: instantAt(e.clientX) })}
      onPointerUp={() => {
        if (!drag) return;
        setDrag(null);
        const [a, b] = [Math.min(drag.from, drag.until), Math.max(drag.from, drag.until)];
        // A click is no drag.
        if (b - a > (until - from) / 150) onDrag(a, b, drag.asSpan);
      }}
      onPointerCancel={() => setDrag(null)}
    >
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 1000, height }}>
        <ComposedChart data={data} syncId="trace" margin={{ top: 22, right: plot.right, bottom: 4, left: 6 }}>
          <CartesianGrid stroke={colour('divider')} strokeDasharray="2 5" />
          <XAxis
            dataKey="t"
            type="number"
            domain={[from, until]}
            ticks={roundTimes}
            interval={0}
            tickFormatter={(ms: number) => tickText(ms, until - from, zone)}
            stroke={colour('text-secondary')}
            allowDataOverflow
            fontSize={13}
          />
          <YAxis
            domain={[axis.low, axis.high]}
            ticks={axis.ticks}
            interval={0}
            allowDataOverflow
            stroke={colour('text-secondary')}
            width={plot.left - 6}
            tickFormatter={(v: number) => tickValue(v, axis)}
            fontSize={13}
          />
          {!drag && (
            <Tooltip
              isAnimationActive={false}
              cursor={{ stroke: colour('text-primary'), strokeWidth: 1 }}
              content={({ active, label: at, payload }) => {
                const row = payload?.[0]?.payload as Point | undefined;
                if (!active || !row) return null;
                return (
                  <TraceTooltip
                    at={Number(at)}
                    zone={zone}
                    unit={unit}
                    decimals={decimals}
                    layers={first!.index === 0 ? first!.series.layers : []}
                    rows={panel.flatMap((p) => rowsAt(p, row, (what) => label(p, what)))}
                  />
                );
              }}
            />
          )}
          {panel.flatMap(({ series: s, index, proposed }) => {
            const { colour: own, dash } = seriesStyle(index);
            const common = { connectNulls: false, isAnimationActive: false } as const;
            const dots = s.points.length < 60;
            return [
              s.aggregate === 'mean' && (
                <Area
                  key={`band${index}`}
                  dataKey={`band${index}`}
                  stroke="none"
                  fill={own}
                  fillOpacity={0.22}
                  {...common}
                />
              ),
              s.points.some((p) => p.uncertainty !== undefined) && (
                <Area
                  key={`good${index}`}
                  dataKey={`good${index}`}
                  stroke="none"
                  fill={colour('secondary-main')}
                  fillOpacity={0.2}
                  {...common}
                />
              ),
              s.aggregate === 'total' && (
                <Area
                  key={`total${index}`}
                  type="stepAfter"
                  dataKey={`mean${index}`}
                  stroke={own}
                  fill={own}
                  fillOpacity={0.35}
                  {...common}
                />
              ),
              s.aggregate !== 'total' && (
                <Line
                  key={`mean${index}`}
                  dataKey={`mean${index}`}
                  // A line between 359° and 1° would cross the whole circle: directions are dots.
                  stroke={s.aggregate === 'circular' ? 'none' : own}
                  strokeWidth={1.6}
                  strokeDasharray={dash}
                  dot={
                    s.aggregate === 'circular'
                      ? { r: 1.6, fill: own, stroke: 'none' }
                      : dots
                        ? { r: 2.5 }
                        : false
                  }
                  {...common}
                />
              ),
              s.points.some((p) => p.corrected !== null) && (
                <Line
                  key={`corrected${index}`}
                  dataKey={`corrected${index}`}
                  stroke={colour('secondary-main')}
                  strokeWidth={2}
                  dot={false}
                  {...common}
                />
              ),
              proposed && (
                <Line
                  key={`proposed${index}`}
                  dataKey={`proposed${index}`}
                  stroke={colour('error-main')}
                  strokeWidth={2}
                  strokeDasharray="6 3"
                  dot={false}
                  {...common}
                />
              ),
            ];
          })}
          {first!.index === 0 &&
            first!.series.markers.map((m, i) => (
              <ReferenceLine
                key={i}
                x={m.t}
                stroke={colour(m.kind === 'check' ? 'secondary-main' : 'error-main')}
                strokeWidth={2}
                strokeDasharray={m.kind === 'check' ? '5 3' : undefined}
                label={{
                  value: m.kind === 'check' ? '⇄ check' : '± adjusted',
                  // At the right edge the words stand left of their line.
                  position: m.t > until - (until - from) / 20 ? 'insideTopRight' : 'top',
                  fill: colour('text-primary'),
                  fontSize: 13,
                }}
              />
            ))}
          {limits
            .filter((l) => l.value >= axis.low && l.value <= axis.high)
            .map((l) => (
              <ReferenceLine
                key={`${l.test} ${l.from} ${l.value}`}
                segment={[
                  { x: Math.max(from, l.from), y: l.value },
                  { x: Math.min(until, l.until), y: l.value },
                ]}
                stroke={colour(l.test === 'gross' ? 'error-main' : 'warning-main')}
                strokeDasharray="8 3"
                label={
                  l.from <= from
                    ? {
                        value: l.name,
                        position: 'insideBottomLeft',
                        fill: colour('text-primary'),
                        fontSize: 12,
                      }
                    : undefined
                }
              />
            ))}
          {span && (
            <ReferenceArea
              x1={Math.max(from, span.from)}
              x2={Math.min(until, span.until)}
              fill={colour('warning-main')}
              fillOpacity={0.18}
              label={{ value: 'span', position: 'insideTop', fill: colour('text-primary'), fontSize: 13 }}
            />
          )}
          {drag && (
            <ReferenceArea
              x1={Math.min(drag.from, drag.until)}
              x2={Math.max(drag.from, drag.until)}
              fill={colour(drag.asSpan ? 'warning-main' : 'primary-main')}
              fillOpacity={0.2}
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </Box>
  );
}

/** Width of an element on screen, px, as it is and becomes. */
function useWidth(box: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, [box]);
  return width;
}

/** A round axis that holds all that is drawn; the ranges of thresholds where they are near it. */
function axisOf(panel: readonly PanelSeries[], limits: readonly LimitLine[]): ValueAxis {
  const { aggregate } = panel[0]!.series;
  if (aggregate === 'circular') return { low: 0, high: 360, ticks: [0, 90, 180, 270, 360] };
  let [low, high] = [Infinity, -Infinity];
  const take = (v: number | null | undefined) => {
    if (v === null || v === undefined || !Number.isFinite(v)) return;
    low = Math.min(low, v);
    high = Math.max(high, v);
  };
  for (const { series, proposed } of panel)
    for (const p of series.points) {
      for (const v of [p.mean, p.min, p.max, p.corrected, proposed?.get(p.t), ...(goodTo(p) ?? [])]) take(v);
    }
  if (low > high) [low, high] = [0, 1];
  if (aggregate === 'total') low = Math.min(0, low);
  const reach = Math.max(high - low, 1e-9);
  const near = limits.map((l) => l.value).filter((v) => v > low - reach && v < high + reach);
  return valueAxis(Math.min(low, ...near), Math.max(high, ...near), 5);
}

/** What is written beside the unit of a panel whose axis leaves zero out. */
export function axisNote(panel: readonly PanelSeries[]): string {
  const axis = axisOf(panel, []);
  if (panel[0]!.series.aggregate === 'circular' || (axis.low <= 0 && axis.high >= 0)) return '';
  return `axis ${tickValue(axis.low, axis)} to ${tickValue(axis.high, axis)}, without zero`;
}

/** A tick with as many decimals as its axis steps in. */
function tickValue(v: number, { ticks }: ValueAxis): string {
  const step = (ticks[1] ?? 1) - (ticks[0] ?? 0);
  return formatValue(v, Math.max(0, Math.min(6, Math.ceil(-Math.log10(step) - 1e-9))));
}

/** The values of one channel at an instant, named. */
function rowsAt({ series, index }: PanelSeries, row: Point, name: (what: string) => string): TooltipRow[] {
  const mean = { mean: 'mean', total: 'total', circular: 'mean direction' }[series.aggregate];
  const value = (key: string) => (row[`${key}${index}`] ?? null) as TooltipRow['value'];
  return [
    { name: name(mean), value: value('mean') },
    { name: name('lowest … highest'), value: value('band') },
    { name: name('corrected'), value: value('corrected') },
    { name: name('95 % between'), value: value('good') },
    { name: name('as proposed'), value: value('proposed') },
  ];
}

/** Between what a value lies with its uncertainty; null where nothing says so. */
function goodTo({ mean, corrected, uncertainty }: TracePoint): [number, number] | null {
  const value = corrected ?? mean;
  return value === null || uncertainty === undefined ? null : [value - uncertainty, value + uncertainty];
}

/** One row of data for every instant that any of the panel's channels has a point at. */
function pointsOf(panel: readonly PanelSeries[]): Point[] {
  const rows = new Map<number, Point>();
  for (const { series, index, proposed } of panel)
    for (const p of series.points) {
      const row = rows.get(p.t) ?? { t: p.t };
      row[`mean${index}`] = p.mean;
      row[`band${index}`] = p.min === null || p.max === null ? null : [p.min, p.max];
      row[`corrected${index}`] = p.corrected;
      row[`good${index}`] = goodTo(p);
      if (proposed) row[`proposed${index}`] = proposed.get(p.t) ?? null;
      rows.set(p.t, row);
    }
  return [...rows.values()].sort((a, b) => (a.t as number) - (b.t as number));
}
