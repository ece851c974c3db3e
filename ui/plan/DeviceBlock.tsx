'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import type { PlanContext } from '@/core/plan/context';
import { leadHex, leadStripe } from '@/core/wiring/leadColour';
import { head, row, width, type DrawnDevice, type DrawnLead } from './layout';

/** The lead somebody has in the hand. */
export type Lifted = { readonly device: string; readonly colour: string } | null;

/** A planned sensor with its leads, each to be lifted. */
export function DeviceBlock({
  drawn,
  context,
  selected,
  lit,
  troubled,
  lifted,
  readOnly,
  onSelect,
  onLift,
  leadKeys,
}: {
  drawn: DrawnDevice;
  context: PlanContext;
  selected: boolean;
  lit: boolean;
  troubled: boolean;
  lifted: Lifted;
  readOnly: boolean;
  onSelect: () => void;
  onLift: (lead: DrawnLead, e: PointerEvent<SVGGElement>) => void;
  leadKeys: (lead: DrawnLead) => (e: KeyboardEvent) => void;
}) {
  const use = context.byId.get(drawn.id)!;
  const model = use.sensor?.name ?? use.board?.name ?? use.plan.profile.code;
  const address =
    use.plan.busId !== null
      ? `ID ${use.plan.busId}`
      : use.plan.busAddress !== null
        ? `@${use.plan.busAddress}`
        : '';
  return (
    <g>
      <rect
        className={`body ${selected ? 'chosen' : ''} ${lit ? 'lit' : ''}`}
        x={2}
        y={drawn.y}
        width={width.device - 2}
        height={drawn.height}
        rx={3}
      />
      <g
        role="button"
        tabIndex={0}
        aria-pressed={selected}
        aria-label={`${use.plan.name}, ${model}${troubled ? ', will not work as planned' : ''}`}
        onClick={onSelect}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') {
            e.preventDefault();
            onSelect();
          }
        }}
      >
        <rect
          className="focus"
          x={4}
          y={drawn.y + 2}
          width={width.device - 6}
          height={head - 4}
          rx={2}
          fill="transparent"
        />
        {troubled && <path d={`M12,${drawn.y + 26} l6,-12 l6,12 z`} fill="var(--mui-palette-error-main)" />}
        <text x={troubled ? 30 : 12} y={drawn.y + 17} fontWeight={600}>
          {short(use.plan.name, 26)} {address}
        </text>
        <text x={troubled ? 30 : 12} y={drawn.y + 32} className="quiet" fontSize={11.5}>
          {short(model, 36)}
        </text>
      </g>
      {drawn.open &&
        drawn.leads.map((l) => {
          const up = lifted?.device === l.device && lifted.colour === l.colour;
          return (
            <g
              key={l.colour}
              role="button"
              data-lead={`${l.device} ${l.colour}`}
              tabIndex={readOnly ? -1 : 0}
              aria-pressed={up}
              aria-label={`${l.colour} lead of ${use.plan.name}, ${l.signal}, ${l.via ? `through ${l.via}, ` : ''}${l.terminal ? `on ${l.terminal}` : 'open'}`}
              onPointerDown={(e) => onLift(l, e)}
              onKeyDown={leadKeys(l)}
            >
              <rect
                className="focus"
                x={6}
                y={l.y - row / 2 + 1.5}
                width={width.device - 8}
                height={row - 3}
                rx={2}
                fill={up ? 'var(--mui-palette-ground-skyWash)' : 'transparent'}
              />
              <text x={14} y={l.y + 4.5}>
                {l.colour}
              </text>
              <text x={96} y={l.y + 4.5} className="quiet">
                {l.signal}
                {l.via ? ` via ${l.via}` : ''}
              </text>
              <rect
                x={width.device - 32}
                y={l.y - 6}
                width={32}
                height={12}
                fill="var(--mui-palette-text-secondary)"
              />
              <rect x={width.device - 31} y={l.y - 5} width={31} height={10} fill={leadHex(l.colour)} />
              {leadStripe(l.colour) && (
                <rect
                  x={width.device - 22}
                  y={l.y - 5}
                  width={8}
                  height={10}
                  fill={leadStripe(l.colour) ?? undefined}
                />
              )}
            </g>
          );
        })}
    </g>
  );
}

const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
