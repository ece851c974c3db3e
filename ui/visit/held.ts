'use client';

import { useMemo } from 'react';
import { isUnit, type Unit } from '@/core/quantity/unit';
import { visitHours } from '@/core/visit/openMatter';
import { useDraft } from '../outbox/useDraft';
import { newId } from '../shared/api';
import { nowMs, nowText } from '../shared/deviceClock';
import { usePerson } from '../shared/person';

/** A reading held at the sensor, on its way to the screen where it is used. */
export interface Held {
  readonly id: string;
  readonly value: number;
  readonly unit: Unit;
  /** What was read, in the person's words. */
  readonly what: string;
  readonly at: string;
}

const isHeld = (h: Partial<Held>): h is Held =>
  typeof h.id === 'string' && Number.isFinite(h.value) && isUnit(h.unit ?? '') && typeof h.at === 'string';

/** What is held, as it was kept; what is of another visit, or cannot be read, is left out. */
export function heldFrom(text: string, now: number): Held[] {
  try {
    const kept: unknown = JSON.parse(text || '[]');
    return (Array.isArray(kept) ? (kept as Partial<Held>[]) : [])
      .filter(isHeld)
      .filter((h) => now - Date.parse(h.at) < visitHours * 3_600_000);
  } catch {
    return [];
  }
}

/** Readings that the person holds at a station, newest first; kept with every change, as drafts are. */
export function useHeld(stationId: string) {
  const person = usePerson();
  const [text, setText] = useDraft(person.id, `held ${stationId}`);
  const held = useMemo(() => heldFrom(text, nowMs()), [text]);
  const keep = (next: readonly Held[]) => setText(next.length > 0 ? JSON.stringify(next) : '');
  return {
    held,
    hold(reading: Pick<Held, 'value' | 'unit' | 'what'>): Held {
      const one = { ...reading, id: newId(), at: nowText() };
      keep([one, ...held].slice(0, 20));
      return one;
    },
    letGo: (id: string) => keep(held.filter((h) => h.id !== id)),
  };
}
