'use client';

import { useReducer } from 'react';
import type { LeadPlace, Plan, PlannedDevice } from '@/core/plan/plan';

interface History {
  readonly past: readonly Plan[];
  readonly now: Plan;
  readonly next: readonly Plan[];
}
type Step =
  | { readonly do: 'edit'; readonly to: (plan: Plan) => Plan }
  | { readonly do: 'undo' | 'redo' }
  | { readonly do: 'load'; readonly plan: Plan };

/** Steps back that are kept. */
const kept = 200;

function step(h: History, s: Step): History {
  switch (s.do) {
    case 'edit': {
      const now = s.to(h.now);
      return now === h.now ? h : { past: [...h.past, h.now].slice(-kept), now, next: [] };
    }
    case 'undo': {
      const now = h.past.at(-1);
      return now ? { past: h.past.slice(0, -1), now, next: [h.now, ...h.next] } : h;
    }
    case 'redo': {
      const [now, ...next] = h.next;
      return now ? { past: [...h.past, h.now], now, next } : h;
    }
    case 'load':
      return { past: [], now: s.plan, next: [] };
  }
}

/** A plan as it is edited, every step of it taken back and done again. */
export function usePlanHistory(initial: Plan) {
  const [history, dispatch] = useReducer(step, { past: [], now: initial, next: [] });
  const edit = (to: (plan: Plan) => Plan) => dispatch({ do: 'edit', to });
  return {
    plan: history.now,
    load: (plan: Plan) => dispatch({ do: 'load', plan }),
    canUndo: history.past.length > 0,
    canRedo: history.next.length > 0,
    undo: () => dispatch({ do: 'undo' }),
    redo: () => dispatch({ do: 'redo' }),
    edit,
    device: (id: string, change: Partial<PlannedDevice>) =>
      edit((plan) => ({
        ...plan,
        devices: plan.devices.map((d) => (d.id === id ? { ...d, ...change } : d)),
      })),
    /** Lands a lead; null takes it off. */
    land: (id: string, colour: string, place: LeadPlace | null) =>
      edit((plan) => ({
        ...plan,
        devices: plan.devices.map((d) => {
          if (d.id !== id) return d;
          const { [colour]: _, ...others } = d.landings;
          return { ...d, landings: place ? { ...others, [colour]: place } : others };
        }),
      })),
  };
}
export type PlanHistory = ReturnType<typeof usePlanHistory>;
