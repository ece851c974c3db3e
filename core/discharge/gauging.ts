import { formatValue } from '../quantity/format';
import { notNegative, positive } from '../valid';

/** One vertical of a gauging with a current meter. */
export interface Vertical {
  /** Across from the first edge, m. */
  readonly across: number;
  /** m; 0 at an edge. */
  readonly depth: number;
  /** Mean of the vertical, m/s; against the stream negative. */
  readonly velocity: number;
  /** In how many depths it was measured. */
  readonly depths: 1 | 2 | 3 | 5;
  /** What was measured in them from the surface down, m/s: the mean is theirs by `meanOfVertical`. */
  readonly velocities?: readonly number[];
}

/** What a gauging came to. */
export interface GaugedDischarge {
  /** m³/s; negative upstream. */
  readonly discharge: number;
  /** Expanded relative uncertainty at 95 %, share of the discharge. */
  readonly U: number;
  readonly sum: string;
}

/** What is wrong with verticals. */
export function verticalsFault(verticals: readonly Vertical[]): string | null {
  if (verticals.length < 4) return 'Two edges and two verticals between them are the least.';
  for (const [i, v] of verticals.entries()) {
    if (![v.across, v.depth, v.velocity].every(Number.isFinite))
      return `Vertical ${i + 1} is not three numbers.`;
    if (v.depth < 0) return `Vertical ${i + 1}: a depth of ${v.depth} m is above the water.`;
    if (i > 0 && v.across <= verticals[i - 1]!.across)
      return `Vertical ${i + 1} at ${v.across} m does not lie beyond the one before.`;
    if (v.velocities) {
      if (v.velocities.length !== v.depths)
        return `Vertical ${i + 1}: ${v.velocities.length} velocities, measured in ${v.depths} depths.`;
      if (Math.abs(meanOfVertical(v.velocities) - v.velocity) > 1e-6)
        return `Vertical ${i + 1}: ${v.velocity} m/s is not the mean of what was measured.`;
    }
    if (Math.abs(v.velocity) > 10) return `Vertical ${i + 1}: ${v.velocity} m/s is faster than any stream.`;
  }
  return null;
}

const checked = (verticals: readonly Vertical[]): void => {
  const fault = verticalsFault(verticals);
  if (fault) throw new RangeError(fault);
};

/**
 * Discharge by the mid-section method: each vertical stands for half-way to its neighbours.
 *
 * Source: ISO 748 (mid-section). Its uncertainty by `verticalsUncertainty`.
 *
 * @param verticals ascending across, edges of depth 0 at both ends; RangeError for what `verticalsFault` names
 */
export function midSection(verticals: readonly Vertical[]): GaugedDischarge {
  checked(verticals);
  return gauged(verticals, partsOf.mid(verticals), 'mid-section');
}

/**
 * Discharge by the mean-section method: between each two verticals their means.
 *
 * Source: ISO 748 (mean-section). Its uncertainty by `verticalsUncertainty`.
 *
 * @param verticals as for `midSection`
 */
export function meanSection(verticals: readonly Vertical[]): GaugedDischarge {
  checked(verticals);
  return gauged(verticals, partsOf.mean(verticals), 'mean-section');
}

/** What each part of a section carries, m³/s: about each vertical, or between each two. */
const partsOf: Readonly<Record<'mid' | 'mean', (verticals: readonly Vertical[]) => number[]>> = {
  mid: (verticals) =>
    verticals.map((v, i) => {
      const [before, after] = [verticals[i - 1] ?? v, verticals[i + 1] ?? v];
      return ((after.across - before.across) / 2) * v.depth * v.velocity;
    }),
  mean: (verticals) =>
    verticals.slice(1).map((b, i) => {
      const a = verticals[i]!;
      return ((a.velocity + b.velocity) / 2) * ((a.depth + b.depth) / 2) * (b.across - a.across);
    }),
};

/** No part of a section should carry more of the discharge. */
const mostOfOne = 0.1;

/**
 * Where verticals stand too far apart: one part carries more than a tenth of the discharge. Null for nowhere, and where
 * nothing flows.
 *
 * Source: ISO 748, spacing of verticals (no segment above 10 %, better 5 %), from memory.
 *
 * @param verticals as for `midSection`
 * @param method 'mid' for parts about each vertical, 'mean' for parts between each two
 */
export function verticalsDoubt(verticals: readonly Vertical[], method: 'mid' | 'mean'): string | null {
  checked(verticals);
  const parts = partsOf[method](verticals);
  const all = Math.abs(parts.reduce((s, q) => s + q, 0));
  const most = parts.reduce((best, q, i) => (Math.abs(q) > Math.abs(parts[best]!) ? i : best), 0);
  const share = Math.abs(parts[most]!) / all;
  if (!(all > 0 && share > mostOfOne)) return null;
  const [a, b] = [verticals[most]!, verticals[most + 1]];
  const where = method === 'mid' ? `about ${a.across} m` : `between ${a.across} and ${b!.across} m`;
  return `The part ${where} carries ${Math.round(100 * share)} % of it, and 10 % are the most: measure closer together there.`;
}

function gauged(verticals: readonly Vertical[], shares: readonly number[], how: string): GaugedDischarge {
  const discharge = shares.reduce((s, q) => s + q, 0);
  return {
    discharge,
    U: verticalsUncertainty(verticals, shares),
    sum: `Σ of ${verticals.length} verticals by ${how} = ${formatValue(discharge, 3)} m³/s`,
  };
}

