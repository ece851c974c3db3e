'use client';

import Box from '@mui/material/Box';
import type { LayerView, TraceSeriesView } from '@/contract/recordViews';

const rows: readonly { kind: LayerView['kind']; label: string; colour: string; hatch: string }[] = [
  { kind: 'flag', label: 'flags', colour: 'error-main', hatch: 'M0 6 L6 0' },
  { kind: 'off-line', label: 'off-line', colour: 'text-secondary', hatch: 'M0 3 H6' },
  { kind: 'correction', label: 'corrected', colour: 'secondary-main', hatch: 'M3 0 V6' },
  { kind: 'clock', label: 'clock', colour: 'warning-main', hatch: 'M0 0 L6 6' },
  { kind: 'approval', label: 'approved', colour: 'primary-main', hatch: 'M0 0 H6 M0 3 H6' },
];

/** What lies over the record, a stratum for each kind, told apart by word and hatching. */
export function LayerStrip({
  series,
  from,
  until,
}: {
  series: TraceSeriesView;
  from: number;
  until: number;
}) {
  const shown = rows.filter((r) => series.layers.some((l) => l.kind === r.kind));
  if (shown.length === 0) return null;
  const x = (ms: number) => (1000 * (Math.min(until, Math.max(from, ms)) - from)) / (until - from);
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '78px 1fr', pr: '16px', rowGap: '2px', mb: 1 }}
      aria-hidden="true"
    >
      {shown.map((r) => (
        <Box key={r.kind} sx={{ display: 'contents' }}>
          <Box
            sx={{
              fontSize: '0.75rem',
              textAlign: 'right',
              pr: 1,
              lineHeight: '12px',
              color: 'text.secondary',
            }}
          >
            {r.label}
          </Box>
          <svg width="100%" height="12" viewBox="0 0 1000 12" preserveAspectRatio="none">
            <defs>
              <pattern id={`hatch-${r.kind}`} width="6" height="6" patternUnits="userSpaceOnUse">
                <path d={r.hatch} stroke={`var(--mui-palette-${r.colour})`} strokeWidth="1.4" />
              </pattern>
            </defs>
            <rect width="1000" height="12" fill="var(--mui-palette-background-paper)" />
            {series.layers
              .filter((l) => l.kind === r.kind)
              .map((l) => {
                const [a, b] = [x(l.from), x(l.until ?? until)];
                return (
                  <g key={l.id}>
                    <rect
                      x={a}
                      width={Math.max(2, b - a)}
                      height="12"
                      fill={`var(--mui-palette-${r.colour})`}
                      fillOpacity={l.flag === 4 ? 0.75 : 0.25}
                    />
                    <rect x={a} width={Math.max(2, b - a)} height="12" fill={`url(#hatch-${r.kind})`} />
                  </g>
                );
              })}
          </svg>
        </Box>
      ))}
    </Box>
  );
}
