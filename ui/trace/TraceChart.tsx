'use client';

import Box from '@mui/material/Box';
import { DateTime } from 'luxon';
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
import type { TraceView } from '@/contract/views';
import { formatValue } from '@/core/quantity/format';
import { timeText } from '../shared/time';

const colour = (name: string) => `var(--mui-palette-${name})`;

/** The trace: extremes as a band so that they never vanish, the mean as a line, layers and markers over it. */
export function TraceChart({ trace: t }: { trace: TraceView }) {
  const data = t.points.map((p) => ({
    t: p.t,
    mean: p.mean,
    band: p.min === null || p.max === null ? null : [p.min, p.max],
    n: p.n,
  }));
  const span = t.until - t.from;
  const tick = (ms: number) =>
    DateTime.fromMillis(ms)
      .setZone(t.siteZone)
      .toFormat(span > 3 * 86_400_000 ? 'dd LLL' : 'dd LLL HH:mm');
  return (
    <Box
      sx={{
        width: '100%',
        height: 430,
        overflow: 'hidden',
        '& .recharts-responsive-container': { minWidth: 0 },
      }}
      role="img"
      aria-label={`Trace of ${t.name} from ${timeText(t.from, t.siteZone)} to ${timeText(t.until, t.siteZone)}`}
    >
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 1000, height: 430 }}>
        <ComposedChart data={data} margin={{ top: 26, right: 16, bottom: 6, left: 6 }}>
          <CartesianGrid stroke={colour('divider')} strokeDasharray="2 5" />
          <XAxis
            dataKey="t"
            type="number"
            domain={[t.from, t.until]}
            tickFormatter={tick}
            stroke={colour('text-secondary')}
            minTickGap={50}
            allowDataOverflow
          />
          <YAxis
            domain={['auto', 'auto']}
            stroke={colour('text-secondary')}
            width={78}
            tickFormatter={(v: number) => formatValue(v, t.decimals)}
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={{ background: colour('background-paper'), borderColor: colour('divider') }}
            labelFormatter={(ms) => timeText(Number(ms), t.siteZone)}
            formatter={(value, name) => [
              Array.isArray(value)
                ? value.map((v) => formatValue(Number(v), t.decimals)).join(' … ')
                : `${formatValue(Number(value), t.decimals)} ${t.unit}`,
              name,
            ]}
          />
          {t.spans.map((s, i) => (
            <ReferenceArea
              key={i}
              x1={Math.max(s.from, t.from)}
              x2={Math.min(s.until, t.until)}
              fill={colour(s.kind === 'off-line' ? 'error-main' : 'secondary-main')}
              fillOpacity={s.kind === 'off-line' ? 0.22 : 0.08}
              label={{ value: s.kind, position: 'insideTop', fill: colour('text-primary'), fontSize: 13 }}
            />
          ))}
          <Area
            dataKey="band"
            name="lowest … highest"
            stroke="none"
            fill={colour('primary-main')}
            fillOpacity={0.25}
            connectNulls={false}
            isAnimationActive={false}
          />
          <Line
            dataKey="mean"
            name="mean"
            stroke={colour('primary-main')}
            strokeWidth={1.6}
            dot={data.length < 60}
            connectNulls={false}
            isAnimationActive={false}
          />
          {t.markers.map((m, i) => (
            <ReferenceLine
              key={i}
              x={m.t}
              stroke={colour(m.kind === 'check' ? 'secondary-main' : 'error-main')}
              strokeWidth={2}
              strokeDasharray={m.kind === 'check' ? '5 3' : undefined}
              label={{
                value: m.kind === 'check' ? '⇄ check' : '± adjusted',
                position: 'top',
                fill: colour('text-primary'),
                fontSize: 13,
              }}
            />
          ))}
        </ComposedChart>
      </ResponsiveContainer>
    </Box>
  );
}
