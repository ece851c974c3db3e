import { scaleLinear } from 'd3-scale';
import { formatValue } from '@/core/quantity/format';
import type { WaterView } from '@/contract/water';
import { levelSum, type LevelRecord } from '@/core/water/levelSum';
import { elevationAt } from '@/core/water/measuringPoint';
import type { LevelReading } from '@/core/water/levelReading';

const width = 360;
const height = 420;
const axis = 58;
const top = 14;
const bottom = height - 14;

interface Mark {
  readonly label: string;
  readonly level: number;
  readonly accuracy: number | null;
}

/**
 * Where things lie above the station's zero: points on the right, what was read at this visit as bars of what it is good
 * to, the water as it was logged last.
 */
export function LevelLadder({
  view,
  record,
  readings,
  at,
}: {
  view: WaterView;
  record: LevelRecord;
  /** Those to be drawn. */
  readings: readonly LevelReading[];
  /** ms: elevations that hold then. */
  at: number;
}) {
  const points = view.points
    .filter((p) => !p.retiredAt)
    .flatMap((p): Mark[] => {
      const e = elevationAt(view.elevations, p.id, at);
      return e ? [{ label: p.code, level: e.elevation, accuracy: null }] : [];
    });
  const read = readings.flatMap((r): Mark[] => {
    const { level, accuracy } = levelSum(r, record);
    const point = view.points.find((p) => p.id === r.pointId);
    return level === null ? [] : [{ label: point?.code ?? 'by hand', level, accuracy }];
  });
  const water = view.channels[0]?.newest?.value ?? null;
  const all = [...points, ...read].map((m) => m.level).concat(water === null ? [] : [water]);
  if (all.length < 2) return null;
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = Math.max(0.1, 0.08 * (high - low));
  const y = scaleLinear()
    .domain([low - room, high + room])
    .range([bottom, top]);
  const said = [
    ...points.map((p) => `${p.label} at ${formatValue(p.level, 3)} m`),
    ...read.map((r) => `${r.label} read ${r.level.toFixed(3)} ± ${r.accuracy!.toFixed(3)} m`),
    ...(water === null ? [] : [`logged last ${water.toFixed(3)} m`]),
  ].join(', ');
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Levels above ${view.datum?.name ?? 'the station’s zero'}: ${said}`}
      style={{ width: '100%', maxWidth: width, display: 'block' }}
    >
      <g fontSize="12" fill="var(--mui-palette-text-primary)">
        {water !== null && (
          <>
            <rect
              x={axis}
              y={y(water)}
              width={width - axis}
              height={Math.max(0, bottom - y(water))}
              fill="var(--mui-palette-ground-skyWash)"
            />
            <path d={wave(y(water))} fill="none" stroke="var(--mui-palette-primary-main)" strokeWidth="1.6" />
          </>
        )}
        <line x1={axis} x2={axis} y1={top} y2={bottom} stroke="var(--mui-palette-text-secondary)" />
        {y.ticks(8).map((t) => (
          <g key={t}>
            <line x1={axis - 5} x2={axis} y1={y(t)} y2={y(t)} stroke="var(--mui-palette-text-secondary)" />
            <text x={axis - 8} y={y(t) + 4} textAnchor="end">
              {formatValue(t, 2)}
            </text>
          </g>
        ))}
        <text x={4} y={top + 2} fontSize="11">
          m
        </text>
        {apart(points, y).map(({ mark, at: place }) => (
          <g key={mark.label}>
            <path
              d={`M${axis} ${y(mark.level)} H${width - 96} L${width - 82} ${place}`}
              fill="none"
              stroke="var(--mui-palette-text-secondary)"
              strokeDasharray="2 3"
            />
            <text x={width - 78} y={place + 4}>
              <tspan fontWeight="600">{mark.label}</tspan> {formatValue(mark.level, 3)}
            </text>
          </g>
        ))}
        {read.map((r, i) => {
          const x = axis + 22 + (i % 7) * 24;
          return (
            <g key={`${r.label}${i}`} stroke="var(--mui-palette-text-primary)" strokeWidth="1.5">
              <line
                x1={x}
                x2={x}
                y1={y(r.level - r.accuracy!)}
                y2={y(r.level + r.accuracy!)}
                strokeWidth="5"
              />
              <line x1={x - 9} x2={x + 9} y1={y(r.level)} y2={y(r.level)} />
            </g>
          );
        })}
      </g>
    </svg>
  );
}

const wave = (at: number): string => {
  let d = `M${axis} ${at}`;
  for (let x = axis; x < width; x += 16) d += ` q4 -4 8 0 t8 0`;
  return d;
};

/** Labels with room for each: from the top down, none nearer than a line. */
function apart(marks: readonly Mark[], y: (level: number) => number): { mark: Mark; at: number }[] {
  const line = 16;
  let last = -Infinity;
  const placed = [...marks]
    .sort((a, b) => b.level - a.level)
    .map((mark) => {
      last = Math.max(y(mark.level), last + line);
      return { mark, at: last };
    });
  const over = Math.max(0, last - bottom);
  return over === 0 ? placed : placed.map((p) => ({ ...p, at: p.at - over }));
}
