import { finite } from '../valid';
import type { Milliseconds, Seconds } from '../time';

/**
 * Corrections over a record: what is added to a logged value at an instant. Logged values never
 * change; a correction is a dated layer with its reason, and a later layer can take it back.
 */
export type Correction =
  /**
   * From a check whose difference is taken out of the record: the whole offset from then on, until the
   * sensor it was made for is taken away (Infinity while it is in place).
   */
  | {
      readonly kind: 'adjustment';
      readonly from: Milliseconds;
      readonly until: Milliseconds;
      readonly offset: number;
    }
  /** One offset over a span. */
  | {
      readonly kind: 'step';
      readonly from: Milliseconds;
      readonly until: Milliseconds;
      readonly offset: number;
    }
  /** Pro-rated over a span, as drift between two checks. Source: USGS Techniques and Methods 1-D3 (from memory). */
  | {
      readonly kind: 'linear';
      readonly from: Milliseconds;
      readonly until: Milliseconds;
      readonly fromOffset: number;
      readonly untilOffset: number;
    }
  /** A share of the logged value over a span, %: what is wrong grows with the reading, as with a worn or fouled sensor. */
  | {
      readonly kind: 'percentage';
      readonly from: Milliseconds;
      readonly until: Milliseconds;
      readonly percent: number;
    };

/** What becomes of a logged value: gain · value + offset, base unit. */
export interface Affine {
  readonly gain: number;
  readonly offset: number;
}

/** @example correctedBy({ gain: 1.02, offset: -0.5 }, 10) // 9.7 */
export const correctedBy = ({ gain, offset }: Affine, value: number): number => gain * value + offset;

/** Whether it changes anything. */
export const changes = ({ gain, offset }: Affine): boolean => gain !== 1 || offset !== 0;

/**
 * What becomes of a value logged at `at` (ms since epoch): the newest adjustment that is in force, plus every span that
 * holds the instant. Ends belong to their span; where one span ends in the instant another begins, only the one that
 * begins applies: no reading is corrected for both. A percentage is one of the logged value, whatever is added beside it.
 * Source: USGS Techniques and Methods 1-D3 on offsets, pro-rating and percentages (from memory).
 *
 * @throws RangeError for an instant that is NaN
 * @example correctionAt([{ kind: 'linear', from: 0, until: 1000, fromOffset: 0, untilOffset: 0.4 }], 500) // { gain: 1, offset: 0.2 }
 */
export function correctionAt(corrections: readonly Correction[], at: Milliseconds): Affine {
  if (Number.isNaN(at)) throw new RangeError('the instant of a correction is NaN');
  let adjustment = 0;
  let adjustedFrom = -Infinity;
  let sum = 0;
  let percent = 0;
  for (const c of corrections) {
    if (at < c.from || at > c.until) continue;
    if (c.kind === 'adjustment') {
      if (at < c.until && c.from >= adjustedFrom) {
        adjustment = c.offset;
        adjustedFrom = c.from;
      }
    } else if (!endsWhereAnotherBegins(c, corrections, at)) {
      if (c.kind === 'step') sum += c.offset;
      else if (c.kind === 'percentage') percent += c.percent;
      else {
        const share = c.until > c.from ? (at - c.from) / (c.until - c.from) : 1;
        sum += c.fromOffset + share * (c.untilOffset - c.fromOffset);
      }
    }
  }
  return { gain: 1 + percent / 100, offset: adjustment + sum };
}

const endsWhereAnotherBegins = (c: Correction, all: readonly Correction[], at: number): boolean =>
  at === c.until &&
  c.from < at &&
  all.some((other) => other !== c && other.kind !== 'adjustment' && other.from === at);

/**
 * Instants at which the correction jumps or bends: between two of them it is a straight line. Ascending, ms.
 *
 * @example correctionEdges([{ kind: 'step', from: 0, until: 1000, offset: 0.4 }]) // [0, 1000]
 */
export function correctionEdges(corrections: readonly Correction[]): Milliseconds[] {
  const edges = new Set<number>();
  for (const c of corrections) {
    edges.add(c.from);
    if (c.until !== Infinity) edges.add(c.until);
  }
  return [...edges].sort((a, b) => a - b);
}

/** How fast a logger's clock was off between two comparisons. Stamps are the logger's own, ms; differences logger − true, s. */
export interface ClockDrift {
  readonly fromStamp: Milliseconds;
  readonly fromDifference: Seconds;
  readonly untilStamp: Milliseconds;
  readonly untilDifference: Seconds;
  /** The clock run it is the drift of: a clock set back gives later readings the same stamps. Null for any. */
  readonly run: number | null;
}

/**
 * The instant a stamp of a clock run means, when the clock ran off steadily between two comparisons:
 * the stamp less the difference interpolated at it. Outside the span the stamp is left as it is.
 *
 * @param run null where it is not known, as of an hour's rollup
 * @example driftedStamp([{ fromStamp: 0, fromDifference: 0, untilStamp: 1_000_000, untilDifference: 10, run: null }], 500_000) // 495000
 */
export function driftedStamp(
  drifts: readonly ClockDrift[],
  stamp: Milliseconds,
  run: number | null = null,
): Milliseconds {
  finite('stamp', stamp);
  for (const d of drifts) {
    if (stamp < d.fromStamp || stamp > d.untilStamp) continue;
    if (d.run !== null && run !== null && d.run !== run) continue;
    const share = d.untilStamp > d.fromStamp ? (stamp - d.fromStamp) / (d.untilStamp - d.fromStamp) : 1;
    return stamp - 1000 * (d.fromDifference + share * (d.untilDifference - d.fromDifference));
  }
  return stamp;
}

/**
 * The stamp a logger's clock showed at an instant: the way back from `driftedStamp`. Where two spans
 * meet and the clock was set between them, the earlier one answers.
 */
export function loggedStamp(drifts: readonly ClockDrift[], instant: Milliseconds): Milliseconds {
  finite('instant', instant);
  for (const d of drifts) {
    const from = d.fromStamp - 1000 * d.fromDifference;
    const until = d.untilStamp - 1000 * d.untilDifference;
    if (instant < from || instant > until) continue;
    const share = until > from ? (instant - from) / (until - from) : 1;
    return d.fromStamp + share * (d.untilStamp - d.fromStamp);
  }
  return instant;
}
