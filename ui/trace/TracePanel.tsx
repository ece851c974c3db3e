'use client';

import Box from '@mui/material/Box';
import { DateTime } from 'luxon';
import { useEffect, useRef, useState } from 'react';
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
import type { TraceSeriesView } from '@/contract/recordViews';
import { formatValue } from '@/core/quantity/format';
import { timeText } from '../shared/time';
import { seriesStyle } from './seriesStyle';

const colour = (name: string) => `var(--mui-palette-${name})`;
/** Where the plot lies inside the chart, px: wheel and drag need to know. */
const plot = { left: 84, right: 16 };

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
  readonly onDrag: (from: number, until: number, asSpan: boolean) => void;
  /** The wheel: by what the window changes, about which instant. */
  readonly onWheel: (factor: number, about: number) => void;
}

type Point = Record<string, number | [number, number] | null>;

/** Channels of one unit over one window: extremes as bands so that they never vanish, means as lines. */
export function TracePanel({ panel, from, until, zone, height, dragging, span, onDrag, onWheel }: Props) {
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
  const wide = until - from > 3 * 86_400_000;
  const tick = (ms: number) =>
    DateTime.fromMillis(ms)
      .setZone(zone)
      .toFormat(until - from > 400 * 86_400_000 ? 'LLL yyyy' : wide ? 'dd LLL' : 'dd LLL HH:mm');
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
            tickFormatter={tick}
            stroke={colour('text-secondary')}
            minTickGap={50}
            allowDataOverflow
            fontSize={13}
          />
          <YAxis
            domain={['auto', 'auto']}
            stroke={colour('text-secondary')}
            width={plot.left - 6}
            tickFormatter={(v: number) => formatValue(v, decimals)}
            fontSize={13}
          />
          {!drag && (
            <Tooltip
              isAnimationActive={false}
              contentStyle={{ background: colour('background-paper'), borderColor: colour('divider') }}
              labelFormatter={(ms) => timeText(Number(ms), zone)}
              formatter={(value, name) => [
                Array.isArray(value)
                  ? value.map((v) => formatValue(Number(v), decimals)).join(' … ')
                  : `${formatValue(Number(value), decimals)} ${unit}`,
                name,
              ]}
            />
          )}
          {panel.flatMap(({ series: s, index, proposed }) => {
            const { colour: own, dash } = seriesStyle(index);
            const label = panel.length > 1 ? `${index + 1} ${s.name}` : '';
            const common = { connectNulls: false, isAnimationActive: false } as const;
            const dots = s.points.length < 60;
            return [
              s.aggregate === 'mean' && (
                <Area
                  key={`band${index}`}
                  dataKey={`band${index}`}
                  name={`${label} lowest … highest`}
                  stroke="none"
                  fill={own}
                  fillOpacity={0.22}
                  {...common}
                />
              ),
              s.aggregate === 'total' && (
                <Area
                  key={`total${index}`}
                  type="stepAfter"
                  dataKey={`mean${index}`}
                  name={`${label} total`}
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
                  name={`${label} ${s.aggregate === 'circular' ? 'mean direction' : 'mean'}`}
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
                  name={`${label} corrected`}
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
                  name={`${label} as proposed`}
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

/** One row of data for every instant that any of the panel's channels has a point at. */
function pointsOf(panel: readonly PanelSeries[]): Point[] {
  const rows = new Map<number, Point>();
  for (const { series, index, proposed } of panel)
    for (const p of series.points) {
      const row = rows.get(p.t) ?? { t: p.t };
      row[`mean${index}`] = p.mean;
      row[`band${index}`] = p.min === null || p.max === null ? null : [p.min, p.max];
      row[`corrected${index}`] = p.corrected;
      if (proposed) row[`proposed${index}`] = proposed.get(p.t) ?? null;
      rows.set(p.t, row);
    }
  return [...rows.values()].sort((a, b) => (a.t as number) - (b.t as number));
}
