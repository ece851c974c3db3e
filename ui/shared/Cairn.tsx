'use client';

import PageLink from './PageLink';
import type { Cairn as CairnView } from '@/contract/views';
import { stoneNames, type StoneName, type StoneState } from '@/core/trust/finding';
import { stateWord } from './stateMark';

/** One stone for each hop group, the first at the bottom. Our own drawing. */
const stones: Readonly<Record<StoneName, { y: number; path: string; shift: number }>> = {
  'power and link': {
    y: 80,
    shift: 16,
    path: 'M-36 0 Q-38 -13 -20 -15 Q4 -18 24 -15 Q38 -12 36 -2 Q34 6 16 7 Q-14 9 -28 6 Q-36 4 -36 0Z',
  },
  wiring: {
    y: 61,
    shift: -15,
    path: 'M-29 0 Q-30 -11 -12 -13 Q10 -15 24 -11 Q31 -8 28 0 Q25 6 8 7 Q-16 8 -24 5 Q-29 3 -29 0Z',
  },
  settings: {
    y: 44,
    shift: 14,
    path: 'M-22 0 Q-23 -10 -8 -12 Q10 -13 19 -9 Q25 -5 21 1 Q16 6 2 6 Q-14 7 -19 4 Q-22 2 -22 0Z',
  },
  reference: {
    y: 29,
    shift: -13,
    path: 'M-16 0 Q-17 -9 -4 -11 Q9 -12 14 -7 Q18 -3 14 2 Q8 6 -2 5 Q-12 6 -16 0Z',
  },
  record: { y: 14, shift: 11, path: 'M-10 -1 Q-10 -9 0 -10 Q9 -10 10 -3 Q10 4 1 4 Q-9 5 -10 -1Z' },
};

const fills: Readonly<Record<StoneState, string>> = {
  sound: 'var(--mui-palette-secondary-main)',
  missing: 'transparent',
  displaced: 'var(--mui-palette-error-main)',
};

/** A station's cairn: sound stones stand, missing ones are outlines, displaced ones have slid and cracked. */
export function Cairn({
  cairn,
  size = 64,
  href,
}: {
  cairn: CairnView;
  size?: number;
  href?: (stone: StoneName) => string;
}) {
  const says = stoneNames.map((s) => `${s} ${stateWord[cairn[s]]}`).join(', ');
  return (
    <svg
      width={size}
      height={size * 0.95}
      viewBox="-51 0 102 92"
      role={href ? 'group' : 'img'}
      aria-label={`Cairn: ${says}`}
      style={{ flexShrink: 0 }}
    >
      <path d="M-48 88 H48" stroke="var(--mui-palette-divider)" strokeWidth="2" />
      {stoneNames.map((name) => {
        const state = cairn[name];
        const { y, path, shift } = stones[name];
        const askew = state === 'displaced' ? `translate(${shift} 0) rotate(${shift > 0 ? 9 : -9})` : '';
        const drawn = (
          <g transform={`translate(0 ${y}) ${askew}`}>
            <path
              d={path}
              fill={fills[state]}
              stroke={
                state === 'missing'
                  ? 'var(--mui-palette-text-secondary)'
                  : 'var(--mui-palette-background-paper)'
              }
              strokeWidth={state === 'missing' ? 1.8 : 1}
              strokeDasharray={state === 'missing' ? '4 3' : undefined}
              pointerEvents="all"
            />
            {state === 'displaced' && (
              <path
                d="M-2 -12 L-5 -4 L1 0 L-3 7"
                stroke="var(--mui-palette-background-paper)"
                strokeWidth="2"
                fill="none"
              />
            )}
            <title>{`${name}: ${stateWord[state]}`}</title>
          </g>
        );
        return href ? (
          <PageLink key={name} href={href(name)} aria-label={`${name}: ${stateWord[state]}`}>
            {drawn}
          </PageLink>
        ) : (
          <g key={name}>{drawn}</g>
        );
      })}
    </svg>
  );
}
