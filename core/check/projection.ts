import { finite, notNegative } from '../valid';
import { followOf } from '../fit/follow';
import { coverageFactor } from './uncertainty';
import { covarianceOf, normalOf, solveNormal } from '../fit/leastSquares';
import type { TimedValue } from './timedValue';

/** Where a moving reading is heading. */
export interface Projection {
  /** Final value of the first-order response, base unit. */
  readonly final: number;
  /** Standard uncertainty of the final value, base unit. */
  readonly uncertainty: number;
  /** Time constant, s. */
  readonly tau: number;
}

/** So few readings tell nothing of three unknowns and of how they scatter. Our own choice. */
const fewest = 12;
/** So much of a response has to be seen, time constants from its onset. Our own choice, by simulation. */
const seen = 1.4;
/** Residuals that follow one another or bend so far beyond chance are no first-order response. Our own choice, by simulation. */
const chance = 1.45;
/** Where a response may have begun: so many places are tried, then all between the best and its neighbours. */
const onsets = 14;
const clearlyLess = 0.8;

/**
 * Where a first-order response ends: its onset is sought, y = y∞ + A·exp(−t/τ) fitted to the readings from there on (for
 * a given τ the other two are linear, so only τ is searched). Null where the readings cannot tell: too few, too little
 * of it seen, nothing to go, or residuals that say that this is no such response. What reading in steps hides is added
 * (r²/12, JCGM 100:2008, F.2.2.1), and what readings that follow one another tell less.
 *
 * The three-reading formula y∞ = (y₁y₃ − y₂²)/(y₁ + y₃ − 2y₂) is not used: a step of 0.1 in one reading moves it by 1, and
 * equal steps divide by zero.
 *
 * @param readings ascending in time
 * @param resolution of a reading, base unit, ≥ 0
 */
export function projectFinal(readings: readonly TimedValue[], resolution: number): Projection | null {
  notNegative('resolution', resolution);
  for (const r of readings) finite('reading', r.t + r.value);
  const updates = withoutHolds(readings, resolution);
  if (updates.length < fewest) return null;
  return fitFrom(updates.slice(onsetOf(updates)), resolution);
}

/** Where a response begins: still before it, first-order after it, with the least left over of both; 0 where it began at once. */
function onsetOf(readings: readonly TimedValue[]): number {
  const last = readings.length - fewest;
  const step = Math.max(1, Math.floor(last / onsets));
  const left = (from: number): number => {
    const after = readings.slice(from);
    const t0 = after[0]!.t;
    const tau = bestTau(after, t0, after.at(-1)!.t - t0);
    const still = readings.slice(0, from);
    const mean = still.reduce((sum, r) => sum + r.value, 0) / Math.max(1, from);
    return (
      still.reduce((sum, r) => sum + (r.value - mean) ** 2, 0) +
      (tau === null ? Infinity : linearPart(after, t0, tau).sse)
    );
  };
  let best = 0;
  let least = left(0);
  const tryAt = (from: number) => {
    const its = left(from);
    // A later one has one unknown more: it has to leave clearly less.
    if (its < least * (best === 0 ? clearlyLess : 1)) [best, least] = [from, its];
  };
  for (let from = step; from <= last; from += step) tryAt(from);
  if (best > 0)
    for (
      let from = Math.max(1, best - step + 1), until = Math.min(last, best + step - 1);
      from <= until;
      from++
    )
      tryAt(from);
  return best;
}

/**
 * A logger that measures every ten seconds shows the same number ten times: of each the first is a reading. Told by
 * jumps of many steps at one distance; what stands still by its resolution is left alone.
 */
function withoutHolds(readings: readonly TimedValue[], resolution: number): readonly TimedValue[] {
  const firsts = readings.filter((r, i) => i === 0 || r.value !== readings[i - 1]!.value);
  if (firsts.length < fewest || firsts.length > readings.length / 2) return readings;
  const jumps = firsts.slice(1).map((r, i) => Math.abs(r.value - firsts[i]!.value));
  const apart = firsts.slice(2).map((r, i) => r.t - firsts[i + 1]!.t);
  const middle = (all: readonly number[]) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
  const usual = middle(apart);
  const isRegular = apart.filter((d) => Math.abs(d - usual) < 0.3 * usual).length > 0.6 * apart.length;
  return isRegular && middle(jumps) > resolution ? firsts : readings;
}

/** Beside a first-order response: a faster part of a third of its time constant, and a medium that drifts, by so much of the step a time constant. Standard uncertainties, our own choice, by simulation. */
const fasterPart = 0.6;
const drifting = 0.01;
const mostRounds = 12;
/** By so much over n it does. Our own choice, by simulation. */
const takes = 2.5;

