'use client';

import type { LeadPlace, Plan, PlannedDevice } from '@/core/plan/plan';
import { useHistory } from '../shared/useHistory';

/** A plan as it is edited, every step of it taken back and done again. */
export function usePlanHistory(initial: Plan) {
  const { now, edit, ...history } = useHistory(initial);
  return {
    ...history,
    plan: now,
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
