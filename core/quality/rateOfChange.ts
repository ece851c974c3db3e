import { angleDifference } from './angle';
import { flag, type Flag } from './flag';
import type { PointTest } from './qualityTest';

export interface RateLimits {
  /** Base unit per hour, > 0. */
  readonly perHour: number;
}

/**
 * Rate of change test: |x(n) − x(n−1)| over the time between them, above `perHour` is suspect (3).
 * The first value, and one after a missing one (NaN), is not evaluated (2).
 * Source: QARTOD manuals (US IOOS), rate of change test. There the limit may be a multiple of the
 * local standard deviation or a fixed one set by the operator; ours is fixed, since a technician can
 * say how fast a place may change and nobody can say it of a deviation.
 *
 * @param seconds time between the two
 * @param perHour base unit per hour, > 0
 * @example rateOfChangeTest(10, 13, 600, 12) // 3
 */
export function rateOfChangeTest(
  before: number,
  v: number,
  seconds: number,
  perHour: number,
  circular = false,
): Flag {
  if (!(perHour > 0)) throw new RangeError(`a rate of ${perHour} per hour is not above 0`);
  const change = Math.abs(circular ? angleDifference(v, before) : v - before);
  // Not divided by the time: two readings of one second may differ only by nothing.
  if (change > (perHour / 3600) * (1 + 1e-12) * seconds) return flag.suspect;
  if (!Number.isNaN(change)) return flag.good;
  return Number.isNaN(v) ? flag.missing : flag.notEvaluated;
}

export const rate: PointTest<RateLimits> = {
  kind: 'point',
  name: 'rate of change',
  says: 'faster is suspect',
  file: 'rateOfChange.ts',
  definition: 'faster than a fixed rate over the time between two readings: suspect',
  fields: { perHour: { label: 'per hour', is: 'perHour' } },
  start: ({ usual }, sparse) => (sparse || !usual ? null : { perHour: usual.perHour }),
  refuse: ({ perHour }) =>
    perHour > 0
      ? null
      : {
          value: perHour,
          detail: `A rate of ${perHour} per hour lets nothing pass.`,
          remedy: 'Use a rate above 0, or switch the test off.',
        },
  judge: (r, { perHour }, circular) => rateOfChangeTest(r.before, r.value, r.passed, perHour, circular),
  // A little less than the interval: stamps that come early make the same step faster.
  calm: ({ perHour }, interval) => ({ step: (perHour / 3600) * interval * 0.999 }),
};
