import type { PlanContext } from '@/core/plan/context';
import type { LeadPlace } from '@/core/plan/plan';

/** Where everything of a plan's drawing lies, in its own units. */
export const row = 27;
export const head = 38;
const gap = 14;
export const width = { all: 760, device: 250, logger: 250 };
export const loggerX = width.all - width.logger;

export interface DrawnLead {
  readonly device: string;
  readonly colour: string;
  readonly signal: string;
  readonly y: number;
  /** Label of the terminal it comes to; null for none. */
  readonly terminal: string | null;
  /** The place it is put, as `placeKey` has it; null for none. */
  readonly put: string | null;
  readonly via: string | null;
}
export interface DrawnDevice {
  readonly id: string;
  readonly y: number;
  readonly height: number;
  readonly open: boolean;
  readonly leads: readonly DrawnLead[];
}
/** Where a lead can be put: a terminal, a splice, a screw of another sensor. */
export interface DrawnTerminal {
  readonly key: string;
  readonly place: LeadPlace;
  readonly label: string;
  readonly y: number;
}
export interface DrawnPort {
  readonly name: string;
  readonly y: number;
  readonly height: number;
  readonly terminals: readonly DrawnTerminal[];
}

/** Devices down the left, the logger's ports down the right; a device that is closed has all its leads at its head. */
export function layoutOf(
  c: PlanContext,
  isOpen: (id: string) => boolean,
): {
  readonly devices: readonly DrawnDevice[];
  readonly ports: readonly DrawnPort[];
  readonly height: number;
} {
  let y = 4;
  const devices = c.devices.map((d): DrawnDevice => {
    const open = isOpen(d.plan.id);
    const top = y;
    const leads = d.leads.map((l, i): DrawnLead => {
      const place = d.plan.landings[l.colour];
      return {
        device: d.plan.id,
        colour: l.colour,
        signal: l.signal,
        y: open ? top + head + i * row + row / 2 : top + head / 2,
        terminal: l.terminal?.terminal.label ?? null,
        put: place ? placeKey(place) : null,
        via: place?.at === 'host' ? place.screw : place?.at === 'splice' ? place.splice : null,
      };
    });
    const height = head + (open ? leads.length * row + 4 : 0);
    y += height + gap;
    return { id: d.plan.id, y: top, height, open, leads };
  });
  let p = 4;
  const box = (name: string, places: readonly (readonly [string, LeadPlace])[]): DrawnPort => {
    const top = p;
    const height = head + places.length * row + 4;
    p += height + gap;
    return {
      name,
      y: top,
      height,
      terminals: places.map(([label, place], i) => ({
        key: placeKey(place),
        place,
        label,
        y: top + head + i * row + row / 2,
      })),
    };
  };
  const ports = [
    ...(c.logger?.ports ?? []).map((port) =>
      box(
        port.name,
        port.terminals.map((t) => [t.label, { at: 'terminal', terminal: t.label }] as const),
      ),
    ),
    ...(c.plan.splices.length
      ? [
          box(
            'Splices of the cabinet',
            c.plan.splices.map((s) => [s.name, { at: 'splice', splice: s.name }] as const),
          ),
        ]
      : []),
    ...c.devices.flatMap((d) =>
      (d.sensor?.hosts ?? []).map((h) =>
        box(
          `${h.label} of ${d.plan.name}`,
          h.screws.map((s) => [s.mark, { at: 'host', device: d.plan.id, screw: s.mark }] as const),
        ),
      ),
    ),
  ];
  return { devices, ports, height: Math.max(y, p, 120) };
}

/** A place as one word, for the page to find it by. */
export const placeKey = (place: LeadPlace): string => {
  switch (place.at) {
    case 'terminal':
      return place.terminal;
    case 'splice':
      return `splice ${place.splice}`;
    case 'host':
      return `host ${place.device} ${place.screw}`;
  }
};
