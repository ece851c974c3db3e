import { finite } from '../valid';

/** A crest of the record. */
export interface RecordPeak {
  /** ms since epoch */
  readonly at: number;
  /** m */
  readonly level: number;
}

/**
 * The crests that a mark may be of: the highest values of the record since the gauge was recharged, each the highest within
 * six hours of it, those nearest to the mark first.
 *
 * Source: common practice, no source.
 *
 * @param record ascending by time, levels in m; those that are not finite are left out
 * @param since ms: an earlier crest was wiped away; −Infinity where it was never recharged
 * @param mark level of the mark, m; RangeError for one that is not finite
 * @param most how many to offer
 * @example crestPeaks([{ at: 0, level: 1 }, { at: 1, level: 3 }, { at: 2, level: 2 }], 0, 3) // [{ at: 1, level: 3 }]
 */
export function crestPeaks(
  record: readonly RecordPeak[],
  since: number,
  mark: number,
  most = 3,
): RecordPeak[] {
  finite('mark', mark);
  const left = record
    .filter((p) => p.at >= since && Number.isFinite(p.level))
    .sort((a, b) => b.level - a.level);
  const peaks: RecordPeak[] = [];
  for (const p of left) {
    if (peaks.length >= 12) break;
    if (!peaks.some((q) => Math.abs(q.at - p.at) <= sixHours)) peaks.push(p);
  }
  return peaks.sort((a, b) => Math.abs(a.level - mark) - Math.abs(b.level - mark)).slice(0, most);
}

const sixHours = 6 * 3_600_000;
