'use client';

import { scaleLinear } from 'd3-scale';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { DischargeView, SectionView } from '@/contract/discharge';
import { kAt, type Support } from '@/core/discharge/curve';
import type { Curves } from '@/core/discharge/discharge';
import { areaBy, sectionTable } from '@/core/discharge/section';
import { formatValue } from '@/core/quantity/format';
import type { Beside } from './gauged';

const width = 1000;
const height = 430;
const [top, bottom] = [34, 392];
const panels = { section: [64, 370], k: [404, 650], discharge: [690, 984] } as const;
const ink = 'var(--mui-palette-text-primary)';
const quiet = 'var(--mui-palette-text-secondary)';
const accent = 'var(--mui-palette-primary-main)';

/** So many of the recorded moments are drawn. */
const mostDrawn = 900;
/** k by a key: a step, and a small one with Shift; level likewise, m. */
const [kStep, kFine, levelStep] = [0.005, 0.001, 0.01];

/**
 * Section, k and discharge over one level axis: a finger at a level reads all three. Gaugings are bars of what they are
 * good to; supports are moved by pointer or keys.
 */
export function SharedLevel({
  view,
  section,
  curves,
  saved,
  supports,
  beside,
  discharges,
  onMove,
}: {
  view: DischargeView;
  section: SectionView;
  /** As they are led now, and as they were saved last. */
  curves: Curves;
  saved: Curves | null;
  /** Of the curve that is led. Null for whoever may not. */
  supports: readonly Support[] | null;
  beside: readonly Beside[];
  /** Of the record, by the curve now and as saved, m³/s. */
  discharges: { readonly now: Float64Array; readonly saved: Float64Array | null };
  /** @param isOneStep the same drag or key goes on */
  onMove: (i: number, to: Support, isOneStep: boolean) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [finger, setFinger] = useState<number | null>(null);
  const dragged = useRef<{ i: number; moved: boolean } | null>(null);
  const table = useMemo(() => sectionTable(section.points), [section.points]);
  const all = section.points.map((p) => p.elevation);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const y = scaleLinear()
    .domain([low - 0.04 * (high - low), high + 0.04 * (high - low)])
    .range([bottom, top]);
  const xs = section.points.map((p) => p.across);
  const x = scaleLinear()
    .domain([Math.min(...xs), Math.max(...xs)])
    .range(panels.section);
  const ks = [
    ...(supports ?? []).map((s) => s.k),
    ...Array.from(curves.forward.ks),
    ...beside.flatMap((b) => (b.k ? [b.k.value * (1 - b.k.U), b.k.value * (1 + b.k.U)] : [])),
  ];
  const kx = scaleLinear()
    .domain([Math.min(0.6, ...ks) - 0.02, Math.max(1, ...ks) + 0.02])
    .range(panels.k);
  const most = extent(
    discharges.now,
    beside.map((b) => b.discharge),
  );
  const [least, greatest] = most;
  const qx = scaleLinear().domain(most).nice(5).range(panels.discharge);
  const newest = view.record.level.at(-1) ?? null;
  const dots = useMemo(
    () => ({
      now: dotPath(discharges.now, view.record.level, qx, y),
      saved: discharges.saved ? dotPath(discharges.saved, view.record.level, qx, y) : '',
    }),
    // Scales follow from what is drawn.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [discharges, view.record.level, least, greatest, low, high],
  );
  const at = (e: PointerEvent) => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    return new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
  };
  const move = (e: PointerEvent) => {
    const p = at(e);
    const drag = dragged.current;
    if (drag && supports) {
      const k = Math.round(kx.invert(p.x) * 1000) / 1000;
      onMove(drag.i, { ...supports[drag.i]!, k: Math.max(0.05, k) }, drag.moved);
      drag.moved = true;
    }
    setFinger(p.y >= top && p.y <= bottom ? y.invert(p.y) : null);
  };
  const byKey = (i: number) => (e: KeyboardEvent) => {
    const s = supports![i]!;
    const step = e.shiftKey ? kFine : kStep;
    const round = (v: number) => Math.round(v * 1000) / 1000;
    const to: Record<string, Support> = {
      ArrowLeft: { ...s, k: Math.max(0.05, round(s.k - step)) },
      ArrowRight: { ...s, k: round(s.k + step) },
      ArrowUp: { ...s, level: round(s.level + levelStep) },
      ArrowDown: { ...s, level: round(s.level - levelStep) },
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
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: '100%', minWidth: 640, display: 'block' }}
      role="group"
      aria-label="Section, k and discharge over one level axis"
      onPointerMove={move}
      onPointerUp={() => (dragged.current = null)}
      onPointerLeave={() => setFinger(null)}
    >
      <g fontSize="13" fill={ink}>
        {y.ticks(8).map((t) => (
          <g key={t}>
            <line
              x1={panels.section[0]}
              x2={panels.discharge[1]}
              y1={y(t)}
              y2={y(t)}
              stroke={quiet}
              strokeOpacity="0.25"
            />
            <text x={panels.section[0] - 8} y={y(t) + 4} textAnchor="end">
              {formatValue(t, 1)}
            </text>
          </g>
        ))}
        <text x={6} y={20}>
          level, m
        </text>
        <Heading panel={panels.section} text="section, m across" ticks={x.ticks(5)} place={x} digits={0} />
        <Heading panel={panels.k} text="k" ticks={kx.ticks(5)} place={kx} digits={2} />
        <Heading panel={panels.discharge} text="discharge, m³/s" ticks={qx.ticks(5)} place={qx} digits={0} />

        {newest !== null && (
          <path
            d={waterPath(section, newest, x, y)}
            fill="var(--mui-palette-ground-skyWash)"
            stroke={accent}
          />
        )}
        <path
          d={`${section.points.map((p, i) => `${i ? 'L' : 'M'}${x(p.across)} ${y(p.elevation)}`).join(' ')} L${panels.section[1]} ${bottom} L${panels.section[0]} ${bottom} Z`}
          fill="var(--mui-palette-ground-ochreWash)"
          stroke={ink}
          strokeWidth="1.5"
        />

        {saved && (
          <path
            d={curvePath(saved, y, kx)}
            fill="none"
            stroke={quiet}
            strokeWidth="2"
            strokeDasharray="5 4"
          />
        )}
        <path d={curvePath(curves, y, kx)} fill="none" stroke={accent} strokeWidth="2.5" />
        {dots.saved && <path d={dots.saved} stroke={quiet} strokeWidth="2" strokeOpacity="0.5" fill="none" />}
        <path d={dots.now} stroke={accent} strokeWidth="2" strokeOpacity="0.6" fill="none" />
        {beside.map((b) => (
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
        {shown !== null && (
          <g>
            <line
              x1={panels.section[0]}
              x2={panels.discharge[1]}
              y1={y(shown)}
              y2={y(shown)}
              stroke={accent}
            />
            <text x={panels.section[0] + 6} y={y(shown) - 6} fontWeight="600" {...halo}>
              {formatValue(shown, 3)} m · {formatValue(areaBy(table, shown), 2)} m²
            </text>
            <text x={panels.k[1] - 4} y={y(shown) - 6} textAnchor="end" fontWeight="600" {...halo}>
              k {formatValue(kAt(curves.forward, shown), 3)}
            </text>
            <text x={panels.discharge[1] - 4} y={y(shown) - 6} textAnchor="end" fontWeight="600" {...halo}>
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
            aria-valuemin={0.3}
            aria-valuemax={1.2}
            aria-valuetext={formatValue(s.k, 3)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              dragged.current = { i, moved: false };
            }}
            onKeyDown={byKey(i)}
            style={{ cursor: 'ew-resize' }}
          >
            <circle cx={kx(s.k)} cy={y(s.level)} r="20" fill="transparent" style={{ touchAction: 'none' }} />
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
  );
}

/** So that what stands over dots can be read. */
const halo = {
  stroke: 'var(--mui-palette-background-default)',
  strokeWidth: 4,
  paintOrder: 'stroke',
} as const;

interface Scale {
  (value: number): number;
}

function Heading({
  panel,
  text,
  ticks,
  place,
  digits,
}: {
  panel: readonly [number, number];
  text: string;
  ticks: readonly number[];
  place: Scale;
  digits: number;
}) {
  return (
    <g>
      <text x={panel[0]} y={20} fontWeight="600">
        {text}
      </text>
      <line x1={panel[0]} x2={panel[1]} y1={bottom} y2={bottom} stroke={quiet} />
      {ticks.map((t) => (
        <g key={t}>
          <line x1={place(t)} x2={place(t)} y1={bottom} y2={bottom + 5} stroke={quiet} />
          <text x={place(t)} y={bottom + 20} textAnchor="middle" fontSize="12">
            {formatValue(t, digits)}
          </text>
        </g>
      ))}
    </g>
  );
}

function extent(values: Float64Array, others: readonly number[]): [number, number] {
  let [low, high] = [0, 1];
  for (const v of [...values, ...others]) {
    if (!Number.isFinite(v)) continue;
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return [low, high];
}

/** Recorded moments as dots of one path. */
function dotPath(discharges: Float64Array, levels: readonly number[], x: Scale, y: Scale): string {
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

/** Where it is wet at a level. */
function waterPath({ points }: SectionView, level: number, x: Scale, y: Scale): string {
  const [first, last] = [points[0]!, points.at(-1)!];
  return `M${x(first.across)} ${y(level)} H${x(last.across)} ${[...points]
    .reverse()
    .map((p) => `L${x(p.across)} ${y(Math.min(p.elevation, level))}`)
    .join(' ')} Z`;
}
