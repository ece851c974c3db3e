'use client';

import Box from '@mui/material/Box';
import { useId } from 'react';
import type { Circuit } from '@/core/circuit/circuit';
import { drawCircuit, linkHalf, type DrawnPart } from '@/core/circuit/drawing';
import { ohmsText } from '@/core/circuit/words';
import { leadHex, leadStripe } from '@/core/wiring/leadColour';

/** Half of what a resistor takes, px of the drawing. */
const half = { along: 17, across: 8 };

/** A circuit from the sensor to the logger, with the two points a pair of clips is on. */
export function Diagram({
  circuit,
  clips,
  title,
}: {
  circuit: Circuit;
  /** Nodes the clips are on; null for none. */
  clips: readonly [string, string] | null;
  title: string;
}) {
  const d = drawCircuit(circuit);
  const id = useId();
  const on = (node: string) => clips?.indexOf(node) ?? -1;
  return (
    <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label={title}>
      <Box
        component="svg"
        role="img"
        aria-labelledby={id}
        viewBox={`0 0 ${d.width} ${d.height}`}
        sx={{
          display: 'block',
          width: '100%',
          minWidth: Math.min(d.width, 480),
          maxWidth: d.width * 1.25,
          color: 'text.primary',
          '& text': { fill: 'currentColor', fontSize: 13, fontFamily: 'inherit' },
        }}
      >
        <title id={id}>
          {`${title}: ${[...d.parts, ...d.along.filter((a) => a.kind === 'lead')]
            .map((p) => `${p.id}${Number.isFinite(p.ohms) ? ` ${ohmsText(p.ohms)}` : ''}`)
            .join(', ')}`}
        </title>
        <g fill="none" stroke="currentColor" strokeWidth={1.6}>
          {d.wires.map((w, i) =>
            w.colour === null ? (
              <path key={i} d={`M${w.x1},${w.y}H${w.x2}`} />
            ) : (
              <g key={i}>
                <path d={`M${w.x1},${w.y}H${w.x2}`} strokeWidth={6} />
                <path d={`M${w.x1},${w.y}H${w.x2}`} stroke={leadHex(w.colour)} strokeWidth={4} />
                {leadStripe(w.colour) && (
                  <path
                    d={`M${w.x1},${w.y}H${w.x2}`}
                    stroke={leadStripe(w.colour)!}
                    strokeWidth={4}
                    strokeDasharray="6 10"
                  />
                )}
              </g>
            ),
          )}
          {d.joins.map((j, i) => (
            <path key={i} d={`M${j.x},${j.y1}V${j.y2}`} />
          ))}
          {d.parts.map((p) => (
            <path key={p.id} d={`M${p.x},${p.y1}V${p.y2}`} />
          ))}
        </g>
        {d.dots.map((dot, i) => (
          <circle key={i} cx={dot.x} cy={dot.y} r={3.2} fill="currentColor" />
        ))}
        {d.parts.map((p) => (
          <Upright key={p.id} part={p} />
        ))}
        {d.along.map((a) =>
          a.kind === 'lead' ? (
            <text key={a.id} x={a.x} y={a.y1 - 10} textAnchor="middle">
              {a.colour} {ohmsText(a.ohms)}
            </text>
          ) : (
            <Link key={a.id} x={a.x} y={a.y1} isOpen={a.ohms === Infinity} />
          ),
        )}
        {d.names.map((n) => (
          <text
            key={n.text}
            x={n.end ? n.x - 18 : n.x + 8}
            y={n.end ? n.y + 5 : n.y - 9}
            textAnchor={n.end ? 'end' : 'start'}
          >
            {n.text}
          </text>
        ))}
        {d.points.map((p) => {
          const which = on(p.node);
          return which < 0 ? (
            <circle
              key={p.name}
              cx={p.x}
              cy={p.y}
              r={4}
              fill="var(--mui-palette-background-paper)"
              stroke="currentColor"
              strokeWidth={1.6}
            />
          ) : (
            <g key={p.name}>
              <circle cx={p.x} cy={p.y} r={13} fill="var(--mui-palette-primary-main)" />
              <text
                x={p.x}
                y={p.y + 5}
                textAnchor="middle"
                style={{ fill: 'var(--mui-palette-primary-contrastText)', fontWeight: 700 }}
              >
                {which === 0 ? 'A' : 'B'}
              </text>
            </g>
          );
        })}
      </Box>
    </Box>
  );
}

/** A resistor that stands between two rows; a sensing one with the stroke of what varies. */
function Upright({ part }: { part: DrawnPart }) {
  const y = (part.y1 + part.y2) / 2;
  const box = {
    x: part.x - half.across,
    y: y - half.along,
    width: 2 * half.across,
    height: 2 * half.along,
    fill: 'var(--mui-palette-background-paper)',
    stroke: 'currentColor',
    strokeWidth: 1.8,
  };
  return (
    <g>
      {part.kind === 'link' ? (
        <UprightLink x={part.x} y={y} isOpen={part.ohms === Infinity} />
      ) : part.kind === 'transmitter' ? (
        <circle cx={part.x} cy={y} r={half.along} fill={box.fill} stroke={box.stroke} strokeWidth={1.8} />
      ) : (
        <rect {...box} />
      )}
      {part.kind === 'transmitter' && (
        <path
          d={`M${part.x},${y - 9}V${y + 9}m-4,-5l4,5l4,-5`}
          fill="none"
          stroke="currentColor"
          strokeWidth={1.6}
        />
      )}
      {part.kind === 'sensing' && (
        <path
          d={`M${part.x - 17},${y + 15}h6L${part.x + 15},${y - 17}m-7,1l7,-1l-2,7`}
          fill="none"
          stroke="currentColor"
          strokeWidth={1.6}
        />
      )}
      <text x={part.x + 21} y={y - 2} style={{ fontWeight: 600 }}>
        {part.id}
      </text>
      {!Number.isNaN(part.ohms) && (
        <text x={part.x + 21} y={y + 14}>
          {part.kind === 'link' && part.ohms === 0 ? 'closed' : ohmsText(part.ohms)}
        </text>
      )}
    </g>
  );
}

/** The place under a terminal's screw: the lead is in it, or lifted. */
const Link = ({ x, y, isOpen }: { x: number; y: number; isOpen: boolean }) => (
  <g stroke="currentColor" strokeWidth={1.8} fill="none">
    <path
      d={isOpen ? `M${x - linkHalf},${y}L${x + 11},${y - 14}` : `M${x - linkHalf},${y}H${x + linkHalf}`}
    />
    <circle cx={x - linkHalf} cy={y} r={2.6} fill="currentColor" />
    <circle cx={x + linkHalf} cy={y} r={2.6} fill="currentColor" />
  </g>
);

/** A link that stands between two rows. */
const UprightLink = ({ x, y, isOpen }: { x: number; y: number; isOpen: boolean }) => (
  <g stroke="currentColor" strokeWidth={1.8}>
    {isOpen && (
      <path
        d={`M${x},${y - linkHalf}V${y + linkHalf}`}
        stroke="var(--mui-palette-background-default)"
        strokeWidth={4}
      />
    )}
    <path
      d={isOpen ? `M${x},${y + linkHalf}L${x - 12},${y - 12}` : `M${x},${y - linkHalf}V${y + linkHalf}`}
    />
    <circle cx={x} cy={y - linkHalf} r={2.6} fill="currentColor" />
    <circle cx={x} cy={y + linkHalf} r={2.6} fill="currentColor" />
  </g>
);
