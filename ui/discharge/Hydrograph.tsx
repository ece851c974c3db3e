import { scaleLinear, scaleUtc } from 'd3-scale';
import { DateTime } from 'luxon';
import { formatValue } from '@/core/quantity/format';

const width = 1000;
const height = 220;
const [left, right, top, bottom] = [64, 984, 12, 184];

/** What was recorded of late, by the curve as it is led and as it was saved, with its uncertainty. */
export function Hydrograph({
  at,
  now,
  doubt,
  saved,
  zone,
}: {
  at: readonly number[];
  now: Float64Array;
  /** ± m³/s */
  doubt: Float64Array;
  saved: Float64Array | null;
  zone: string;
}) {
  if (at.length < 2) return null;
  let [low, high] = [0, 0.001];
  for (let i = 0; i < now.length; i++) {
    if (!Number.isFinite(now[i]!)) continue;
    low = Math.min(low, now[i]! - doubt[i]!);
    high = Math.max(high, now[i]! + doubt[i]!);
  }
  const y = scaleLinear().domain([low, high]).nice(5).range([bottom, top]);
  const offset = DateTime.fromMillis(at[0]!).setZone(zone).offset * 60_000;
  const x = scaleLinear()
    .domain([at[0]!, at.at(-1)!])
    .range([left, right]);
  const ticks = scaleUtc()
    .domain([at[0]! + offset, at.at(-1)! + offset])
    .ticks(7);
  const path = (values: (i: number) => number) => {
    let d = '';
    let isOn = false;
    for (let i = 0; i < at.length; i++) {
      const v = values(i);
      if (!Number.isFinite(v)) isOn = false;
      else {
        d += `${isOn ? 'L' : 'M'}${x(at[i]!).toFixed(1)} ${y(v).toFixed(1)}`;
        isOn = true;
      }
    }
    return d;
  };
  // Up along the upper edge, back along the lower.
  let band = '';
  for (let i = 0; i < at.length; i++)
    if (Number.isFinite(now[i]!))
      band += `${band ? 'L' : 'M'}${x(at[i]!).toFixed(1)} ${y(now[i]! + doubt[i]!).toFixed(1)}`;
  for (let i = at.length - 1; i >= 0; i--)
    if (Number.isFinite(now[i]!)) band += `L${x(at[i]!).toFixed(1)} ${y(now[i]! - doubt[i]!).toFixed(1)}`;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: '100%', minWidth: 640, display: 'block' }}
      role="img"
      aria-label={`Discharge over the last days, from ${formatValue(low, 1)} to ${formatValue(high, 1)} m³/s`}
    >
      <g fontSize="13" fill="var(--mui-palette-text-primary)">
        {y.ticks(5).map((t) => (
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
              {formatValue(t, 1)}
            </text>
          </g>
        ))}
        {ticks.map((t) => (
          <text key={+t} x={x(+t - offset)} y={bottom + 22} textAnchor="middle" fontSize="12">
            {DateTime.fromMillis(+t, { zone: 'utc' }).toFormat('MM-dd')}
          </text>
        ))}
        <path d={`${band}Z`} fill="var(--mui-palette-primary-main)" fillOpacity="0.18" />
        {saved && (
          <path
            d={path((i) => saved[i]!)}
            fill="none"
            stroke="var(--mui-palette-text-secondary)"
            strokeWidth="1.5"
            strokeDasharray="4 3"
          />
        )}
        <path
          d={path((i) => now[i]!)}
          fill="none"
          stroke="var(--mui-palette-primary-main)"
          strokeWidth="1.5"
        />
      </g>
    </svg>
  );
}
