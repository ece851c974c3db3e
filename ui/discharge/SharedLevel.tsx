'use client';

import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { kAt, type Support } from '@/core/discharge/curve';
import type { Curves } from '@/core/discharge/discharge';
import { areaBy, type SectionPoint, type SectionTable } from '@/core/discharge/section';
import { formatValue, roundTo } from '@/core/quantity/format';
import type { GaugedBeside } from './gauged';
import { LevelGround } from './LevelGround';
import {
  accent,
  dischargeRange,
  frame,
  ink,
  kRange,
  rangeOf,
  sectionScales,
  type Range,
} from './levelScales';

/** So many of the recorded moments are drawn. */
const mostDrawn = 900;
/** k by a key: a step, and a small one with Shift; level likewise, m. */
const [kStep, kFine, levelStep] = [0.005, 0.001, 0.01];
/** No support is led below. */
const leastK = 0.05;

/**
 * Section, k and discharge over one level axis: a finger at a level reads all three. Gaugings are bars of what they are
 * good to; supports are moved by pointer or keys.
 */
export function SharedLevel({
  points,
  table,
  levels,
  curves,
  saved,
  supports,
  gaugings,
  discharges,
  onMove,
}: {
  points: readonly SectionPoint[];
  table: SectionTable;
  /** Recorded, m. */
  levels: Float64Array;
  /** As they are led now, and as they were saved last; null where they are the same. */
  curves: Curves;
  saved: Curves | null;
  /** Of the curve that is led. Null for whoever may not. */
  supports: readonly Support[] | null;
  gaugings: readonly GaugedBeside[];
  /** Of the record, by the curve now and as saved, m³/s. */
  discharges: { readonly now: Float64Array; readonly saved: Float64Array | null };
  /** @param isOneStep the same drag goes on */
  onMove: (i: number, to: Support, isOneStep: boolean) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [finger, setFinger] = useState<number | null>(null);
  const dragged = useRef<{ i: number; moved: boolean } | null>(null);
  /** Of k, while a support is dragged: an axis that followed would run away under the pointer. */
  const [held, setHeld] = useState<Range | null>(null);
  const [lowest, highest] = rangeOf((supports ?? []).map((s) => s.level));
  const scales = useMemo(() => sectionScales(points, [lowest, highest]), [points, lowest, highest]);
  const { y } = scales;
  const [kLeast, kMost] = held ?? kRange(ksOf(supports, curves, gaugings));
  const kx = useMemo(() => scaleLinear([kLeast, kMost], [...frame.k]), [kLeast, kMost]);
  const [qLeast, qMost] = dischargeRange(
    discharges.now,
    gaugings.map((b) => b.discharge),
  );
  const qx = useMemo(() => scaleLinear([qLeast, qMost], [...frame.discharge]), [qLeast, qMost]);
  const savedCurve = useMemo(() => saved && curvePath(saved, y, kx), [saved, y, kx]);
  const savedDots = useMemo(
    () => discharges.saved && dotPath(discharges.saved, levels, qx, y),
    [discharges.saved, levels, qx, y],
  );
  const dots = useMemo(() => dotPath(discharges.now, levels, qx, y), [discharges.now, levels, qx, y]);
  const newest = levels.at(-1) ?? null;
  const move = (e: PointerEvent) => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    const drag = dragged.current;
    if (drag && supports) {
      const k = Math.min(kMost, Math.max(leastK, kLeast, roundTo(kx.invert(p.x), 3)));
      onMove(drag.i, { ...supports[drag.i]!, k }, drag.moved);
      drag.moved = true;
    }
    setFinger(p.y >= frame.top && p.y <= frame.bottom ? y.invert(p.y) : null);
  };
  const letGo = () => {
    dragged.current = null;
    setHeld(null);
  };
  const byKey = (i: number) => (e: KeyboardEvent) => {
    const s = supports![i]!;
    const step = e.shiftKey ? kFine : kStep;
    const to: Record<string, Support> = {
      ArrowLeft: { ...s, k: Math.max(leastK, roundTo(s.k - step, 3)) },
      ArrowRight: { ...s, k: roundTo(s.k + step, 3) },
      ArrowUp: { ...s, level: roundTo(s.level + levelStep, 3) },
      ArrowDown: { ...s, level: roundTo(s.level - levelStep, 3) },
    };
    const next = to[e.key];
    if (!next) return;
    e.preventDefault();
    const [below, above] = [supports![i - 1], supports![i + 1]];
    if ((below && next.level <= below.level) || (above && next.level >= above.level)) return;
    onMove(i, next, false);
  };
  const shown = finger ?? newest;
  return (
    <Box sx={{ position: 'relative', minWidth: 640 }}>
      <LevelGround
        points={points}
        water={newest}
        scales={scales}
        kx={kx}
        qx={qx}
        gaugings={gaugings}
        savedCurve={savedCurve}
        savedDots={savedDots}
      />
      <svg
        ref={svg}
        viewBox={`0 0 ${frame.width} ${frame.height}`}
        style={{ position: 'relative', width: '100%', display: 'block', willChange: 'transform' }}
        role="group"
        aria-label="Section, k and discharge over one level axis"
        onPointerMove={move}
        onPointerUp={letGo}
        onPointerCancel={letGo}
        onPointerLeave={() => setFinger(null)}
      >
        <g fontSize="13" fill={ink}>
          <path d={curvePath(curves, y, kx)} fill="none" stroke={accent} strokeWidth="2.5" />
          <path d={dots} stroke={accent} strokeWidth="2" strokeOpacity="0.6" fill="none" />
          {shown !== null && (
            <g>
              <line
                x1={frame.section[0]}
                x2={frame.discharge[1]}
                y1={y(shown)}
                y2={y(shown)}
                stroke={accent}
              />
              <text x={frame.section[0] + 6} y={y(shown) - 6} fontWeight="600" {...halo}>
                {formatValue(shown, 3)} m · {formatValue(areaBy(table, shown), 2)} m²
              </text>
              <text x={frame.k[1] - 4} y={y(shown) - 6} textAnchor="end" fontWeight="600" {...halo}>
                k {formatValue(kAt(curves.forward, shown), 3)}
              </text>
              <text x={frame.discharge[1] - 4} y={y(shown) - 6} textAnchor="end" fontWeight="600" {...halo}>
                {formatValue(kAt(curves.forward, shown) * areaBy(table, shown), 2)} m³/s at 1 m/s
              </text>
            </g>
          )}
          {supports?.map((s, i) => (
            <g
              key={i}
              role="slider"
              tabIndex={0}
              aria-label={`k at ${formatValue(s.level, 2)} m`}
              aria-valuenow={s.k}
              aria-valuemin={Math.min(0.3, s.k)}
              aria-valuemax={Math.max(1.2, s.k)}
              aria-valuetext={formatValue(s.k, 3)}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                dragged.current = { i, moved: false };
                setHeld([kLeast, kMost]);
              }}
              onKeyDown={byKey(i)}
              style={{ cursor: 'ew-resize' }}
            >
              <circle
                cx={kx(s.k)}
                cy={y(s.level)}
                r="20"
                fill="transparent"
                style={{ touchAction: 'none' }}
              />
              <rect
                x={kx(s.k) - 8}
                y={y(s.level) - 8}
                width="16"
                height="16"
                transform={`rotate(45 ${kx(s.k)} ${y(s.level)})`}
                fill="var(--mui-palette-background-paper)"
                stroke={accent}
                strokeWidth="3"
              />
            </g>
          ))}
        </g>
      </svg>
    </Box>
  );
}

