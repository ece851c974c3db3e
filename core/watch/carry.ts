import { levelsOfLimits, type WatchRule } from './rule';
import { limitOfLevel } from './says';
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
      ? limitOfLevel(rule.limits, ring.level) !== null
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
      // What is far out is beyond the nearer limit of its side, too.
      limits: levelsOfLimits.map((level) =>
        anew(
          limits && Math.sign(level) === Math.sign(limits.level) && Math.abs(level) <= Math.abs(limits.level)
            ? limits
            : undefined,
        ),
      ),
      rate: anew(rings('rate')),
      twin: anew(rings('twin')),
      gate: anew(undefined),
      ringing,
    },
    over: state.ringing.filter((r) => !watches(r)),
  };
}
