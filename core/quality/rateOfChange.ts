import { angleDifference } from './angle';
import { flag, type Series } from './flag';

/**
 * Rate of change test: |x(n) − x(n−1)| over the time between them, above `perHour` is suspect (3).
 * The first value, and one after a missing one, is not evaluated (2).
 * Source: QARTOD manuals (US IOOS), rate of change test. There the limit may be a multiple of the
 * local standard deviation or a fixed one set by the operator; ours is fixed, since a technician can
 * say how fast a place may change and nobody can say it of a deviation.
 *
 * @param perHour base unit per hour, > 0
 */
export function rateOfChangeTest(
  { times, values }: Series,
  perHour: number,
  circular = false,
  into = new Uint8Array(values.length),
): Uint8Array {
  into.fill(flag.good);
  // Not divided by the time: two readings of one second may differ only by nothing.
  const perSecond = (perHour / 3600) * (1 + 1e-12);
  let before = NaN;
  let beforeAt = 0;
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!;
    const at = times[i]!;
    const change = circular ? Math.abs(angleDifference(v, before)) : Math.abs(v - before);
    const allowed = perSecond * (at - beforeAt);
    if (!(change <= allowed)) {
      if (change > allowed) into[i] = flag.suspect;
      else into[i] = v === v ? flag.notEvaluated : flag.missing;
    }
    before = v;
    beforeAt = at;
  }
  return into;
}
