'use client';

import Box from '@mui/material/Box';
import type { SetUpView } from '@/contract/planViews';

const size = { width: 340, height: 220, edge: 26 };

/**
 * Where the sites lie to one another, north up, no tiles: ° of longitude shortened by the cosine of the
 * latitude, the scale bar in km (111.32 km to a degree).
 */
export function SiteMap({ sites }: { sites: SetUpView['sites'] }) {
  const placed = sites.flatMap((s) =>
    s.latitude !== null && s.longitude !== null ? [{ name: s.name, lat: s.latitude, lon: s.longitude }] : [],
  );
  if (placed.length === 0) return null;
  const middle = placed.reduce((sum, p) => sum + p.lat, 0) / placed.length;
  const shrink = Math.max(0.01, Math.cos((middle * Math.PI) / 180));
  const xs = placed.map((p) => p.lon * shrink);
  const ys = placed.map((p) => p.lat);
  const span = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys), 0.002);
  const scale = (Math.min(size.width, size.height) - 2 * size.edge) / span;
  const x = (lon: number) =>
    size.width / 2 + (lon * shrink - (Math.max(...xs) + Math.min(...xs)) / 2) * scale;
  const y = (lat: number) => size.height / 2 - (lat - (Math.max(...ys) + Math.min(...ys)) / 2) * scale;
  const kilometres = round125((span * 111.32) / 3);
  const bar = (kilometres / 111.32) * scale;
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${size.width} ${size.height}`}
      role="img"
      aria-label={`Map of ${placed.map((p) => p.name).join(', ')}`}
      sx={{
        width: '100%',
        maxWidth: 420,
        border: 1,
        borderColor: 'divider',
        fontSize: 11,
        '& text': { fill: 'currentColor' },
      }}
    >
      <path d="M18,34 l5,-16 l5,16 l-5,-4 z" fill="currentColor" />
      <text x="19" y="46">
        N
      </text>
      {placed.map((p) => (
        <g key={p.name}>
          <circle cx={x(p.lon)} cy={y(p.lat)} r={4.5} fill="var(--mui-palette-primary-main)" />
          <text
            x={x(p.lon) + (x(p.lon) > size.width * 0.62 ? -8 : 8)}
            y={y(p.lat) + 4}
            textAnchor={x(p.lon) > size.width * 0.62 ? 'end' : 'start'}
          >
            {p.name}
          </text>
        </g>
      ))}
      <path
        d={`M${size.width - 14 - bar},${size.height - 14} h${bar}`}
        stroke="currentColor"
        strokeWidth={2}
      />
      <text x={size.width - 14} y={size.height - 20} textAnchor="end">
        {kilometres} km
      </text>
    </Box>
  );
}

/** The next lower of 1, 2, 5 times a power of ten. */
function round125(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  const n = value / power;
  return Number(((n >= 5 ? 5 : n >= 2 ? 2 : 1) * power).toPrecision(1));
}
