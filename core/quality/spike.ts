import { angleDifference } from './angle';
import { flag, type Flag } from './flag';

export interface SpikeLimits {
  /** Distance from the middle of the neighbours, base unit, > 0. */
  readonly suspect: number;
  readonly fail: number;
}

/**
 * Spike test: the value against the middle of its two neighbours, |x(n) − (x(n−1) + x(n+1))/2|;
 * beyond `fail` 4, beyond `suspect` 3. The first and last value, and those beside a missing one (NaN),
 * are not evaluated (2). For directions the middle lies on the shorter arc.
 * Source: QARTOD manuals (US IOOS), spike test (SPK_REF, THRSHLD_LOW, THRSHLD_HIGH).
 */
export function spikeTest(
  before: number,
  v: number,
  after: number,
  { suspect, fail }: SpikeLimits,
  circular = false,
): Flag {
  if (!(suspect > 0 && fail >= suspect))
    throw new RangeError(`spike limits ${suspect}, ${fail} are not above 0 and ascending`);
  const away = circular
    ? Math.abs(angleDifference(v, before + angleDifference(after, before) / 2))
    : Math.abs(v - (before + after) / 2);
  if (away > fail) return flag.fail;
  if (away > suspect) return flag.suspect;
  if (!Number.isNaN(away)) return flag.good;
  return Number.isNaN(v) ? flag.missing : flag.notEvaluated;
}
