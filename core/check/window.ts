import { positive } from '../valid';
import type { Settling } from './settling';
import type { TimedValue } from './timedValue';
import { mean, standardDeviation } from './uncertainty';

/** How much of its window has to have been watched for an average of it. Our own choice, as is the number of readings. */
const watchedShare = 0.7;
const fewest = 4;

/**
 * The mean of what was read over a window that ends now, which need not stand still; still watching until most of it was
 * seen.
 *
 * @param watched on a line, ascending, base unit and s
 * @param window s, > 0
 * @param now s
 * @example averageOver([0, 10, 20, 30].map((t) => ({ t, value: t < 15 ? 1 : 2 })), 31, 30).value // 1.5
 */
export function averageOver(
  watched: readonly TimedValue[],
  window: number,
  now: number,
): { readonly value: number; readonly settling: Settling } {
  positive('window', window);
  const within = watched.filter((r) => r.t > now - window && r.t <= now + 1);
  const span = within.length > 0 ? within.at(-1)!.t - within[0]!.t : 0;
  if (within.length < fewest || span < watchedShare * window)
    return { value: Number.NaN, settling: { state: 'watching', watched: span, window } };
  const values = within.map((r) => r.value);
  return {
    value: mean(values),
    settling: { state: 'averaged', window, n: values.length, scatter: standardDeviation(values) },
  };
}
