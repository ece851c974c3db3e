import type { ScaleLinear } from 'd3-scale';
import { memo } from 'react';
import type { SectionPoint } from '@/core/discharge/section';
import { formatValue } from '@/core/quantity/format';
import type { GaugedBeside } from './gauged';
import { accent, frame, ink, quiet } from './levelScales';
import { groundPath, waterPath } from './sectionPaths';

type Scale = ScaleLinear<number, number>;

/**
 * What stands still below a curve that is led: axes, section, water, gaugings as bars of what they are good to, and the
 * curve and the discharges as they were saved. A drawing of its own, so that a drag need not draw it anew.
 */
export const LevelGround = memo(function LevelGround({
  points,
  water,
  scales: { x, y },
  kx,
  qx,
  gaugings,
  savedCurve,
  savedDots,
}: {
  points: readonly SectionPoint[];
  /** m; null where nothing was recorded. */
  water: number | null;
  scales: { readonly x: Scale; readonly y: Scale };
  kx: Scale;
  qx: Scale;
  gaugings: readonly GaugedBeside[];
  /** As paths; null where nothing is led. */
  savedCurve: string | null;
  savedDots: string | null;
}) {
  const { width, height, section, k, discharge, bottom } = frame;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ position: 'absolute', inset: 0, width: '100%', display: 'block' }}
    >
      <g fontSize="13" fill={ink}>
        {y.ticks(8).map((t) => (
          <g key={t}>
            <line x1={section[0]} x2={discharge[1]} y1={y(t)} y2={y(t)} stroke={quiet} strokeOpacity="0.25" />
            <text x={section[0] - 8} y={y(t) + 4} textAnchor="end">
              {formatValue(t, 1)}
            </text>
          </g>
        ))}
        <text x={6} y={20}>
          level, m
        </text>
        <Heading panel={section} text="section, m across" place={x} digits={0} />
        <Heading panel={k} text="k" place={kx} digits={2} />
        <Heading panel={discharge} text="discharge, m³/s" place={qx} digits={0} />
        {water !== null && (
          <path d={waterPath(points, water, x, y)} fill="var(--mui-palette-ground-skyWash)" stroke={accent} />
        )}
        <path
          d={groundPath(points, x, y, bottom)}
          fill="var(--mui-palette-ground-ochreWash)"
          stroke={ink}
          strokeWidth="1.5"
        />
        {savedCurve && (
          <path d={savedCurve} fill="none" stroke={quiet} strokeWidth="2" strokeDasharray="5 4" />
        )}
        {savedDots && <path d={savedDots} stroke={quiet} strokeWidth="2" strokeOpacity="0.5" fill="none" />}
        {gaugings.map((b) => (
          <g key={b.gauging.id} stroke={ink}>
            {b.k && (
              <>
                <line
                  x1={kx(b.k.value * (1 - b.k.U))}
                  x2={kx(b.k.value * (1 + b.k.U))}
                  y1={y(b.gauging.level)}
                  y2={y(b.gauging.level)}
                  strokeWidth="5"
                  strokeOpacity="0.75"
                />
                <line
                  x1={kx(b.k.value)}
                  x2={kx(b.k.value)}
                  y1={y(b.gauging.level) - 8}
                  y2={y(b.gauging.level) + 8}
                  strokeWidth="2"
                />
              </>
            )}
            <line
              x1={qx(b.discharge - Math.abs(b.discharge) * b.dischargeU)}
              x2={qx(b.discharge + Math.abs(b.discharge) * b.dischargeU)}
              y1={y(b.gauging.level)}
              y2={y(b.gauging.level)}
              strokeWidth="5"
              strokeOpacity="0.75"
            />
          </g>
        ))}
      </g>
    </svg>
  );
});

function Heading({
  panel,
  text,
  place,
  digits,
}: {
  panel: readonly [number, number];
  text: string;
  place: Scale;
  digits: number;
}) {
  return (
    <g>
      <text x={panel[0]} y={20} fontWeight="600">
        {text}
      </text>
      <line x1={panel[0]} x2={panel[1]} y1={frame.bottom} y2={frame.bottom} stroke={quiet} />
      {place.ticks(5).map((t) => (
        <g key={t}>
          <line x1={place(t)} x2={place(t)} y1={frame.bottom} y2={frame.bottom + 5} stroke={quiet} />
          <text x={place(t)} y={frame.bottom + 20} textAnchor="middle" fontSize="12">
            {formatValue(t, digits)}
          </text>
        </g>
      ))}
    </g>
  );
}
