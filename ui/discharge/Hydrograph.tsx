import { scaleLinear, scaleUtc, type ScaleLinear } from 'd3-scale';
import { DateTime } from 'luxon';
import { memo, useMemo } from 'react';
import { formatValue } from '@/core/quantity/format';
import { accent, ink, quiet } from './levelScales';

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
  const xs = useMemo(() => {
    const x = scaleLinear([at[0]!, at.at(-1)!], [left, right]);
    return at.map((t) => x(t).toFixed(1));
  }, [at]);
  const [least, most] = spanOf(now, doubt);
  const y = useMemo(() => scaleLinear([least, most], [bottom, top]), [least, most]);
  const savedLine = useMemo(() => saved && linePath(xs, saved, y), [saved, xs, y]);
  const band = useMemo(() => bandPath(xs, now, doubt, y), [xs, now, doubt, y]);
  const line = useMemo(() => linePath(xs, now, y), [xs, now, y]);
  if (at.length < 2) return null;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: '100%', minWidth: 640, display: 'block', willChange: 'transform' }}
      role="img"
      aria-label={`Discharge over the last days, from ${formatValue(least, 1)} to ${formatValue(most, 1)} m³/s`}
    >
      <Axes from={at[0]!} until={at.at(-1)!} y={y} zone={zone} />
      <path d={band} fill={accent} fillOpacity="0.18" />
      {savedLine && <path d={savedLine} fill="none" stroke={quiet} strokeWidth="1.5" strokeDasharray="4 3" />}
      <path d={line} fill="none" stroke={accent} strokeWidth="1.5" />
    </svg>
  );
}

const Axes = memo(function Axes({
  from,
  until,
  y,
  zone,
}: {
  from: number;
  until: number;
  y: ScaleLinear<number, number>;
  zone: string;
}) {
  const offset = DateTime.fromMillis(from).setZone(zone).offset * 60_000;
  const x = scaleLinear([from, until], [left, right]);
  const days = scaleUtc([from + offset, until + offset], [left, right]).ticks(7);
  return (
    <g fontSize="13" fill={ink}>
      {y.ticks(5).map((t) => (
        <g key={t}>
          <line x1={left} x2={right} y1={y(t)} y2={y(t)} stroke={quiet} strokeOpacity="0.3" />
          <text x={left - 8} y={y(t) + 4} textAnchor="end">
            {formatValue(t, 1)}
          </text>
        </g>
      ))}
      {days.map((t) => (
        <text key={+t} x={x(+t - offset)} y={bottom + 22} textAnchor="middle" fontSize="12">
          {DateTime.fromMillis(+t, { zone: 'utc' }).toFormat('MM-dd')}
        </text>
      ))}
    </g>
  );
});

/** What the axis spans: nothing, and every value with its uncertainty, in whole ticks. */
function spanOf(now: Float64Array, doubt: Float64Array): [number, number] {
  let [low, high] = [0, 0.001];
  for (let i = 0; i < now.length; i++) {
    if (!Number.isFinite(now[i]!)) continue;
    low = Math.min(low, now[i]! - doubt[i]!);
    high = Math.max(high, now[i]! + doubt[i]!);
  }
  return scaleLinear([low, high], [0, 1]).nice(5).domain() as [number, number];
}

function linePath(xs: readonly string[], values: Float64Array, y: (value: number) => number): string {
  let d = '';
  let isOn = false;
  for (let i = 0; i < xs.length; i++) {
    const isThere = Number.isFinite(values[i]!);
    if (isThere) d += `${isOn ? 'L' : 'M'}${xs[i]} ${y(values[i]!).toFixed(1)}`;
    isOn = isThere;
  }
  return d;
}

/** Up along the upper edge, back along the lower. */
function bandPath(
  xs: readonly string[],
  values: Float64Array,
  doubt: Float64Array,
  y: (value: number) => number,
): string {
  const edge = (sign: 1 | -1) =>
    xs.flatMap((x, i) =>
      Number.isFinite(values[i]!) ? [`${x} ${y(values[i]! + sign * doubt[i]!).toFixed(1)}`] : [],
    );
  const around = [...edge(1), ...edge(-1).reverse()];
  return around.length > 0 ? `M${around.join('L')}Z` : '';
}
