'use client';

import { leadHex, leadStripe } from '@/core/wiring/leadColour';

/** A lead as it runs: its colour with an outline, so that white and black are seen on any ground; the second colour dashed on it. */
export function Wire({
  colour,
  from,
  to,
  dim,
}: {
  colour: string;
  from: { x: number; y: number };
  to: { x: number; y: number };
  dim: boolean;
}) {
  const reach = Math.max(40, (to.x - from.x) * 0.45);
  const d = `M${from.x},${from.y} C${from.x + reach},${from.y} ${to.x - reach},${to.y} ${to.x},${to.y}`;
  const stripe = leadStripe(colour);
  return (
    <g fill="none" opacity={dim ? 0.28 : 1}>
      <path className="edge" d={d} strokeWidth={5} />
      <path d={d} stroke={leadHex(colour)} strokeWidth={3.4} />
      {stripe && <path d={d} stroke={stripe} strokeWidth={3.4} strokeDasharray="5 9" />}
    </g>
  );
}
