import { finite, positive } from '../valid';

/** A gauging as a rating by level takes it. */
export interface RatedGauging {
  /** m above the station's zero. */
  readonly level: number;
  /** m³/s, > 0 */
  readonly discharge: number;
}

/** Discharge by level alone: Q = a · (h − h₀)^b. */
export interface PowerRating {
  readonly a: number;
  readonly b: number;
  /** Level at which nothing flows any more, m. */
  readonly zero: number;
  /** Standard deviation of the residuals, share of the discharge; null for as many gaugings as unknowns. */
  readonly scatter: number | null;
  /** ln(gauged ÷ rated) of each gauging. */
  readonly residuals: readonly number[];
}

/**
 * A power law through gaugings, in logarithms; the level of no flow is known, or found with it.
 *
 * Source: ISO 1100-2 / ISO 18320 (stage–discharge relation), least squares in logarithms (from memory).
 *
 * @param gaugings three or more with discharges above 0, at three levels or more; RangeError otherwise
 * @param zero m, below every gauging; null where it is to be found within `reach` below the lowest one
 * @param reach m, > 0
 */
export function fitPowerLaw(gaugings: readonly RatedGauging[], zero: number | null, reach = 2): PowerRating {
  const least = zero === null ? 4 : 3;
  if (new Set(gaugings.map((g) => g.level)).size < least)
    throw new RangeError(`a rating needs gaugings at ${least} levels or more`);
  for (const g of gaugings) positive('discharge', g.discharge);
  const lowest = Math.min(...gaugings.map((g) => finite('level', g.level)));
  if (zero !== null) {
    if (!(zero < lowest))
      throw new RangeError(`water stood at ${lowest} m and no flow would begin at ${zero} m`);
    return powerLaw(gaugings, zero);
  }
  const [from, until] = [lowest - positive('reach', reach), lowest - 1e-3];
  const badness = (z: number) => powerLaw(gaugings, z).residuals.reduce((s, r) => s + r * r, 0);
  return powerLaw(gaugings, lowestOf(badness, from, until));
}

function powerLaw(gaugings: readonly RatedGauging[], zero: number): PowerRating {
  const xs = gaugings.map((g) => Math.log(g.level - zero));
  const ys = gaugings.map((g) => Math.log(g.discharge));
  const n = xs.length;
  const [mx, my] = [xs.reduce((s, x) => s + x, 0) / n, ys.reduce((s, y) => s + y, 0) / n];
  const b =
    xs.reduce((s, x, i) => s + (x - mx) * (ys[i]! - my), 0) / xs.reduce((s, x) => s + (x - mx) ** 2, 0);
  const ln = my - b * mx;
  const residuals = ys.map((y, i) => y - ln - b * xs[i]!);
  const left = n - 3;
  return {
    a: Math.exp(ln),
    b,
    zero,
    residuals,
    scatter: left > 0 ? Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / left) : null,
  };
}

/** Where a function of one valley is lowest, by a grid and the golden section. */
function lowestOf(of: (x: number) => number, from: number, until: number): number {
  const steps = 200;
  const at = (i: number) => from + ((until - from) * i) / steps;
  let best = 0;
  for (let i = 1; i <= steps; i++) if (of(at(i)) < of(at(best))) best = i;
  let [a, b] = [at(Math.max(0, best - 1)), at(Math.min(steps, best + 1))];
  const golden = (Math.sqrt(5) - 1) / 2;
  while (b - a > 1e-7) {
    const [c, d] = [b - golden * (b - a), a + golden * (b - a)];
    if (of(c) < of(d)) b = d;
    else a = c;
  }
  return (a + b) / 2;
}

/**
 * Discharge by a rating, m³/s; 0 at and below its level of no flow.
 *
 * @param level m, finite
 */
export const ratedDischarge = (
  { a, b, zero }: Omit<PowerRating, 'scatter' | 'residuals'>,
  level: number,
): number => (level <= zero ? 0 : a * (finite('level', level) - zero) ** b);

/**
 * The shift that brings a rating to a gauging: what to add to its level so that the rating gives what was gauged, m.
 *
 * Source: USGS Techniques of Water-Resources Investigations 3-A10 (shift adjustments), from memory.
 *
 * @param gauging discharge above 0; RangeError otherwise
 */
export const shiftOf = ({ a, b, zero }: PowerRating, { level, discharge }: RatedGauging): number =>
  zero + (positive('discharge', discharge) / a) ** (1 / b) - level;

/** A level with what flowed, in the order of time. */
export interface FlowAt {
  readonly level: number;
  readonly discharge: number;
}

/** Why a level alone does not say what flows; null where it does. */
export type NotOneToOne =
  | { readonly kind: 'reverse'; readonly share: number }
  /** At one level more flows while it rises than while it falls, or less. */
  | { readonly kind: 'loop'; readonly share: number }
  | null;

/** Rising and falling may differ by so much of the discharge. Our own choice: twice what a good rating scatters. */
const mostLoop = 0.1;
/** So many of either in a class of levels tell something. */
const leastInClass = 5;

/**
 * Whether level and discharge belong together one to one: not where it runs back, nor where a rising level carries another
 * discharge than a falling one (tide, a wave passing, backwater).
 *
 * Source: ISO 1100-2 on its limits, in substance; the figures are our own choice.
 *
 * @param flow ascending by time, values finite
 */
