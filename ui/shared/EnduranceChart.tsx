import Box from '@mui/material/Box';
import type { Days } from '@/core/deploy/lasting';
import { intervalText } from '@/core/plan/endurance';

const width = 520;
const height = 150;
const left = 44;
const bottom = 26;
const ticksDays = [1, 10, 100, 1000];

/** How long memory and battery last at a storage interval; null for what does not end. */
export interface LastsAt {
  readonly storeEvery: number;
  readonly memory: Days | null;
  readonly battery: Days | null;
}

/** One number of days as a range. */
export const exactly = (days: number | null): Days | null =>
  days === null ? null : { low: days, high: days };

/** Days until memory and battery end, over the storage interval, ranges as bands; both axes by powers of ten. */
export function EnduranceChart({
  points,
  now,
  visit,
}: {
  points: readonly LastsAt[];
  now: number;
  visit: number;
}) {
  const [first, last] = [points[0]!.storeEvery, points.at(-1)!.storeEvery];
  const x = (seconds: number) =>
    left + ((width - left - 8) * Math.log(seconds / first)) / Math.log(last / first);
  const y = (days: number) => {
    const share = Math.log10(Math.min(5000, Math.max(0.5, days)) / 0.5) / Math.log10(5000 / 0.5);
    return height - bottom - (height - bottom - 8) * share;
  };
  /** There along the most days, and back along the fewest: a line where both are one. */
  const band = (of: (p: LastsAt) => Days | null) => {
    const there = points.flatMap((p) => {
      const days = of(p);
      return days === null || days.low === Infinity ? [] : [{ x: x(p.storeEvery), days }];
    });
    const along = (end: keyof Days) => there.map((t) => `${t.x.toFixed(1)},${y(t.days[end]).toFixed(1)}`);
    return there.length === 0 ? '' : [...along('high'), ...along('low').reverse()].join(' L ');
  };
  const memory = band((p) => p.memory);
  const battery = band((p) => p.battery);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label="Days until memory and battery end, over the storage interval"
      sx={{ width: '100%', maxWidth: width, color: 'text.secondary', fontSize: 11 }}
    >
      {ticksDays.map((d) => (
        <g key={d}>
          <line x1={left} x2={width - 8} y1={y(d)} y2={y(d)} stroke="currentColor" opacity={0.25} />
          <text x={left - 6} y={y(d) + 4} textAnchor="end" fill="currentColor">
            {d} d
          </text>
        </g>
      ))}
      {points
        .filter((_, i) => i % 2 === 0)
        .map((p) => (
          <text key={p.storeEvery} x={x(p.storeEvery)} y={height - 8} textAnchor="middle" fill="currentColor">
            {intervalText(p.storeEvery)}
          </text>
        ))}
      {visit > 0 && (
        <g>
          <line
            x1={left}
            x2={width - 8}
            y1={y(visit)}
            y2={y(visit)}
            stroke="currentColor"
            strokeDasharray="6 4"
          />
          <text x={width - 10} y={y(visit) - 4} textAnchor="end" fill="currentColor">
            next visit
          </text>
        </g>
      )}
      {memory && (
        <Box
          component="path"
          d={`M ${memory}`}
          sx={{
            fill: 'currentColor',
            fillOpacity: 0.35,
            stroke: 'currentColor',
            strokeWidth: 2,
            color: 'primary.main',
          }}
        />
      )}
      {battery && (
        <Box
          component="path"
          d={`M ${battery}`}
          sx={{
            fill: 'currentColor',
            fillOpacity: 0.12,
            stroke: 'currentColor',
            strokeWidth: 2,
            strokeDasharray: '2 4',
            color: 'text.primary',
          }}
        />
      )}
      <line
        x1={x(clamp(now, first, last))}
        x2={x(clamp(now, first, last))}
        y1={8}
        y2={height - bottom}
        stroke="currentColor"
        strokeWidth={1.5}
      />
      <text x={left + 6} y={16} fill="currentColor">
        {battery ? 'line: memory · dots: battery' : 'memory'}
      </text>
    </Box>
  );
}

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
