'use client';

import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { formatValue, roundTo } from '@/core/quantity/format';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { limitFields, limitNames, type Limits } from '@/core/settings/limits';
import type { Recorded } from '@/core/watch/recorded';
import type { Rehearsal } from '@/core/watch/rehearse';
import { tickText, timeTicks, valueAxis } from '../trace/ticks';

const [width, height] = [1000, 340];
const [left, right, top, bottom] = [58, 940, 54, 306];
/** Where the rings of the draft and of the rule in force stand, above the trace. */
const [draftRow, heldRow] = [8, 24];

const ink = 'var(--mui-palette-text-secondary)';
const line = 'var(--mui-palette-divider)';
const accent = 'var(--mui-palette-primary-main)';
const near = 'var(--mui-palette-warning-main)';
const far = 'var(--mui-palette-error-main)';
const colourOf = (field: keyof Limits) => (field === 'farLow' || field === 'farHigh' ? far : near);

/**
 * A rule drawn on the recorded past: limits are led by pointer or keys, and where it rings stands above the
 * trace, the rule in force below it.
 */
export function RehearsalDrawing({
  recorded,
  quantity,
  zone,
  limits,
  draft,
  inForce,
  onLimit,
  picked,
}: {
  recorded: Recorded;
  quantity: QuantityCode;
  zone: string;
  limits: Limits;
  draft: Rehearsal | null;
  inForce: Rehearsal | null;
  /** Null for whoever may not. @param goesOn the same drag still */
  onLimit: ((field: keyof Limits, value: number, goesOn: boolean) => void) | null;
  /** A ring that is pointed out, ms. */
  picked: { readonly from: number; readonly until: number } | null;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ field: keyof Limits; moved: boolean } | null>(null);
  // While a limit is dragged the axis is held: one that followed would run away under the pointer.
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const q = quantityOf(quantity);
  const { from, until } = recorded;
  const [least, most] = useMemo(() => reachOf(recorded.value), [recorded.value]);
  const set = limitFields.flatMap((f) => (limits[f] === null ? [] : [limits[f]]));
  const axis = valueAxis(held?.[0] ?? Math.min(least, ...set), held?.[1] ?? Math.max(most, ...set), 5);
  const x = (t: number) =>
    left + ((Math.min(until, Math.max(from, t)) - from) / (until - from)) * (right - left);
  const y = (v: number) => bottom - ((v - axis.low) / (axis.high - axis.low)) * (bottom - top);
  const trace = useMemo(() => tracePath(recorded, axis.low, axis.high), [recorded, axis.low, axis.high]);
  const ticks = useMemo(() => timeTicks(from, until, zone, 8), [from, until, zone]);
  const step = 10 ** -q.decimals * (q.decimals > 1 ? 10 : 5);
  const lead = (field: keyof Limits, value: number, goesOn: boolean) => {
    const [low, high] = q.range;
    onLimit?.(field, roundTo(Math.min(high, Math.max(low, value)), q.decimals), goesOn);
  };
  const move = (e: PointerEvent) => {
    if (!drag.current) return;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.current!.getScreenCTM()!.inverse());
    const value = axis.low + ((bottom - p.y) / (bottom - top)) * (axis.high - axis.low);
    lead(drag.current.field, value, drag.current.moved);
    drag.current.moved = true;
  };
  const byKey = (field: keyof Limits) => (e: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    lead(field, limits[field]! + by * step * (e.shiftKey ? 0.2 : 1), false);
  };
  const letGo = () => {
    drag.current = null;
    setHeld(null);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: '100%', minWidth: 640, display: 'block' }}
      role="group"
      aria-label="The rule on the recorded past"
      onPointerMove={move}
      onPointerUp={letGo}
      onPointerCancel={letGo}
    >
      <g fontSize="13" fill={ink}>
        {axis.ticks.map((t) => (
          <g key={t}>
            <line x1={left} x2={right} y1={y(t)} y2={y(t)} stroke={line} strokeOpacity="0.6" />
            <text x={left - 8} y={y(t) + 4} textAnchor="end">
              {formatValue(t, axis.high - axis.low < 5 ? 1 : 0)}
            </text>
          </g>
        ))}
        {ticks.map((t) => (
          <text key={t} x={x(t)} y={bottom + 22} textAnchor="middle" fontSize="12">
            {tickText(t, until - from, zone)}
          </text>
        ))}
        <text x={left} y={height - 4} fontSize="12">
          {q.unit}
        </text>
      </g>
      {picked && (
        <rect
          x={x(picked.from) - 2}
          width={Math.max(4, x(picked.until) - x(picked.from) + 4)}
          y={top}
          height={bottom - top}
          fill="var(--mui-palette-ground-skyWash)"
        />
      )}
      {recorded.doubted.map((d, i) => (
        <rect
          key={i}
          x={x(d.from)}
          width={Math.max(1, x(d.until) - x(d.from))}
          y={bottom - 5}
          height="5"
          fill={d.kind === 'off-line' ? ink : far}
          fillOpacity="0.5"
        />
      ))}
      <path d={trace} fill="none" stroke={accent} strokeWidth="1.3" strokeLinejoin="round" />
      <Rings of={inForce} x={x} y={heldRow} isDraft={false} />
      <Rings of={draft} x={x} y={draftRow} isDraft />
      {limitFields.map(
        (field) =>
          limits[field] !== null && (
            <g
              key={field}
              {...(onLimit && {
                role: 'slider',
                tabIndex: 0,
                'aria-label': limitNames[field],
                'aria-orientation': 'vertical' as const,
                'aria-valuenow': limits[field],
                'aria-valuemin': q.range[0],
                'aria-valuemax': q.range[1],
                'aria-valuetext': `${formatValue(limits[field], q.decimals)} ${q.unit}`,
                onKeyDown: byKey(field),
                onPointerDown: (e: PointerEvent) => {
                  (e.currentTarget as Element).setPointerCapture(e.pointerId);
                  drag.current = { field, moved: false };
                  setHeld([axis.low, axis.high]);
                },
                style: { cursor: 'ns-resize' },
              })}
            >
              <line
                x1={left}
                x2={right}
                y1={y(limits[field])}
                y2={y(limits[field])}
                stroke={colourOf(field)}
                strokeWidth="2"
                strokeDasharray={colourOf(field) === far ? undefined : '7 4'}
              />
              <rect
                x={left}
                width={width - left}
                y={y(limits[field]) - 14}
                height="28"
                fill="transparent"
                style={{ touchAction: 'none' }}
              />
              <path d={`M${right + 1} ${y(limits[field])} l8 -8 h48 v16 h-48z`} fill={colourOf(field)} />
              <text
                x={right + 52}
                y={y(limits[field]) + 4.5}
                textAnchor="end"
                fontSize="13"
                fontWeight="600"
                fill="var(--mui-palette-background-paper)"
              >
                {formatValue(limits[field], Math.min(1, q.decimals))}
              </text>
            </g>
          ),
      )}
    </svg>
  );
}

