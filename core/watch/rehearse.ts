import { inMilliseconds, type Milliseconds, type Seconds } from '../time';
import type { Span } from './hours';
import type { WatchRule } from './rule';
import { watcher, watchingNothing, type Arrivals, type Missed, type Ring, type WatchGround } from './watcher';

/** A ring of a rehearsal, and why it should not have rung, by what is known of the record today. */
export interface RehearsedRing extends Ring {
  readonly doubt: 'flagged' | 'off-line' | null;
}

/** What a rule would have made of a stretch of the record. */
export interface Rehearsal {
  readonly rings: readonly RehearsedRing[];
  /** Stretches beyond a limit in which nothing rang, deepest first; so many are kept. */
  readonly missed: readonly Missed[];
  readonly missedCount: number;
  /** A month of 30.44 days. */
  readonly ringsPerMonth: number;
  /** Share of the span in which anything rang, 0–1. */
  readonly share: number;
  /** Most rings within ten minutes. */
  readonly mostInTenMinutes: number;
  readonly readings: number;
}

/** Spans that are doubted today: flagged by a test or by hand, or off-line. */
export interface Doubted extends Span {
  readonly kind: 'flagged' | 'off-line';
}

const month = 30.44 * 86_400_000;
const mostMissed = 20;

/**
 * Plays a rule on the recorded past.
 *
 * @param arrivals of the span; where it is not known when a value arrived, its stamp
 * @param prime values before the span, which a rate begins with
 * @param span ms; the end is outside
 */
export function rehearse(
  rule: WatchRule,
  arrivals: Arrivals,
  ground: WatchGround,
  span: Span,
  doubted: readonly Doubted[] = [],
  prime: { readonly at: ArrayLike<number>; readonly value: ArrayLike<number> } = { at: [], value: [] },
): Rehearsal {
  const rings: Ring[] = [];
  const missed: Missed[] = [];
  const watch = watcher(
    rule,
    ground,
    watchingNothing(),
    (event) => event.kind === 'raised' && rings.push(event.ring),
    (stretch) => missed.push(stretch),
  );
  watch.prime(prime.at, prime.value);
  watch.take(arrivals);
  watch.finish(span.until);
  return {
    rings: rings.map((ring) => ({ ...ring, doubt: doubtOf(ring, doubted) })),
    missed: [...missed].sort((a, b) => b.depth - a.depth).slice(0, mostMissed),
    missedCount: missed.length,
    ringsPerMonth: ringsPerMonth(rings.length, span),
    share: ringing(rings, span),
    mostInTenMinutes: mostWithin(
      rings.map((r) => r.raised),
      600,
    ),
    readings: arrivals.at.length,
  };
}

const doubtOf = (ring: Ring, doubted: readonly Doubted[]): RehearsedRing['doubt'] => {
  if (ring.cause === 'silent') return null;
  const over = doubted.filter((d) => d.from <= ring.at && d.until >= ring.began);
  return over.some((d) => d.kind === 'off-line') ? 'off-line' : over.length > 0 ? 'flagged' : null;
};

/** @example ringsPerMonth(3, { from: 0, until: 7_889_400_000 }) // 1.00 */
export const ringsPerMonth = (rings: number, { from, until }: Span): number =>
  until > from ? (rings * month) / (until - from) : 0;

/** Share of a span in which anything rang; two that ring at once count once. */
function ringing(rings: readonly Ring[], { from, until }: Span): number {
  let sum = 0;
  let reached = from;
  for (const r of [...rings].sort((a, b) => a.raised - b.raised)) {
    const begin = Math.max(reached, r.raised);
    const end = Math.min(until, r.returned ?? until);
    if (end > begin) {
      sum += end - begin;
      reached = end;
    }
  }
  return until > from ? sum / (until - from) : 0;
}

/**
 * The largest number of instants within a span of time, wherever it begins.
 *
 * @param instants ms, in any order
 * @param span s; both ends belong to it
 * @example mostWithin([0, 100_000, 700_000, 1_200_000, 1_300_000], 600) // 3
 */
export function mostWithin(instants: readonly Milliseconds[], span: Seconds): number {
  const sorted = [...instants].sort((a, b) => a - b);
  let most = 0;
  let first = 0;
  sorted.forEach((at, i) => {
    while (at - sorted[first]! > inMilliseconds(span)) first++;
    most = Math.max(most, i - first + 1);
  });
  return most;
}

export type Load = 'acceptable' | 'manageable' | 'too many';

/**
 * What one person who answers alarms can bear: up to one in ten minutes on average is acceptable, up to two
 * manageable; more than ten within ten minutes is a flood. Source: EEMUA 191 and ISA-18.2 (from memory).
 *
 * @param perMonth rings in 30.44 days, ≥ 0, of all that one person watches
 * @param mostInTenMinutes ≥ 0
 * @example alarmLoad(3000, 2) // 'acceptable'
 */
export function alarmLoad(perMonth: number, mostInTenMinutes: number): Load {
  const perTenMinutes = perMonth / (30.44 * 144);
  if (perTenMinutes > 2 || mostInTenMinutes > 10) return 'too many';
  return perTenMinutes > 1 ? 'manageable' : 'acceptable';
}

/** Rings of two settings beside one another: those of both overlap in time. */
export function compareRings(
  a: readonly Ring[],
  b: readonly Ring[],
): { readonly both: number; readonly onlyA: number; readonly onlyB: number } {
  const overlaps = (x: Ring, y: Ring) =>
    x.cause === y.cause && x.began <= (y.overAt ?? Infinity) && y.began <= (x.overAt ?? Infinity);
  const onlyA = a.filter((x) => !b.some((y) => overlaps(x, y))).length;
  return { both: a.length - onlyA, onlyA, onlyB: b.filter((y) => !a.some((x) => overlaps(x, y))).length };
}
