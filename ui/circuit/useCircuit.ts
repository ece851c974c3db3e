'use client';

import { useMemo, useState } from 'react';
import { circuitOf } from '@/contract/bench';
import type { MeterRange } from '@/core/circuit/meter';
import type { OwnCircuit } from '@/core/circuit/own';
import { ownTemplates } from '@/core/circuit/ownTemplates';
import { useDraft } from '../outbox/useDraft';
import { newId } from '../shared/api';

/** What a meter showed between two points of it. */
export interface OwnReading {
  readonly from: string;
  readonly to: string;
  readonly ohms: number;
  readonly range: MeterRange;
}
/** The circuit in hand: which one, which revision it was changed from, what was read on it. */
export interface Drawn {
  readonly id: string;
  readonly from: number;
  readonly circuit: OwnCircuit;
  readonly readings: readonly OwnReading[];
}

const begin = (): Drawn => ({ id: newId(), from: 0, circuit: ownTemplates[1]!, readings: [] });

function drawnOf(text: string): Drawn | null {
  if (text === '') return null;
  try {
    const { id, from, circuit, readings } = JSON.parse(text) as Drawn;
    const read = circuitOf(JSON.stringify(circuit));
    return read && Number.isInteger(from) && Array.isArray(readings)
      ? { id, from, circuit: read, readings }
      : null;
  } catch {
    return null;
  }
}

/** The circuit in hand, kept on the device with every key; each change can be taken back. */
export function useCircuit(personId: string) {
  const [draft, setDraft] = useDraft(personId, 'circuit');
  const [first] = useState(begin);
  const drawn = useMemo(() => drawnOf(draft) ?? first, [draft, first]);
  const [past, setPast] = useState<readonly { readonly drawn: Drawn; readonly what: string }[]>([]);
  const put = (next: Drawn) => setDraft(JSON.stringify(next));
  return {
    drawn,
    /** @param what changes of one thing after the other are taken back together: "ohms 3" */
    change(next: Partial<OwnCircuit>, what: string) {
      if (past.at(-1)?.what !== what) setPast((all) => [...all.slice(-49), { drawn, what }]);
      put({ ...drawn, circuit: { ...drawn.circuit, ...next } });
    },
    /** Another circuit, or the same one saved. */
    open(next: Drawn, what: string) {
      setPast((all) => [...all.slice(-49), { drawn, what }]);
      put(next);
    },
    saved: (from: number) => put({ ...drawn, from }),
    read: (readings: readonly OwnReading[]) => put({ ...drawn, readings }),
    canTakeBack: past.length > 0,
    takeBack() {
      const last = past.at(-1);
      if (!last) return;
      // What was saved meanwhile stays saved.
      put(last.drawn.id === drawn.id ? { ...last.drawn, from: drawn.from } : last.drawn);
      setPast((all) => all.slice(0, -1));
    },
  };
}
export type CircuitInHand = ReturnType<typeof useCircuit>;
