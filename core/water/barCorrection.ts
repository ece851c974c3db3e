import { visitHours } from '../visit/openMatter';
import { roundTo } from '../quantity/format';
import type { LevelReading } from './levelReading';

/** A correction of a wire-weight gauge from an instant on, m: elevation of the bar − what it reads. */
export interface BarState {
  readonly at: number;
  readonly correction: number;
  readonly reads: number;
  readonly elevation: NonNullable<LevelReading['elevation']>;
  /** ± m, of the reading of the bar. */
  readonly accuracy: number;
  /** The reading of the bar that says so. */
  readonly readingId: string;
  /** Set to it, and not only found so. */
  readonly wasSet: boolean;
}

/**
 * What readings of the check bar say of a gauge: as it was found, and what it was set to. Those without an elevation of
 * the bar say nothing.
 *
 * @param readings of any points and kinds, in any order
 * @param pointId the gauge
 * @returns ascending by time
 * @example barStates([], 'gauge') // []
 */
export function barStates(readings: readonly LevelReading[], pointId: string): BarState[] {
  return readings
    .flatMap((r): BarState[] => {
      const { read, elevation } = r;
      if (r.pointId !== pointId || read.kind !== 'bar' || !elevation) return [];
      const state = (at: number, reads: number, wasSet: boolean): BarState => ({
        at,
        reads,
        correction: roundTo(elevation.elevation - reads, 4),
        elevation,
        accuracy: r.accuracy,
        readingId: r.id,
        wasSet,
      });
      return [
        state(r.at, read.reads, false),
        ...(read.changed ? [state(read.changed.at, read.changed.reads, true)] : []),
      ];
    })
    .sort((a, b) => a.at - b.at || Number(a.wasSet) - Number(b.wasSet));
}

const visit = visitHours * 3_600_000;

/**
 * What holds for a reading of the water: the bar as it was found or set last before it, at the same visit; else as it was
 * found first after it, at the same visit. Readings before a change carry the old correction, after it the new.
 *
 * Source: common practice, no source (the bar is read at every visit, before the water).
 *
 * @param states ascending, of one gauge
 * @param at ms since epoch
 * @returns null where no check of the bar belongs to that visit
 */
export function barStateAt(states: readonly BarState[], at: number): BarState | null {
  const near = states.filter((s) => Math.abs(s.at - at) <= visit);
  // Read in the second in which it was set: before that, since it takes longer.
  return near.findLast((s) => (s.wasSet ? s.at < at : s.at <= at)) ?? near[0] ?? null;
}

/** What the checks before and after say of a reading of the water that has none of its own. */
export interface BarProposal {
  readonly correction: number;
  readonly how: 'pro-rated' | 'as left before' | 'as found after';
  readonly before: BarState | null;
  readonly after: BarState | null;
}

/**
 * The correction to propose for a reading of the water without a check of its own visit: from what the last check left to
 * what the next one found, by time; or from the one there is.
 *
 * @param states ascending, of one gauge
 * @param at ms since epoch
 * @returns m to a tenth of a millimetre; null where the bar was never read
 */
export function proposedCorrection(states: readonly BarState[], at: number): BarProposal | null {
  const before = states.findLast((s) => s.at <= at) ?? null;
  const after = states.find((s) => s.at > at) ?? null;
  if (!before && !after) return null;
  if (!before) return { correction: after!.correction, how: 'as found after', before, after };
  if (!after) return { correction: before.correction, how: 'as left before', before, after };
  const share = (at - before.at) / (after.at - before.at);
  return {
    correction: roundTo(before.correction + share * (after.correction - before.correction), 4),
    how: 'pro-rated',
    before,
    after,
  };
}
