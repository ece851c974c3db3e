'use client';

import type { KeyboardEvent } from 'react';
import type { PlanContext } from '@/core/plan/context';
import { loggerX, row, width, type DrawnTerminal } from './layout';

/** A place for leads: a terminal with what it does, a splice, a screw of another sensor. */
export function TerminalRow({
  drawn,
  context,
  lit,
  fits,
  tabbable,
  onKeyDown,
  onClick,
}: {
  drawn: DrawnTerminal;
  context: PlanContext;
  lit: boolean;
  /** Whether a lifted lead fits; null while none is lifted. */
  fits: boolean | null;
  tabbable: boolean;
  onKeyDown: (e: KeyboardEvent) => void;
  onClick: () => void;
}) {
  const { label, y, place, key } = drawn;
  const use = place.at === 'terminal' ? context.terminals.get(place.terminal) : undefined;
  const does =
    use?.terminal.abilities.map((a) => abilityWord[a.does] ?? a.does).join(', ') ??
    (place.at === 'splice'
      ? `to ${context.plan.splices.find((s) => s.name === place.splice)?.terminal ?? 'nothing yet'}`
      : 'screw');
  const leads = use?.leads ?? [];
  const holds = leads.map((l) => `${l.colour} of ${l.device.plan.name}`).join(' and ');
  return (
    <g
      role="button"
      data-terminal={key}
      tabIndex={tabbable ? 0 : -1}
      aria-label={`${place.at === 'host' ? 'Screw' : place.at === 'splice' ? 'Splice' : 'Terminal'} ${label}, ${does}${holds ? `, holds ${holds}` : ', free'}${fits ? ', fits' : ''}`}
      onKeyDown={onKeyDown}
      onClick={onClick}
      opacity={fits === false ? 0.4 : 1}
    >
      <rect
        className={`focus ${fits ? 'fits' : ''} ${lit ? 'lit' : ''}`}
        x={loggerX + 3}
        y={y - row / 2 + 1.5}
        width={width.logger - 6}
        height={row - 3}
        rx={2}
        fill="transparent"
      />
      <circle cx={loggerX + 12} cy={y} r={5} fill="none" stroke="currentColor" strokeWidth={1.4} />
      <path d={`M${loggerX + 8.6},${y} h6.8`} stroke="currentColor" strokeWidth={1.4} />
      <text x={loggerX + 26} y={y + 4.5} fontWeight={600}>
        {label}
      </text>
      <text x={loggerX + 86} y={y + 4.5} className="quiet">
        {does}
        {leads.length > 1 ? ` · ${leads.length} leads` : ''}
      </text>
    </g>
  );
}

const abilityWord: Readonly<Record<string, string>> = {
  supply: 'supply +',
  ground: 'ground',
  analog: 'volts',
  current: 'mA',
  'data+': 'data +',
  'data−': 'data −',
};
