'use client';

import { useState } from 'react';
import type { Support } from '@/core/discharge/curve';
import { useKeys } from '../shared/useKeys';

/** Supports of the curve against the stream, and with it. */
export interface Led {
  readonly forward: readonly Support[];
  readonly reverse: readonly Support[] | null;
}

/** A curve while it is led: each step can be undone, and done again. */
export function useLed(start: Led) {
  const [past, setPast] = useState<readonly Led[]>([]);
  const [now, setNow] = useState(start);
  const [future, setFuture] = useState<readonly Led[]>([]);
  /** @param isOneStep the same drag or key goes on: it is undone at once */
  const lead = (next: Led, isOneStep = false) => {
    if (!isOneStep) setPast([...past, now]);
    setNow(next);
    setFuture([]);
  };
  const undo = () => {
    const last = past.at(-1);
    if (!last) return;
    setPast(past.slice(0, -1));
    setFuture([now, ...future]);
    setNow(last);
  };
  const redo = () => {
    const [next, ...rest] = future;
    if (!next) return;
    setPast([...past, now]);
    setFuture(rest);
    setNow(next);
  };
  useKeys({ 'mod+z': undo, 'mod+shift+z': redo });
  return { led: now, lead, undo, redo, canUndo: past.length > 0, canRedo: future.length > 0 };
}
