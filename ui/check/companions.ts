import type { EnteredValue } from '@/contract/requests';
import type { CheckView, LiveView } from '@/contract/checkViews';
import type { CheckPlan, PlannedCompanion } from '@/core/check/plan';
import { procedureOf } from '@/core/procedure/procedures';
import type { Companion } from '@/core/procedure/procedure';
import type { Unit } from '@/core/quantity/unit';
import { numberOf } from '../shared/numberOf';

/** A companion of a check: what it is, and what shows it here. */
export interface Beside {
  readonly key: string;
  readonly spec: Companion;
  readonly planned: PlannedCompanion;
}

/** What is read beside sensor and reference in a check, in the order of its procedure. */
export function besideOf({ procedure, companions }: CheckPlan): readonly Beside[] {
  const specs = procedureOf(procedure).companions;
  return companions.map((planned) => ({ key: planned.key, spec: specs[planned.key]!, planned }));
}

/** What the logger or a linked reference shows of it just now; null where it has to be typed. */
export const shownNow = (
  { key, spec, planned }: Beside,
  live: LiveView | null,
  isTyping: boolean,
): number | null =>
  planned.channel && !isTyping
    ? (live?.companions[key] ?? null)
    : spec.of === 'reference'
      ? (live?.instrument?.companions[key] ?? null)
      : null;

/** What a linked reference shows of what is read beside it, by key, as it is sent. */
export const offLinkOf = (
  beside: readonly Beside[],
  live: LiveView | null,
  isTyping: boolean,
): Record<string, EnteredValue> =>
  Object.fromEntries(
    beside.flatMap((b) => {
      const shown = b.spec.of === 'reference' ? shownNow(b, live, isTyping) : null;
      return shown === null ? [] : [[b.key, { value: shown, unit: b.spec.unit }] as const];
    }),
  );

/** What was typed of the companions, by key. */
export type TypedCompanions = Readonly<Record<string, { readonly value: string; readonly unit: Unit }>>;

/** Those that hold a number, as they are sent. */
export const enteredOf = (typed: TypedCompanions): Record<string, EnteredValue> =>
  Object.fromEntries(
    Object.entries(typed).flatMap(([key, { value, unit }]) =>
      value.trim() === '' ? [] : [[key, { value: numberOf(value), unit }]],
    ),
  );

/** What the site knows of them, as if it had been typed: whoever stands elsewhere types over it. */
export const knownHere = ({ ofSite, plan }: Pick<CheckView, 'ofSite' | 'plan'>): TypedCompanions =>
  Object.fromEntries(
    besideOf(plan).flatMap(({ key, spec }) => {
      const known = ofSite[key];
      return known === undefined ? [] : [[key, { value: String(known), unit: spec.unit }] as const];
    }),
  );