/**
 * Expanded relative uncertainty (k = 2) of a gauging by verticals: how many there are, in how many depths each was
 * measured, width, depth, meter, and what is common to all.
 *
 * Source: ISO 748:2007, annex E, standard uncertainties in per cent (from memory).
 *
 * @param verticals as for `midSection`
 * @param shares m³/s of each part
 */
export function verticalsUncertainty(verticals: readonly Vertical[], shares: readonly number[]): number {
  const inside = verticals.filter((v) => v.depth > 0);
  const count = byCount.findLast(([least]) => inside.length >= least)?.[1] ?? fewer;
  const perVertical = Math.hypot(
    widthShare,
    depthShare,
    meterShare,
    ...[mean(inside.map((v) => byDepths[v.depths]))],
  );
  const all = Math.abs(shares.reduce((s, q) => s + q, 0));
  const each = all > 0 ? Math.hypot(...shares) / all : 1;
  return (2 * Math.hypot(count, systematic, perVertical * Math.min(1, each))) / 100;
}

const mean = (values: readonly number[]): number =>
  values.reduce((s, v) => s + v, 0) / Math.max(1, values.length);
/** Standard uncertainties, %. */
const byCount: readonly (readonly [least: number, percent: number])[] = [
  [5, 7.5],
  [10, 4.5],
  [15, 3],
  [20, 2.5],
  [25, 2],
  [30, 1.5],
  [35, 1],
];
const fewer = 10;
const byDepths: Readonly<Record<Vertical['depths'], number>> = { 1: 7.5, 2: 3.5, 3: 3, 5: 2.5 };
const [widthShare, depthShare, meterShare, systematic] = [0.5, 1, 1, 1];

/**
 * Mean velocity of a vertical from what was measured in it: at 0.6 of the depth; the mean of 0.2 and 0.8; of three, the
 * middle one twice; of five, (v₀ + 3 v₀.₂ + 3 v₀.₆ + 2 v₀.₈ + v₁) / 10.
 *
 * Source: ISO 748, reduced-point methods (from memory).
 *
 * @param velocities m/s from the surface down: one, two, three or five of them; RangeError otherwise
 * @example meanOfVertical([0.5, 0.3]) // 0.4
 */
export function meanOfVertical(velocities: readonly number[]): number {
  const [a, b, c, d, e] = velocities as [number, number, number, number, number];
  switch (velocities.length) {
    case 1:
      return a;
    case 2:
      return (a + b) / 2;
    case 3:
      return (a + 2 * b + c) / 4;
    case 5:
      return (a + 3 * b + 3 * c + 2 * d + e) / 10;
    default:
      throw new RangeError(`a vertical is measured in 1, 2, 3 or 5 depths, not in ${velocities.length}`);
  }
}

/** Concentration of a tracer as it passed. */
export interface Passage {
  /** s since it was poured in. */
  readonly at: number;
  /** g/m³ */
  readonly concentration: number;
}

/**
 * Discharge from a slug of tracer: mass ÷ ∫ (c − background) dt, the passage between readings taken as straight.
 *
 * Source: ISO 9555-1 (tracer dilution, integration method), from memory.
 *
 * @param mass g, > 0
 * @param passage ascending by time, two or more; RangeError otherwise, and where nothing passed
 * @param background g/m³, ≥ 0
 * @param U expanded relative uncertainty of mass and concentrations together, share, ≥ 0
 */
export function slugDischarge(
  mass: number,
  passage: readonly Passage[],
  background: number,
  U: number,
): GaugedDischarge {
  positive('mass', mass);
  notNegative('background', background);
  if (passage.length < 2) throw new RangeError('a passage has two readings or more');
  let area = 0;
  for (let i = 1; i < passage.length; i++) {
    const [a, b] = [passage[i - 1]!, passage[i]!];
    if (!(b.at > a.at)) throw new RangeError(`reading ${i + 1} is not later than the one before`);
    area += ((a.concentration + b.concentration) / 2 - background) * (b.at - a.at);
  }
  if (!(area > 0)) throw new RangeError('nothing passed above the background');
  const discharge = mass / area;
  return {
    discharge,
    U: notNegative('uncertainty', U),
    sum: `${formatValue(mass, 1)} g ÷ ${formatValue(area, 1)} g·s/m³ = ${formatValue(discharge, 3)} m³/s`,
  };
}

/**
 * Discharge from a tracer fed at a constant rate: q · (c₁ − c₂) / (c₂ − c₀).
 *
 * Source: ISO 9555-1 (tracer dilution, constant rate), from memory.
 *
 * @param rate L/s, > 0
 * @param fed, plateau, background concentrations, mg/L; RangeError unless fed > plateau > background ≥ 0
 * @param U expanded relative uncertainty, share, ≥ 0
 * @example constantRateDischarge(0.05, 100_000, 12, 2, 0.05).discharge.toFixed(3) // '0.500'
 */
export function constantRateDischarge(
  rate: number,
  fed: number,
  plateau: number,
  background: number,
  U: number,
): GaugedDischarge {
  positive('rate', rate);
  notNegative('background', background);
  if (!(plateau > background)) throw new RangeError('the plateau is not above the background');
  if (!(fed > plateau)) throw new RangeError('what is fed is no stronger than the plateau');
  const discharge = (rate / 1000) * ((fed - plateau) / (plateau - background));
  return {
    discharge,
    U: notNegative('uncertainty', U),
    sum: `${rate} L/s · (${fed} − ${plateau}) ÷ (${plateau} − ${background}) = ${formatValue(discharge, 3)} m³/s`,
  };
}
