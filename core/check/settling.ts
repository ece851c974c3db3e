import { finite, notNegative, positive } from '../valid';

/** One live value: seconds on any common clock, value in base unit. */
export interface TimedValue {
  readonly t: number;
  readonly value: number;
}

export type Settling =
  /** Not watched long enough to say anything. */
  | { readonly state: 'watching'; readonly watched: number; readonly window: number }
  /** Movement over the window is proven smaller than the band. */
  | { readonly state: 'settled'; readonly value: number; readonly movement: number; readonly band: number }
  /** Still moving; where it is heading is stated only if the readings can tell. */
  | {
      readonly state: 'moving';
      readonly movement: number;
      readonly band: number;
      readonly projected: Projection | null;
    }
  /** No trend, but the scatter is too wide to prove rest. */
  | {
      readonly state: 'restless';
      readonly scatter: number;
      readonly movement: number;
      readonly band: number;
    }
  /** Read off a display: a person watched it over the window, and it stood still. */
  | { readonly state: 'said'; readonly window: number };

/** Whether a reading counts as one at rest: shown to be so, or said by whoever watched the display. */
export const atRest = ({ state }: Settling): boolean => state === 'settled' || state === 'said';

export interface Projection {
  /** Final value of the first-order fit, base unit. */
  readonly final: number;
  /** Standard uncertainty of the final value, base unit. */
  readonly uncertainty: number;
  /** Time constant, s. */
  readonly tau: number;
}

export interface SettlingRule {
  /** How long readings must have been watched, s, > 0. */
  readonly window: number;
  /** Largest movement over the window that counts as rest, base unit, > 0. */
  readonly band: number;
  /** Resolution of the reading, base unit, ≥ 0: no fit may claim to know better. */
  readonly resolution: number;
}

const fewest = 5;

/**
 * Says whether a reading has come to rest, from all readings so far (ascending time; non-finite
 * values are passed over). Rest has to be *proven*: the straight-line movement over the window plus
 * twice its standard error must stay inside the band (an equivalence test; common practice, no
 * source for the band). A moving reading gets the projected final value of a first-order response
 * fitted to every reading. RangeError for a window or band that is not above 0.
 * @example judgeSettling(Array.from({ length: 20 }, (_, i) => ({ t: i * 5, value: 20 })), { window: 60, band: 0.1, resolution: 0.01 }).state // 'settled'
 */
export function judgeSettling(readings: readonly TimedValue[], rule: SettlingRule): Settling {
  positive('window', rule.window);
  positive('band', rule.band);
  notNegative('resolution', rule.resolution);
  const clean = readings.filter((r) => Number.isFinite(r.t) && Number.isFinite(r.value));
  const last = clean.at(-1);
  const watched = last ? last.t - clean[0]!.t : 0;
  if (!last || clean.length < fewest || watched < rule.window)
    return { state: 'watching', watched, window: rule.window };
  const recent = clean.filter((r) => r.t >= last.t - rule.window);
  if (recent.length < fewest) return { state: 'watching', watched, window: rule.window };
  const line = straightLine(recent, rule.resolution);
  const movement = line.slope * rule.window;
  const doubt = 2 * line.slopeError * rule.window;
  if (Math.abs(movement) + doubt <= rule.band)
    return { state: 'settled', value: line.mean, movement, band: rule.band };
  if (Math.abs(movement) <= doubt)
    return { state: 'restless', scatter: line.scatter, movement, band: rule.band };
  return { state: 'moving', movement, band: rule.band, projected: projectFinal(clean, rule.resolution) };
}

function straightLine(readings: readonly TimedValue[], resolution: number) {
  const n = readings.length;
  const tMean = readings.reduce((s, r) => s + r.t, 0) / n;
  const mean = readings.reduce((s, r) => s + r.value, 0) / n;
  let stt = 0;
  let sty = 0;
  for (const r of readings) {
    stt += (r.t - tMean) ** 2;
    sty += (r.t - tMean) * (r.value - mean);
  }
  const slope = stt > 0 ? sty / stt : 0;
  const sse = readings.reduce((s, r) => s + (r.value - mean - slope * (r.t - tMean)) ** 2, 0);
  const floor = resolution / Math.sqrt(12);
  const scatter = Math.max(Math.sqrt(sse / Math.max(1, n - 2)), floor);
  return { mean, slope, scatter, slopeError: stt > 0 ? scatter / Math.sqrt(stt) : Infinity };
}

