import { limitFields, type Limits } from '../settings/limits';
import type { Level } from './rule';

/** A limit as a rung of the ladder: where it lies, 0 at the foot and 1 at the top. */
export interface Rung {
  readonly field: (typeof limitFields)[number];
  readonly limit: number;
  readonly at: number;
}

export interface Ladder {
  readonly rungs: readonly Rung[];
  /** Where a value lies, 0–1; what is beyond the outer bands stands at the end. */
  place(value: number): number;
}

/**
 * Limits drawn at one height whatever the quantity, so that channels compare at a glance: each band between two
 * limits is as high as any other, and values lie in it by their share of it.
 *
 * @param seen lowest and highest value of late, which give a band without a second limit its height
 * @returns null where there are no limits
 */
export function ladderOf(limits: Limits, seen: readonly [low: number, high: number]): Ladder | null {
  const set = limitFields.flatMap((field) => {
    const limit = limits[field];
    return limit === null ? [] : [{ field, limit }];
  });
  if (set.length === 0) return null;
  const low = set[0]!.limit;
  const high = set.at(-1)!.limit;
  // Of a single limit nothing says how high a band is but what was seen.
  const band =
    set.length > 1
      ? (high - low) / (set.length - 1)
      : Math.max(Math.abs(seen[0] - low), Math.abs(seen[1] - low), Math.abs(low) * 0.05, 1e-9);
  const bands = set.length + 1;
  const rungs = set.map((r, i) => ({ ...r, at: (i + 1) / bands }));
  // The band of what is wanted has room for what was seen where it has no limit on that side.
  const isHigh = (field: Rung['field']) => field === 'high' || field === 'farHigh';
  const foot = isHigh(set[0]!.field) ? Math.min(low - band, seen[0] - 0.1 * (low - seen[0])) : low - band;
  const top = isHigh(set.at(-1)!.field)
    ? high + band
    : Math.max(high + band, seen[1] + 0.1 * (seen[1] - high));
  const edges = [
    { value: foot, at: 0 },
    ...rungs.map((r) => ({ value: r.limit, at: r.at })),
    { value: top, at: 1 },
  ];
  return {
    rungs,
    place(value) {
      if (value <= edges[0]!.value) return 0;
      const above = edges.findIndex((e) => e.value >= value);
      if (above < 0) return 1;
      const [a, b] = [edges[above - 1]!, edges[above]!];
      return a.at + ((value - a.value) / (b.value - a.value)) * (b.at - a.at);
    },
  };
}

/**
 * Which zone a value is in, without deadband or delay: beyond a limit, not on it.
 *
 * @example zoneOf({ farLow: null, low: 35, high: 65, farHigh: 80 }, 72) // 1
 */
export function zoneOf({ farLow, low, high, farHigh }: Limits, value: number): Level {
  if (farHigh !== null && value > farHigh) return 2;
  if (farLow !== null && value < farLow) return -2;
  if (high !== null && value > high) return 1;
  return low !== null && value < low ? -1 : 0;
}