/** Where it rings: a bar from when it is raised until it is over, heavier for far out, hollow where the values are doubted. */
function Rings({
  of,
  x,
  y,
  isDraft,
}: {
  of: Rehearsal | null;
  x: (t: number) => number;
  y: number;
  isDraft: boolean;
}) {
  if (!of) return null;
  return (
    <g>
      <text x={left - 8} y={y + 10} textAnchor="end" fontSize="11" fill={ink}>
        {isDraft ? 'tried' : 'in force'}
      </text>
      <line x1={left} x2={right} y1={y + 6} y2={y + 6} stroke={line} />
      {of.rings.map((r, i) => {
        const isFar = Math.abs(r.worst) === 2 || r.cause === 'silent';
        const colour = isFar ? far : near;
        return (
          <rect
            key={i}
            x={x(r.raised)}
            width={Math.max(2, x(r.returned ?? Infinity) - x(r.raised))}
            y={y + (isFar ? 0 : 2)}
            height={isFar ? 12 : 8}
            fill={r.doubt || !isDraft ? 'none' : colour}
            stroke={colour}
            strokeWidth="1.3"
          />
        );
      })}
    </g>
  );
}

function reachOf(values: Float64Array): readonly [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return low <= high ? [low, high] : [0, 1];
}

/** The trace by columns of the drawing: between its lowest and its highest in each. */
function tracePath({ at, value, from, until }: Recorded, low: number, high: number): string {
  const y = (v: number) => (bottom - ((v - low) / (high - low)) * (bottom - top)).toFixed(1);
  const column = (t: number) => Math.round(left + ((t - from) / (until - from)) * (right - left));
  // A hole is wider than a few columns and than a few of its neighbours' distances.
  const usual = at.length > 1 ? (at[at.length - 1]! - at[0]!) / (at.length - 1) : 0;
  let d = '';
  let pen = false;
  for (let i = 0; i < at.length;) {
    const c = column(at[i]!);
    let [least, most] = [value[i]!, value[i]!];
    const first = i;
    while (i < at.length && column(at[i]!) === c) {
      least = Math.min(least, value[i]!);
      most = Math.max(most, value[i]!);
      i++;
    }
    if (first > 0 && at[first]! - at[first - 1]! > Math.max(4 * usual, (3 * (until - from)) / (right - left)))
      pen = false;
    d += `${pen ? 'L' : 'M'}${c} ${y(least)}${most > least ? `L${c} ${y(most)}` : pen ? '' : 'h0.01'}`;
    pen = true;
  }
  return d;
}