/**
 * Fits y = y∞ + A·exp(−t/τ) to all readings by least squares (for a given τ the other two are
 * linear, so only τ is searched) and states the standard uncertainty of y∞ from the fit's own
 * covariance. Null when the readings cannot tell: fewer than 5, a fit at the edge of the search
 * (a straight line), or an uncertainty larger than the way still to go.
 *
 * The three-reading formula y∞ = (y₁y₃ − y₂²)/(y₁ + y₃ − 2y₂) is not used: a step of 0.1 in one
 * reading moves it by 1, and equal steps divide by zero.
 */
export function projectFinal(readings: readonly TimedValue[], resolution: number): Projection | null {
  notNegative('resolution', resolution);
  const n = readings.length;
  if (n < fewest) return null;
  for (const r of readings) finite('reading', r.t + r.value);
  const t0 = readings[0]!.t;
  const span = readings[n - 1]!.t - t0;
  if (!(span > 0)) return null;
  const shortest = Math.log(span / n / 2);
  const longest = Math.log(span * 10);
  const error = (logTau: number) => linearPart(readings, t0, Math.exp(logTau)).sse;

  const steps = 40;
  let best = shortest;
  for (let i = 0; i <= steps; i++) {
    const x = shortest + ((longest - shortest) * i) / steps;
    if (error(x) < error(best)) best = x;
  }
  const width = (longest - shortest) / steps;
  let lo = Math.max(shortest, best - width);
  let hi = Math.min(longest, best + width);
  for (let i = 0; i < 60; i++) {
    const third = (hi - lo) / 3;
    if (error(lo + third) <= error(hi - third)) hi -= third;
    else lo += third;
  }
  const logTau = (lo + hi) / 2;
  if (logTau > longest - width / 2) return null;
  const tau = Math.exp(logTau);
  const { final, amplitude, sse } = linearPart(readings, t0, tau);
  const noise = Math.max(Math.sqrt(sse / Math.max(1, n - 3)), resolution / Math.sqrt(12), 1e-12);
  const variance = finalVariance(readings, t0, tau, amplitude);
  if (variance === null) return null;
  const uncertainty = noise * Math.sqrt(variance);
  const wayToGo = Math.abs(final - readings[n - 1]!.value);
  if (uncertainty > Math.max(wayToGo, 10 * noise)) return null;
  return { final, uncertainty, tau };
}

function linearPart(readings: readonly TimedValue[], t0: number, tau: number) {
  let se = 0,
    see = 0,
    sy = 0,
    sey = 0;
  const n = readings.length;
  for (const r of readings) {
    const e = Math.exp(-(r.t - t0) / tau);
    se += e;
    see += e * e;
    sy += r.value;
    sey += e * r.value;
  }
  const det = n * see - se * se;
  const amplitude = det > 1e-14 * n * see ? (n * sey - se * sy) / det : 0;
  const final = (sy - amplitude * se) / n;
  let sse = 0;
  for (const r of readings) sse += (r.value - final - amplitude * Math.exp(-(r.t - t0) / tau)) ** 2;
  return { final, amplitude, sse };
}

/** The y∞ entry of (JᵀJ)⁻¹ for the columns 1, e, A·e·t/τ (τ scaled by itself). */
function finalVariance(
  readings: readonly TimedValue[],
  t0: number,
  tau: number,
  amplitude: number,
): number | null {
  const m = [0, 0, 0, 0, 0, 0]; // upper triangle: 11 1e 1d ee ed dd
  for (const r of readings) {
    const x = (r.t - t0) / tau;
    const e = Math.exp(-x);
    const d = amplitude * e * x;
    m[0]! += 1;
    m[1]! += e;
    m[2]! += d;
    m[3]! += e * e;
    m[4]! += e * d;
    m[5]! += d * d;
  }
  const [oo, oe, od, ee, ed, dd] = m as [number, number, number, number, number, number];
  const minor = ee * dd - ed * ed;
  const det = oo * minor - oe * (oe * dd - ed * od) + od * (oe * ed - ee * od);
  return det > 1e-18 * oo * ee * dd ? minor / det : null;
}
