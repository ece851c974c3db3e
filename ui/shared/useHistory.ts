'use client';

import { useCallback, useReducer } from 'react';
import { useKeys } from './useKeys';

export interface History<T> {
  readonly past: readonly T[];
  readonly now: T;
  readonly next: readonly T[];
}
export type HistoryStep<T> =
  /** `goesOn`: the same drag or key still; it is taken back together with what it goes on from. */
  | { readonly do: 'edit'; readonly to: (now: T) => T; readonly goesOn?: boolean }
  | { readonly do: 'undo' | 'redo' }
  | { readonly do: 'load'; readonly now: T };

/** Steps back that are kept. */
const kept = 200;

export function historyStep<T>(h: History<T>, s: HistoryStep<T>): History<T> {
  switch (s.do) {
    case 'edit': {
      const now = s.to(h.now);
      if (now === h.now) return h;
      return { past: s.goesOn ? h.past : [...h.past, h.now].slice(-kept), now, next: [] };
    }
    case 'undo': {
      const now = h.past.at(-1);
      return now === undefined ? h : { past: h.past.slice(0, -1), now, next: [h.now, ...h.next] };
    }
    case 'redo': {
      const [now, ...next] = h.next;
      return now === undefined ? h : { past: [...h.past, h.now], now, next };
    }
    case 'load':
      return { past: [], now: s.now, next: [] };
  }
}

/** Something that is edited, every step of it taken back and done again, by the keys of every program. */
export function useHistory<T>(initial: T) {
  const [history, dispatch] = useReducer(historyStep<T>, { past: [], now: initial, next: [] });
  // The same functions from one drawing to the next: what did not change need not be drawn anew.
  const undo = useCallback(() => dispatch({ do: 'undo' }), []);
  const redo = useCallback(() => dispatch({ do: 'redo' }), []);
  const load = useCallback((now: T) => dispatch({ do: 'load', now }), []);
  const edit = useCallback((to: (now: T) => T, goesOn = false) => dispatch({ do: 'edit', to, goesOn }), []);
  useKeys({ 'mod+z': undo, 'mod+shift+z': redo, 'mod+y': redo });
  return {
    now: history.now,
    load,
    edit,
    undo,
    redo,
    canUndo: history.past.length > 0,
    canRedo: history.next.length > 0,
  };
}
