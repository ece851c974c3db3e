import type { Arrivals } from '@/core/watch/watcher';

/** Values at stamps (ms), each arriving as it is stamped unless said otherwise. */
export const arrivalsAt = (
  at: readonly number[],
  value: readonly number[],
  more: Partial<Arrivals> = {},
): Arrivals => {
  const stamps = Float64Array.from(at);
  return {
    at: stamps,
    run: new Int32Array(stamps.length),
    value: Float64Array.from(value),
    arrived: stamps,
    gate: null,
    twin: null,
    ...more,
  };
};
