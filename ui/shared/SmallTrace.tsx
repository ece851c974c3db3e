'use client';

import { useId } from 'react';
import Box from '@mui/material/Box';
import type { SmallTraceView } from '@/contract/recordViews';
import { formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';

const height = 30;

/**
 * The last days of a channel, drawn small wherever it is named: a line that breaks where nothing was
 * logged, spans that are flagged hatched behind it, off-line ones shaded.
 */
export function SmallTrace({ trace, width = 132 }: { trace: SmallTraceView | undefined; width?: number }) {
  const hatch = useId();
  if (!trace) return <Box sx={{ width, height, flexShrink: 0 }} />;
  const q = quantityOf(trace.quantity);
  const known = trace.values.filter((v) => v !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const n = trace.values.length;
  const x = (slot: number) => ((slot + 0.5) * width) / n;
  const base = q.aggregate === 'total' ? 0 : low;
  const reach = high - base || 1;
  const y = (v: number) => height - 3 - ((v - base) / reach) * (height - 6);
  const days = Math.round((n * trace.width) / 86_400);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Last ${days} days: ${formatValue(low, q.decimals)} to ${formatValue(high, q.decimals)} ${q.unit}`}
      sx={{ width, height, flexShrink: 0, color: 'primary.main', display: 'block' }}
    >
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse">
          <path d="M0 5 L5 0" stroke="var(--mui-palette-error-main)" strokeWidth="1.2" />
        </pattern>
      </defs>
      {trace.marks.map((m, i) => {
        const a = Math.max(0, ((m.from - trace.from) / trace.width / n) * width);
        const b = Math.min(width, ((m.until - trace.from) / trace.width / n) * width);
        return (
          <rect
            key={i}
            x={a}
            width={Math.max(1.5, b - a)}
            height={height}
            fill={m.kind === 'flag' ? `url(#${hatch})` : 'var(--mui-palette-divider)'}
            fillOpacity={m.kind === 'flag' ? 0.9 : 0.7}
          />
        );
      })}
      {(['line', 'dots'] as const).map((what) => (
        <path
          key={what}
          d={pathOf(trace.values, q.aggregate, what, x, y, height - 3)}
          fill="none"
          stroke="currentColor"
          strokeWidth={what === 'line' ? 1.4 : q.aggregate === 'circular' ? 2 : 3.2}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
      <path d={`M0 ${height - 0.5} H${width}`} stroke="var(--mui-palette-divider)" strokeWidth="1" />
    </Box>
  );
}

/** A line through neighbours, dots where a value has none and for directions, bars for totals. */
function pathOf(
  values: readonly (number | null)[],
  aggregate: 'mean' | 'total' | 'circular',
  what: 'line' | 'dots',
  x: (slot: number) => number,
  y: (v: number) => number,
  floor: number,
): string {
  const at = (i: number, v: number) => `${x(i).toFixed(1)} ${y(v).toFixed(1)}`;
  let path = '';
  values.forEach((v, i) => {
    if (v === null) return;
    const [before, after] = [values[i - 1] ?? null, values[i + 1] ?? null];
    const alone = aggregate === 'circular' || (aggregate === 'mean' && before === null && after === null);
    if (what === 'dots' || alone) path += what === 'dots' && alone ? `M${at(i, v)}h0.01` : '';
    else if (aggregate === 'total') path += v > 0 ? `M${x(i).toFixed(1)} ${floor}L${at(i, v)}` : '';
    else path += `${before === null ? 'M' : 'L'}${at(i, v)}`;
  });
  return path;
}
