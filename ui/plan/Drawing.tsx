'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { LeadUse, PlanContext } from '@/core/plan/context';
import { homeOf } from '@/core/plan/fit';
import type { LeadPlace, Plan } from '@/core/plan/plan';
import { DeviceBlock, type Lifted } from './DeviceBlock';
import { layoutOf, loggerX, width, type DrawnLead } from './layout';
import { TerminalRow } from './TerminalRow';
import { Wire } from './Wire';

/** What to light up: what a finding is about. */
export interface Lit {
  readonly devices: readonly string[];
  readonly terminals: readonly string[];
}
const none: Lit = { devices: [], terminals: [] };

/**
 * The plan as a drawing: leads by their colours from sensors on the left to terminals on the right. A lead is
 * landed by dragging it, by tapping it and then a terminal, or by keyboard: Enter lifts it, arrows choose,
 * Enter lands, Escape puts it back, Delete takes it off.
 */
export function Drawing({
  plan,
  context,
  selected,
  lit = none,
  troubled,
  readOnly = false,
  allOpen = false,
  onSelect,
  onLand,
}: {
  plan: Plan;
  context: PlanContext;
  selected: string | null;
  lit?: Lit;
  /** Devices with something that will not work. */
  troubled: ReadonlySet<string>;
  readOnly?: boolean;
  /** Every sensor with its leads, for paper. */
  allOpen?: boolean;
  onSelect: (device: string) => void;
  onLand: (device: string, colour: string, place: LeadPlace | null) => void;
}) {
  const [lifted, setLifted] = useState<Lifted>(null);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const [spoken, setSpoken] = useState('');
  const svg = useRef<SVGSVGElement>(null);
  const few = allOpen || plan.devices.length <= 7;
  const layout = useMemo(
    () => layoutOf(context, (id) => few || id === selected || id === lifted?.device),
    [context, few, selected, lifted],
  );
  const places = new Map(layout.ports.flatMap((p) => p.terminals.map((t) => [t.key, t] as const)));
  const labels = [...places.keys()];
  const lead = lifted && context.byId.get(lifted.device)?.leads.find((l) => l.colour === lifted.colour);
  const fits = (label: string): boolean => {
    const place = places.get(label)?.place;
    return lead && place ? mayLie(context, lead, place) : false;
  };

  const lift = (l: DrawnLead) => {
    if (readOnly) return;
    setLifted({ device: l.device, colour: l.colour });
    setSpoken(`${l.colour} lead, ${l.signal}, lifted. Choose a terminal.`);
    onSelect(l.device);
  };
  const put = () => {
    setLifted(null);
    setAt(null);
  };
  const landOn = (label: string) => {
    const there = places.get(label);
    if (!lifted || !there) return;
    onLand(lifted.device, lifted.colour, there.place);
    setSpoken(
      `${lifted.colour} lead landed on ${there.label}${fits(label) ? '' : ', which is of another kind'}.`,
    );
    put();
  };
  const point = (e: PointerEvent) => {
    const m = svg.current!.getScreenCTM()!.inverse();
    return { x: e.clientX * m.a + m.e, y: e.clientY * m.d + m.f };
  };
  const focusTerminal = (label: string | undefined) =>
    svg.current?.querySelector<SVGGElement>(`[data-terminal="${CSS.escape(label ?? '')}"]`)?.focus();
  const focusLead = (of: Lifted) =>
    svg.current
      ?.querySelector<SVGGElement>(`[data-lead="${CSS.escape(`${of?.device} ${of?.colour}`)}"]`)
      ?.focus();

  const leadKeys = (l: DrawnLead) => (e: KeyboardEvent) => {
    if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      lift(l);
      const use = context.byId.get(l.device)?.leads.find((x) => x.colour === l.colour);
      const first =
        l.terminal ?? labels.find((x) => use && mayLie(context, use, places.get(x)!.place)) ?? labels[0];
      // After the drawing shows it lifted.
      setTimeout(() => focusTerminal(first));
    } else if ((e.key === 'Delete' || e.key === 'Backspace') && l.put && !readOnly) {
      e.preventDefault();
      onLand(l.device, l.colour, null);
      setSpoken(`${l.colour} lead taken off.`);
    }
  };
  const terminalKeys = (label: string) => (e: KeyboardEvent) => {
    const i = labels.indexOf(label);
    const move = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (move !== undefined) {
      e.preventDefault();
      focusTerminal(labels[(i + move + labels.length) % labels.length]);
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      const from = lifted;
      landOn(label);
      setTimeout(() => focusLead(from));
    } else if (e.key === 'Escape' && lifted) {
      e.preventDefault();
      const from = lifted;
      put();
      setSpoken('Put back.');
      setTimeout(() => focusLead(from));
    }
  };

  const drag = {
    onPointerMove: (e: PointerEvent) => lifted && setAt(point(e)),
    onPointerCancel: () => setAt(null),
    onPointerUp: (e: PointerEvent) => {
      if (!lifted || !at) return;
      const under = document
        .elementsFromPoint(e.clientX, e.clientY)
        .map((x) => x.closest('[data-terminal]'))
        .find((x) => x !== null);
      const label = under?.getAttribute('data-terminal');
      if (label) landOn(label);
      else setAt(null);
    },
  };

  return (
    <Box sx={{ overflowX: 'auto', border: 1, borderColor: 'divider', bgcolor: 'background.paper' }}>
      <Box
        component="svg"
        ref={svg}
        viewBox={`0 0 ${width.all} ${layout.height}`}
        role="group"
        aria-label="Terminal plan"
        {...drag}
        sx={{
          display: 'block',
          width: '100%',
          minWidth: 620,
          touchAction: lifted ? 'none' : 'pan-y',
          userSelect: 'none',
          fontSize: 13,
          '& text': { fill: 'var(--mui-palette-text-primary)' },
          '& .quiet': { fill: 'var(--mui-palette-text-secondary)' },
          '& .body': { fill: 'var(--mui-palette-background-default)', stroke: 'var(--mui-palette-divider)' },
          '& .edge': { stroke: 'var(--mui-palette-text-secondary)' },
          '& .chosen': { stroke: 'var(--mui-palette-primary-main)', strokeWidth: 2.5 },
          '& .lit': { stroke: 'var(--mui-palette-error-main)', strokeWidth: 3 },
          '& [role=button]': { cursor: readOnly ? 'default' : 'pointer', outline: 'none' },
          '& [role=button]:focus-visible .focus': {
            stroke: 'var(--mui-palette-primary-main)',
            strokeWidth: 3,
          },
          // A finger on a lead drags it; anywhere else it scrolls the page.
          '& [data-lead] *': { touchAction: 'none' },
          '& .fits': { fill: 'var(--mui-palette-ground-lichenWash)' },
        }}
      >
        {layout.ports.map((p) => (
          <g key={p.name}>
            <rect className="body" x={loggerX} y={p.y} width={width.logger} height={p.height} rx={3} />
            <text x={loggerX + 12} y={p.y + 21} fontWeight={600}>
              {p.name}
            </text>
            {p.terminals.map((t) => (
              <TerminalRow
                key={t.key}
                drawn={t}
                context={context}
                lit={t.place.at === 'terminal' && lit.terminals.includes(t.label)}
                fits={lead ? fits(t.key) : null}
                tabbable={lifted !== null}
                onKeyDown={terminalKeys(t.key)}
                onClick={() => lifted && landOn(t.key)}
              />
            ))}
          </g>
        ))}
        {layout.devices.map((d) => (
          <DeviceBlock
            key={d.id}
            drawn={d}
            context={context}
            selected={d.id === selected}
            lit={lit.devices.includes(d.id)}
            troubled={troubled.has(d.id)}
            lifted={lifted}
            readOnly={readOnly}
            onSelect={() => onSelect(d.id)}
            onLift={(l, e) => {
              lift(l);
              e.currentTarget.setPointerCapture?.(e.pointerId);
            }}
            leadKeys={leadKeys}
          />
        ))}
        <g pointerEvents="none">
          {layout.devices.flatMap((d) =>
            d.leads.flatMap((l) => {
              const y = l.put === null ? undefined : places.get(l.put)?.y;
              if (y === undefined) return [];
              const dim = selected !== null && selected !== d.id && !lit.devices.includes(d.id);
              return (
                <Wire
                  key={`${d.id} ${l.colour}`}
                  colour={l.colour}
                  from={{ x: width.device, y: l.y }}
                  to={{ x: loggerX, y }}
                  dim={dim}
                />
              );
            }),
          )}
          {lifted && at && (
            <Wire
              colour={lifted.colour}
              from={{
                x: width.device,
                y:
                  layout.devices
                    .find((d) => d.id === lifted.device)
                    ?.leads.find((l) => l.colour === lifted.colour)?.y ?? at.y,
              }}
              to={at}
              dim={false}
            />
          )}
        </g>
      </Box>
      <Box component="p" role="status" sx={{ m: 0, px: 1.5, minHeight: 24, fontSize: 13 }}>
        {spoken ||
          (readOnly
            ? ''
            : 'Drag a lead to a terminal, or tap one and then the other. Keys: Enter, arrows, Escape, Delete.')}
      </Box>
    </Box>
  );
}

/** Whether a lead is at home at a place; a spare one follows what is put on it. */
function mayLie(c: PlanContext, lead: LeadUse, place: LeadPlace): boolean {
  const { kind } = lead.device;
  if (!kind) return false;
  switch (place.at) {
    case 'terminal': {
      const terminal = c.terminals.get(place.terminal)?.terminal;
      return (
        terminal !== undefined && (lead.signal === 'spare' || homeOf(terminal, kind, lead.signal) !== null)
      );
    }
    case 'splice':
      return true;
    case 'host': {
      const host = c.byId.get(place.device);
      const label = lead.device.sensor?.needsHost;
      return host !== lead.device && (host?.sensor?.hosts.some((h) => h.label === label) ?? false);
    }
  }
}
