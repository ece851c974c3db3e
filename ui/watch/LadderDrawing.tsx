'use client';

import type { BoardChannel } from '@/contract/watch';
import { formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { ladderOf, type Rung } from '@/core/watch/ladder';
import { colourOfZone, type Zone } from './zone';

const [width, height] = [260, 92];
/** Where the ladder stands, and where its last hours are drawn. */
const [rail, from, until] = [12, 58, 244];
const hours = 12;

const line = 'var(--mui-palette-divider)';
const ink = 'var(--mui-palette-text-secondary)';

/** Ground of a band: within, near and far. */
const grounds = {
  0: 'var(--mui-palette-ground-lichenWash)',
  1: 'var(--mui-palette-ground-ochreWash)',
  2: 'var(--mui-palette-ground-heatherWash)',
} as const;
const distance: Readonly<Record<Rung['field'], 1 | 2>> = { farLow: 2, low: 1, high: 1, farHigh: 2 };

/**
 * One drawing for all quantities: the limits as rungs of a ladder, each band between two of one height, the
 * last hours beside it and the value's own mark. Only directions are round.
 */
export function LadderDrawing({ channel, zone, now }: { channel: BoardChannel; zone: Zone; now: number }) {
  const q = quantityOf(channel.quantity);
  const values = channel.recent.flatMap(([, v]) => (v === null ? [] : [v]));
  const said = `${channel.name}: ${channel.value === null ? 'no value' : `${formatValue(channel.value, q.decimals)} ${q.unit}`}, ${zone.word}`;
  if (q.aggregate === 'circular') return <Direction channel={channel} zone={zone} said={said} />;
  const seen = [
    Math.min(...values, channel.value ?? Infinity),
    Math.max(...values, channel.value ?? -Infinity),
  ] as const;
  const ladder = ladderOf(channel.limits, Number.isFinite(seen[0]) ? seen : [0, 1]);
  const reach = seen[1] - seen[0] || 1;
  const place = ladder?.place ?? ((v: number) => 0.15 + (0.7 * (v - seen[0])) / reach);
  const y = (v: number) => height - 4 - place(v) * (height - 8);
  const x = (t: number) => from + (1 - (now - t) / (hours * 3_600_000)) * (until - from);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={said}
      style={{ width: '100%', display: 'block' }}
    >
      {ladder && <Bands rungs={ladder.rungs} decimals={q.decimals} />}
      <path
        d={pathOf(channel.recent, x, y)}
        fill="none"
        stroke="var(--mui-palette-primary-main)"
        strokeWidth="1.8"
        strokeLinejoin="round"
      />
      <path d={`M${from} ${height - 0.5} H${until}`} stroke={line} />
      {channel.value !== null && (
        <>
          <path d={`M${rail - 8} ${y(channel.value)} h20`} stroke={colourOfZone(zone)} strokeWidth="4" />
          <path
            d={`M${until + 2} ${y(channel.value)} l11 -6 v12z`}
            fill={zone.isQuiet ? 'none' : colourOfZone(zone)}
            stroke={colourOfZone(zone)}
            strokeWidth="1.5"
          />
        </>
      )}
    </svg>
  );
}

function Bands({ rungs, decimals }: { rungs: readonly Rung[]; decimals: number }) {
  const y = (at: number) => height - 4 - at * (height - 8);
  const edges = [0, ...rungs.map((r) => r.at), 1];
  return (
    <>
      {edges.slice(1).map((top, i) => {
        const [below, above] = [rungs[i - 1], rungs[i]];
        // Below a low limit, or above a high one, it is as far out as that one says.
        const beyond =
          above && (above.field === 'low' || above.field === 'farLow')
            ? distance[above.field]
            : below && (below.field === 'high' || below.field === 'farHigh')
              ? distance[below.field]
              : 0;
        return (
          <rect
            key={i}
            x={rail - 4}
            width={until - rail + 4}
            y={y(top)}
            height={y(edges[i]!) - y(top)}
            fill={grounds[beyond]}
          />
        );
      })}
      {rungs.map((r) => (
        <g key={r.field}>
          <path
            d={`M${rail - 4} ${y(r.at)} H${until}`}
            stroke={ink}
            strokeWidth={distance[r.field] === 2 ? 1.6 : 1}
            strokeDasharray={distance[r.field] === 2 ? undefined : '4 3'}
          />
          <text x={from - 4} y={y(r.at) - 2.5} textAnchor="end" fontSize="13" fill={ink}>
            {formatValue(r.limit, Math.min(decimals, 1))}
          </text>
        </g>
      ))}
      <path
        d={`M${rail - 4} 4 V${height - 4} M${rail + 4} 4 V${height - 4}`}
        stroke={ink}
        strokeWidth="1.4"
      />
    </>
  );
}

function pathOf(recent: BoardChannel['recent'], x: (t: number) => number, y: (v: number) => number): string {
  let d = '';
  let pen = false;
  for (const [t, v] of recent) {
    if (v !== null && x(t) >= from)
      d += `${pen ? 'L' : 'M'}${x(t).toFixed(1)} ${y(v).toFixed(1)}${pen ? '' : 'h0.01'}`;
    pen = v !== null && x(t) >= from;
  }
  return d;
}

/** A direction: a round with a needle, and where it pointed of late. */
function Direction({ channel, zone, said }: { channel: BoardChannel; zone: Zone; said: string }) {
  const [cx, cy, r] = [width / 2, height / 2, height / 2 - 8];
  const tip = (degrees: number, by: number) => {
    const a = ((degrees - 90) * Math.PI) / 180;
    return `${(cx + by * Math.cos(a)).toFixed(1)} ${(cy + by * Math.sin(a)).toFixed(1)}`;
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={said}
      style={{ width: '100%', display: 'block' }}
    >
      <circle cx={cx} cy={cy} r={r} fill="none" stroke={ink} />
      <text x={cx} y={9} textAnchor="middle" fontSize="10" fill={ink}>
        N
      </text>
      {channel.recent.map(
        ([t, v]) =>
          v !== null && <path key={t} d={`M${tip(v, r)} L${tip(v, r - 5)}`} stroke={line} strokeWidth="2" />,
      )}
      {channel.value !== null && (
        <path
          d={`M${cx} ${cy} L${tip(channel.value, r - 2)}`}
          stroke={colourOfZone(zone)}
          strokeWidth="3.5"
          strokeLinecap="round"
        />
      )}
    </svg>
  );
}