function fitFrom(readings: readonly TimedValue[], resolution: number): Projection | null {
  const n = readings.length;
  const t0 = readings[0]!.t;
  const end = readings[n - 1]!.t;
  const span = end - t0;
  if (!(span > 0)) return null;
  const first = bestTau(readings, t0, span);
  if (first === null) return null;
  const begin = linearPart(readings, t0, first);
  const floor = Math.max(resolution / Math.sqrt(12), 1e-12);
  const plain = Math.max(Math.sqrt(begin.sse / (n - 3)), floor);
  // From here on nothing moves that could be told from noise.
  if (Math.abs(begin.amplitude) < 4 * plain) return null;
  const size = Math.abs(begin.amplitude);
  const sigma = [1e6 * size, 1e3 * size, fasterPart * size, (drifting * size) / first, 3];
  const mean = [0, 0, 0, 0, Math.log(first)];
  let x = [begin.final, begin.amplitude, 0, 0, Math.log(first)];
  const look = (at: readonly number[]) => {
    const [final, amplitude, faster, drift, lnTau] = at as [number, number, number, number, number];
    const tau = Math.exp(lnTau);
    const rows: number[][] = [];
    const residuals = readings.map((r) => {
      const u = (r.t - t0) / tau;
      const e = Math.exp(-u);
      const lag = r.t - end - tau * (1 - e);
      rows.push([1, e, e ** 3, lag, u * (amplitude * e + 3 * faster * e ** 3)]);
      return r.value - final - amplitude * e - faster * e ** 3 - drift * lag;
    });
    return { rows, residuals, sse: residuals.reduce((sum, v) => sum + v * v, 0) };
  };
  let now = look(x);
  let noise = plain;
  for (let round = 0; round < mostRounds; round++) {
    noise = Math.max(Math.sqrt(now.sse / (n - 4)), floor);
    const scaled = now.rows.map((row) => row.map((v) => v / noise));
    const right = sigma.map(
      (s, k) =>
        (mean[k]! - x[k]!) / s ** 2 +
        now.residuals.reduce((sum, r, i) => sum + (r / noise) * scaled[i]![k]!, 0),
    );
    const step = solveNormal(normalOf(scaled, sigma), right);
    const share = Math.min(1, 0.5 / Math.abs(step[4]!));
    x = x.map((v, k) => v + share * step[k]!);
    now = look(x);
    if (Math.max(Math.abs(step[0]!) / noise, Math.abs(step[4]!)) < 1e-3) break;
  }
  const tau = Math.exp(x[4]!);
  if (!(span >= seen * tau) || !Number.isFinite(now.sse)) return null;
  noise = Math.max(Math.sqrt(now.sse / (n - 4)), floor);
  // A fit of five unknowns makes residuals follow one another less than they do.
  const shown = followOf(now.residuals);
  const follow = shown + (takes * (1 + 2 * Math.max(0, shown))) / n;
  if (follow * Math.sqrt(n) > chance && noise > 1.15 * floor) return null;
  if (isBent(now.residuals, noise)) return null;
  const covariance = covarianceOf(
    normalOf(
      now.rows.map((row) => row.map((v) => v / noise)),
      sigma,
    ),
  );
  const less = follow > 0 ? (1 + follow) / (1 - Math.min(0.9, follow)) : 1;
  const uncertainty = (coverageFactor(n - 4) / 2) * Math.sqrt(covariance[0]![0]! * less + floor ** 2);
  const final = x[0]!;
  const wayToGo = Math.abs(final - readings[n - 1]!.value);
  return uncertainty > Math.max(wayToGo, 10 * noise) ? null : { final, uncertainty, tau };
}

/** Whether thirds of the residuals lie apart further than chance: the middle against both ends. */
function isBent(residuals: readonly number[], noise: number): boolean {
  const n = residuals.length;
  const third = Math.floor(n / 3);
  const mean = (of: readonly number[]) => of.reduce((s, v) => s + v, 0) / of.length;
  const ends = [...residuals.slice(0, third), ...residuals.slice(n - third)];
  const bend = mean(residuals.slice(third, n - third)) - mean(ends);
  return Math.abs(bend) > chance * noise * Math.sqrt(1 / (n - 2 * third) + 1 / (2 * third));
}

/** The τ that leaves least, s; null at the edge of the search, where it is a straight line or a jump. */
function bestTau(readings: readonly TimedValue[], t0: number, span: number): number | null {
  const shortest = Math.log(span / readings.length);
  const longest = Math.log(span * 4);
  const error = (logTau: number) => linearPart(readings, t0, Math.exp(logTau)).sse;
  const steps = 16;
  const width = (longest - shortest) / steps;
  let best = 0;
  let least = Infinity;
  for (let i = 0; i <= steps; i++) {
    const its = error(shortest + width * i);
    if (its < least) [best, least] = [i, its];
  }
  if (best === 0 || best === steps) return null;
  let [lo, hi] = [shortest + width * (best - 1), shortest + width * (best + 1)];
  for (let i = 0; i < 22; i++) {
    const third = (hi - lo) / 3;
    if (error(lo + third) <= error(hi - third)) hi -= third;
    else lo += third;
  }
  return Math.exp((lo + hi) / 2);
}

function linearPart(readings: readonly TimedValue[], t0: number, tau: number) {
  let [se, see, sy, sey] = [0, 0, 0, 0];
  const n = readings.length;
  const y0 = readings[n - 1]!.value;
  for (const r of readings) {
    const e = Math.exp(-(r.t - t0) / tau);
    se += e;
    see += e * e;
    sy += r.value - y0;
    sey += e * (r.value - y0);
  }
  const det = n * see - se * se;
  const amplitude = det > 1e-14 * n * see ? (n * sey - se * sy) / det : 0;
  const final = y0 + (sy - amplitude * se) / n;
  let sse = 0;
  for (const r of readings) sse += (r.value - final - amplitude * Math.exp(-(r.t - t0) / tau)) ** 2;
  return { final, amplitude, sse };
}
