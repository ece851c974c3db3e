import { scaleLinear } from 'd3-scale';
import { levelRatingAt, type LevelRating, type RatingSegment } from '@/core/discharge/rating';
import { formatValue } from '@/core/quantity/format';
import type { Rated } from './RatingTable';

const width = 700;
const height = 340;
const [left, right, top, bottom] = [64, 684, 20, 300];

/** Level over discharge: gaugings as bars of what they are good to, the rating fitted now and the one on file. */
export function RatingDrawing({
  gaugings,
  segments,
  kept,
  shift,
  level,
}: {
  gaugings: readonly Rated[];
  segments: readonly RatingSegment[] | null;
  kept: LevelRating | null;
  shift: number;
  /** As logged last, m; null for unknown. */
  level: number | null;
}) {
  const levels = [...gaugings.map((g) => g.level), ...(level === null ? [] : [level])];
  if (levels.length === 0) return null;
  const zero = segments?.[0]?.zero;
  const low = Math.min(...levels, zero ?? Infinity);
  const high = Math.max(...levels);
  const room = Math.max(0.02, 0.12 * (high - low));
  const y = scaleLinear()
    .domain([low - room / 2, high + room])
    .range([bottom, top]);
  const now = segments && { segments, shift };
  const most = Math.max(
    0.001,
    ...gaugings.map((g) => g.discharge * (1 + g.U)),
    now ? levelRatingAt(now, high + room) : 0,
  );
  const x = scaleLinear().domain([0, most]).nice(5).range([left, right]);
  const path = (rating: LevelRating) =>
    Array.from({ length: 121 }, (_, i) => {
      const h = low - room / 2 + (i / 120) * (high - low + 1.5 * room);
      return `${i ? 'L' : 'M'}${x(levelRatingAt(rating, h)).toFixed(1)} ${y(h).toFixed(1)}`;
    }).join('');
  const digits = most < 1 ? 2 : 1;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: '100%', minWidth: 480, display: 'block' }}
      role="img"
      aria-label={`Rating through ${gaugings.length} gaugings`}
    >
      <g fontSize="13" fill="var(--mui-palette-text-primary)">
        {y.ticks(6).map((t) => (
          <g key={t}>
            <line
              x1={left}
              x2={right}
              y1={y(t)}
              y2={y(t)}
              stroke="var(--mui-palette-text-secondary)"
              strokeOpacity="0.3"
            />
            <text x={left - 8} y={y(t) + 4} textAnchor="end">
              {formatValue(t, 2)}
            </text>
          </g>
        ))}
        {x.ticks(6).map((t) => (
          <text key={t} x={x(t)} y={bottom + 20} textAnchor="middle" fontSize="12">
            {formatValue(t, digits)}
          </text>
        ))}
        <text x={4} y={14}>
          level, m
        </text>
        <text x={right} y={bottom + 36} textAnchor="end">
          discharge, m³/s
        </text>
        {kept && (
          <path
            d={path(kept)}
            fill="none"
            stroke="var(--mui-palette-text-secondary)"
            strokeWidth="2"
            strokeDasharray="5 4"
          />
        )}
        {now && <path d={path(now)} fill="none" stroke="var(--mui-palette-primary-main)" strokeWidth="2.5" />}
        {gaugings.map((g) => (
          <g key={g.gauging.id} stroke="var(--mui-palette-text-primary)">
            <line
              x1={x(g.discharge * (1 - g.U))}
              x2={x(g.discharge * (1 + g.U))}
              y1={y(g.level)}
              y2={y(g.level)}
              strokeWidth="5"
              strokeOpacity="0.75"
            />
            <line
              x1={x(g.discharge)}
              x2={x(g.discharge)}
              y1={y(g.level) - 8}
              y2={y(g.level) + 8}
              strokeWidth="2"
            />
          </g>
        ))}
        {level !== null && (
          <line
            x1={left}
            x2={right}
            y1={y(level)}
            y2={y(level)}
            stroke="var(--mui-palette-primary-main)"
            strokeDasharray="2 3"
          />
        )}
      </g>
    </svg>
  );
}