export function notOneToOne(flow: readonly FlowAt[]): NotOneToOne {
  const back = flow.filter((f) => f.discharge < 0).length;
  if (back > 0) return { kind: 'reverse', share: back / flow.length };
  const levels = flow.map((f) => f.level).sort((a, b) => a - b);
  const classes = 10;
  const edge = (i: number) => levels[Math.min(levels.length - 1, Math.floor((i * levels.length) / classes))]!;
  let [loops, told] = [0, 0];
  for (let c = 0; c < classes; c++) {
    const [up, down] = [[] as number[], [] as number[]];
    for (let i = 1; i < flow.length; i++) {
      const { level, discharge } = flow[i]!;
      if (level < edge(c) || level > edge(c + 1)) continue;
      const change = level - flow[i - 1]!.level;
      if (change > 0) up.push(discharge);
      if (change < 0) down.push(discharge);
    }
    if (up.length < leastInClass || down.length < leastInClass) continue;
    const [rising, falling] = [median(up), median(down)];
    const mean = (rising + falling) / 2;
    if (!(mean > 0)) continue;
    told += 1;
    loops += Math.abs(rising - falling) / mean;
  }
  return told > 0 && loops / told > mostLoop ? { kind: 'loop', share: loops / told } : null;
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** A power law from a level up. */
export interface RatingSegment extends Pick<PowerRating, 'a' | 'b' | 'zero'> {
  /** Level from which it holds, m; null for the lowest. */
  readonly from: number | null;
}
/** Discharge by level in segments, with what is added to the level before it is read off. */
export interface LevelRating {
  /** Ascending; the first has no `from`. */
  readonly segments: readonly RatingSegment[];
  /** m */
  readonly shift: number;
}

/**
 * A rating of one power law or of several, each through the gaugings of its own reach of levels.
 *
 * Source: `fitPowerLaw`, reach by reach.
 *
 * @param gaugings as for `fitPowerLaw`, in each reach
 * @param zero level of no flow of the lowest reach, m; null where it is to be found
 * @param breaks levels at which another law begins, ascending, m; RangeError otherwise, and where a reach has too few gaugings
 */
export function fitRating(
  gaugings: readonly RatedGauging[],
  zero: number | null,
  breaks: readonly number[],
): {
  readonly segments: RatingSegment[];
  readonly residuals: readonly (number | null)[];
  readonly scatter: number | null;
} {
  breaks.forEach((b, i) => {
    finite('break', b);
    if (i > 0 && b <= breaks[i - 1]!) throw new RangeError('breaks are not in their order');
  });
  const ends = [-Infinity, ...breaks, Infinity];
  const residuals: (number | null)[] = gaugings.map(() => null);
  const segments = ends.slice(0, -1).map((from, i): RatingSegment => {
    const its = gaugings.flatMap((g, n) => (g.level >= from && g.level < ends[i + 1]! ? [n] : []));
    const {
      a,
      b,
      zero: found,
      residuals: left,
    } = fitPowerLaw(
      its.map((n) => gaugings[n]!),
      i === 0 ? zero : null,
    );
    its.forEach((n, at) => (residuals[n] = left[at]!));
    return { from: i === 0 ? null : from, a, b, zero: found };
  });
  const known = residuals.filter((r): r is number => r !== null);
  const free = known.length - 3 * segments.length;
  return {
    segments,
    residuals,
    scatter: free > 0 ? Math.sqrt(known.reduce((s, r) => s + r * r, 0) / free) : null,
  };
}

/**
 * Discharge by a rating in segments, m³/s.
 *
 * @param rating one segment or more; RangeError otherwise
 * @param level m; NaN gives NaN
 */
export function levelRatingAt({ segments, shift }: LevelRating, level: number): number {
  const [lowest] = segments;
  if (!lowest) throw new RangeError('a rating needs a segment');
  if (Number.isNaN(level)) return Number.NaN;
  const at = level + shift;
  return ratedDischarge(segments.findLast((s) => s.from !== null && s.from <= at) ?? lowest, at);
}

/** A gauging with how well it is known. */
export interface KnownGauging extends RatedGauging {
  /** Expanded relative uncertainty, share. */
  readonly U: number;
}

/** At levels so near one another the discharge is one and the same, m. Our own choice. */
const sameLevel = 0.02;

/**
 * Two gaugings at one level that cannot both be right, if a level alone said what flows: furthest apart first. Null for
 * none; a gauging against the stream is one by itself.
 *
 * @param gaugings finite
 */
export function gaugingsAtOdds(
  gaugings: readonly KnownGauging[],
): readonly [KnownGauging, KnownGauging] | null {
  let worst: { pair: readonly [KnownGauging, KnownGauging]; by: number } | null = null;
  for (const [i, one] of gaugings.entries())
    for (const other of gaugings.slice(i + 1)) {
      if (Math.abs(one.level - other.level) > sameLevel) continue;
      const apart = Math.abs(one.discharge - other.discharge);
      const by = apart / Math.hypot(one.U * one.discharge, other.U * other.discharge);
      // What 2 cm of level make is allowed for.
      if (by > 2 && by > (worst?.by ?? 0)) worst = { pair: [one, other], by };
    }
  return worst?.pair ?? null;
}
