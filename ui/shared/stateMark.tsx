import type { StoneState } from '@/core/trust/finding';

/** State as a shape: a full stone, an empty outline, a stone knocked askew. */
export function StateMark({ state, size = 18 }: { state: StoneState; size?: number }) {
  const colour = {
    sound: 'var(--mui-palette-secondary-main)',
    missing: 'var(--mui-palette-text-secondary)',
    displaced: 'var(--mui-palette-error-main)',
  }[state];
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" style={{ flexShrink: 0 }}>
      {state === 'sound' && <path d="M3 12 Q2 5 9 4 Q17 3 18 9 Q18 16 11 16 Q4 16 3 12Z" fill={colour} />}
      {state === 'missing' && (
        <path
          d="M3 12 Q2 5 9 4 Q17 3 18 9 Q18 16 11 16 Q4 16 3 12Z"
          fill="none"
          stroke={colour}
          strokeWidth="1.8"
          strokeDasharray="3 2.4"
        />
      )}
      {state === 'displaced' && (
        <g transform="rotate(-32 10 10) translate(2 -1)">
          <path d="M2 12 Q2 6 9 5 Q17 4 18 9 Q18 15 11 15 Q3 16 2 12Z" fill={colour} />
          <path
            d="M9 5 L8 10 L11 15"
            stroke="var(--mui-palette-background-paper)"
            strokeWidth="1.8"
            fill="none"
          />
        </g>
      )}
    </svg>
  );
}

export const stateWord: Readonly<Record<StoneState, string>> = {
  sound: 'sound',
  missing: 'never done',
  displaced: 'displaced',
};