/** So that what stands over dots can be read. */
const halo = {
  stroke: 'var(--mui-palette-background-default)',
  strokeWidth: 4,
  paintOrder: 'stroke',
} as const;

type Scale = (value: number) => number;

const ksOf = (
  supports: readonly Support[] | null,
  curves: Curves,
  gaugings: readonly GaugedBeside[],
): number[] => [
  ...(supports ?? []).map((s) => s.k),
  ...curves.forward.ks,
  ...gaugings.flatMap((b) => (b.k ? [b.k.value * (1 - b.k.U), b.k.value * (1 + b.k.U)] : [])),
];

/** Recorded moments as dots of one path. */
function dotPath(discharges: Float64Array, levels: Float64Array, x: Scale, y: Scale): string {
  const step = Math.max(1, Math.ceil(discharges.length / mostDrawn));
  let d = '';
  for (let i = 0; i < discharges.length; i += step)
    if (Number.isFinite(discharges[i]!))
      d += `M${x(discharges[i]!).toFixed(1)} ${y(levels[i]!).toFixed(1)}h2`;
  return d;
}

function curvePath({ forward, reverse }: Curves, y: Scale & { domain(): number[] }, x: Scale): string {
  const [low, high] = y.domain() as [number, number];
  const along = (curve: Curves['forward']) =>
    Array.from({ length: 81 }, (_, i) => {
      const level = low + (i / 80) * (high - low);
      return `${i ? 'L' : 'M'}${x(kAt(curve, level)).toFixed(1)} ${y(level).toFixed(1)}`;
    }).join('');
  return along(forward) + (reverse ? along(reverse) : '');
}
