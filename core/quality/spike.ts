import { angleDifference } from './angle';
import { flag, type Flag } from './flag';
import type { PointTest } from './qualityTest';

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
 * @example spikeTest(10, 14, 10, { suspect: 2, fail: 3.5 }) // 4
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

export const spike: PointTest<SpikeLimits> = {
  kind: 'point',
  name: 'spike',
  says: 'away from the middle of its neighbours',
  file: 'spike.ts',
  definition:
    'away from the middle of the two neighbours, on the circle for directions; not across a gap: suspect, fail',
  fields: {
    suspect: { label: 'suspect above', is: 'difference' },
    fail: { label: 'fails above', is: 'difference' },
  },
  start: ({ usual }, sparse) => (sparse || !usual ? null : usual.spike),
  refuse: ({ suspect, fail }) =>
    suspect > 0 && fail >= suspect
      ? null
      : {
          value: suspect,
          detail: `A spike is suspect from ${suspect} and failed from ${fail}.`,
          remedy: 'Both above 0, and suspect not above fail.',
        },
  judge: (r, limits, circular) => spikeTest(r.nearBefore, r.value, r.nearAfter, limits, circular),
  // Where two steps are below the limit, so is the distance from the middle of the neighbours.
  calm: ({ suspect }) => ({ step: suspect }),
};
