import { limitFields } from '../settings/limits';
import type { WatchRule } from './rule';
import type { Ring, WatchState } from './watcher';

/**
 * How watching goes on under another rule: delays begin anew, what rings goes on ringing until a value
 * says that it is over by the new rule, and what the new rule does not watch any more is over at once.
 *
 * @returns the state to go on with, and what is over
 */
export function carryOver(
  state: WatchState,
  rule: WatchRule,
): { readonly state: WatchState; readonly over: readonly Ring[] } {
  const watches = (ring: Ring) =>
    ring.cause === 'limits'
      ? rule.limits[limitFields[ring.level < 0 ? ring.level + 2 : ring.level + 1]!] !== null
      : ring.cause === 'silent'
        ? rule.silentAfter !== null
        : rule[ring.cause] !== null;
  const ringing = state.ringing.filter(watches);
  const rings = (cause: Ring['cause']) => ringing.find((r) => r.cause === cause);
  // Active, and not beyond: the next value decides.
  const anew = (ring: Ring | undefined) => ({
    beyond: false,
    held: 0,
    active: ring !== undefined,
    began: ring?.began ?? 0,
    depth: 0,
  });
  const limits = rings('limits');
  return {
    state: {
      ...state,
      limits: limitFields.map((_, i) =>
        anew(limits && i === (limits.level < 0 ? limits.level + 2 : limits.level + 1) ? limits : undefined),
      ),
      rate: anew(rings('rate')),
      twin: anew(rings('twin')),
      gate: anew(undefined),
      ringing,
    },
    over: state.ringing.filter((r) => !watches(r)),
  };
}
