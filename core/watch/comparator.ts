import type { Milliseconds } from '../time';

/** One limit with its deadband and its two delays. */
export interface Comparator {
  readonly limit: number;
  /** 1: beyond is above the limit, −1: below it. */
  readonly side: 1 | -1;
  /** ≥ 0, in the unit of the limit. */
  readonly hysteresis: number;
  readonly onDelay: Milliseconds;
  readonly offDelay: Milliseconds;
}

/** How a comparator stands after the values it was shown. */
export interface CompareState {
  /** The last value was beyond the limit, or has not come back by the hysteresis since one was. */
  beyond: boolean;
  /** For how long that has been so, by the stamps of values. */
  held: Milliseconds;
  /** Beyond for the on-delay, and not yet back for the off-delay. */
  active: boolean;
  /** Stamp of the value it last went beyond with. */
  began: Milliseconds;
  /** Furthest beyond the limit since then, in its unit. */
  depth: number;
}

export const atRest = (): CompareState => ({ beyond: false, held: 0, active: false, began: 0, depth: 0 });

/**
 * Shows a comparator one value, and says whether it became active (1), is no longer (−1), or neither (0).
 * Delays are counted from value to value: it acts with the first one by which its delay is over. Beyond
 * is past the limit, not on it; back is on the hysteresis or inside.
 * Source: on-delay, off-delay and deadband as ISA-18.2 names them (from memory).
 *
 * @param at stamp of the value, ms
 * @param passed since the value before, ms: what counts towards a delay; 0 after a hole in the record
 */
export function compare(
  c: Comparator,
  s: CompareState,
  at: Milliseconds,
  passed: Milliseconds,
  value: number,
): -1 | 0 | 1 {
  const over = c.side * (value - c.limit);
  // 0.8 is back by 0.2 from 1, though the difference of the two in binary is a little less.
  const rounding = 1e-9 * Math.max(1, Math.abs(c.limit));
  if (s.beyond ? over <= rounding - c.hysteresis : over > 0) {
    s.beyond = !s.beyond;
    s.held = 0;
    if (s.beyond && !s.active) {
      s.began = at;
      s.depth = over;
    }
  } else s.held += passed;
  if (s.beyond) {
    if (over > s.depth) s.depth = over;
    if (!s.active && s.held >= c.onDelay) {
      s.active = true;
      return 1;
    }
  } else if (s.active && s.held >= c.offDelay) {
    s.active = false;
    return -1;
  }
  return 0;
}
