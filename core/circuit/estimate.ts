import type { Circuit, CircuitElement } from './circuit';
import { covarianceOf, normalOf, solveNormal } from '../fit/leastSquares';
import { between, slopesOf, solve, stateOf, tapsOf, type State } from './state';
import { dialsOf, isOneDial, type MeterRange } from './meter';

/** A reading of ohms as it counts: between two nodes, on which position of the dial. */
export interface OhmsReading {
  readonly from: string;
  readonly to: string;
  /** Ω, above 0; what the probes read when touched together is subtracted already. */
  readonly ohms: number;
  readonly range: MeterRange;
}

/** What the readings say of an element. */
export interface ElementEstimate {
  readonly id: string;
  /** Ω. */
  readonly ohms: number;
  /** Standard uncertainty, Ω. */
  readonly u: number;
}

/** What all readings but one say of that one. */
export interface Cross {
  /** Ω it should read. */
  readonly ohms: number;
  /** Standard uncertainty of that, the reading's own counts included, Ω; Infinity where only the reading itself tells. */
  readonly u: number;
}

/** What the readings say together. */
export interface CircuitEstimate {
  readonly elements: readonly ElementEstimate[];
  /** Covariance of ln Ω of the elements, in their order. */
  readonly covariance: readonly (readonly number[])[];
  /** Reading less what the estimate gives for it, in its standard uncertainty by counts; in the order of the readings. */
  readonly residuals: readonly number[];
  /** What the other readings say of each reading, in the order of the readings. */
  readonly others: readonly Cross[];
  /** By which share the meter reads high on each range that was used, as far as the readings say. */
  readonly gains: readonly { readonly range: MeterRange; readonly gain: number; readonly u: number }[];
}

/** Of an element nobody states a tolerance of, so little is known beforehand: a factor of e² either way. */
const unknown = 2;

/**
 * Least squares over all readings of a circuit, with what is known beforehand: fixed resistors to their tolerance,
 * the meter's gain to its limit. The gain is one for all readings of a range, so that a fixed resistor that is known
 * well takes it out of what is measured beside it; counts are independent. σ = limit ÷ √3 for gain, counts and
 * tolerances (JCGM 100:2008, 4.3.7). Solved by Gauss–Newton in ln Ω.
 *
 * @param circuit as it was while it was measured, with what its elements should be
 * @param readings one or more, each above 0 Ω between two points that something joins
 */
export function estimateCircuit(circuit: Circuit, readings: readonly OhmsReading[]): CircuitEstimate {
  if (readings.length === 0) throw new RangeError('an estimate needs a reading');
  const its = circuit.elements.filter((e) => e.kind !== 'link' && e.ohms < Infinity);
  const ranges = dialsOf(readings.map((r) => r.range));
  const sought: Sought = {
    state: stateOf(circuit),
    ohmsOf: Float64Array.from(circuit.elements, (e) => e.ohms),
    readings,
    its,
    at: circuit.elements.flatMap((e, i) => (its.includes(e) ? [i] : [])),
    ranges,
    before: [...its.map((e) => Math.log(e.ohms)), ...ranges.map(() => 0)],
    sigma: [
      ...its.map((e) => (e.tolerance > 0 ? e.tolerance / Math.sqrt(3) : unknown)),
      ...ranges.map((r) => Math.max(r.ofReading, 1e-9) / Math.sqrt(3)),
    ],
  };
  let now = lookAt(sought, sought.before);
  for (let round = 0; round < mostRounds; round++) {
    const step = stepFrom(sought, now);
    // One that leads astray is halved until it leads down.
    let share = Math.min(1, 1 / Math.max(...step.map(Math.abs)));
    let next = lookAt(sought, along(now.x, step, share));
    while (!(next.cost <= now.cost) && share > 1e-9) {
      share /= 2;
      next = lookAt(sought, along(now.x, step, share));
    }
    const gained = now.cost - next.cost;
    if (!(gained >= 0)) break;
    now = next;
    // In squares of standard uncertainties: what is left to be gained moves nothing by a thousandth of one.
    if (gained <= 1e-7) break;
  }
  const covariance = covarianceOf(normalOf(now.rows, sought.sigma));
  return {
    elements: its.map((e, k) => {
      const ohms = Math.exp(now.x[k]!);
      return { id: e.id, ohms, u: ohms * Math.sqrt(covariance[k]![k]!) };
    }),
    covariance: its.map((_, i) => its.map((__, j) => covariance[i]![j]!)),
    residuals: now.residuals,
    others: readings.map(({ ohms, range }, i) => {
      const row = now.rows[i]!;
      // How far a reading pulls the estimate towards itself: 0 not at all, 1 where nothing else tells it.
      const pull = row.reduce(
        (sum, v, k) => sum + v * row.reduce((inner, w, j) => inner + w * covariance[k]![j]!, 0),
        0,
      );
      const rest = 1 - pull;
      const counts = countsOf(range);
      return rest > 1e-9
        ? { ohms: ohms - (now.residuals[i]! * counts) / rest, u: counts / Math.sqrt(rest) }
        : { ohms, u: Infinity };
    }),
    gains: ranges.map((range, g) => ({
      range,
      gain: now.x[its.length + g]!,
      u: Math.sqrt(covariance[its.length + g]![its.length + g]!),
    })),
  };
}

/** Standard uncertainty of a reading by the counts of its position, Ω. */
const countsOf = (range: MeterRange): number => (Math.max(range.counts, 0.5) * range.count) / Math.sqrt(3);

/** So many steps are taken at most; a handful is enough. */
const mostRounds = 100;

/** What is sought: ln Ω of the elements, then the gain of each range that was used. */
interface Sought {
  readonly state: State;
  /** Ω of each element as it was drawn, by its place. */
  readonly ohmsOf: Float64Array;
  readonly readings: readonly OhmsReading[];
  readonly its: readonly CircuitElement[];
  /** Where they stand among the elements of the circuit. */
  readonly at: readonly number[];
  readonly ranges: readonly MeterRange[];
  /** What is believed beforehand, and how well. */
  readonly before: readonly number[];
  readonly sigma: readonly number[];
}
interface Look {
  readonly x: readonly number[];
  readonly residuals: number[];
  /** How each reading follows what is sought, in its uncertainty by counts. */
  readonly rows: readonly (readonly number[])[];
  /** Sum of squares, of the readings and of what was believed. */
  readonly cost: number;
}

/** What the readings would be there. */
function lookAt(
  { state, ohmsOf, readings, its, at, ranges, before, sigma }: Sought,
  x: readonly number[],
): Look {
  const values = ohmsOf.slice();
  at.forEach((i, k) => (values[i] = Math.exp(x[k]!)));
  const solved = solve(state, values);
  const residuals: number[] = [];
  const rows = readings.map(({ from, to, ohms, range }) => {
    const expected = between(solved, [from, to], [from, to]);
    if (!(expected > 0) || expected === Infinity)
      throw new RangeError(`nothing joins ${from} and ${to}, or they are one point`);
    const slopes = slopesOf(solved, [from, to], tapsOf([from, to]));
    const gain = ranges.findIndex((r) => isOneDial(r, range));
    const counts = countsOf(range);
    const shown = 1 + x[its.length + gain]!;
    residuals.push((ohms - expected * shown) / counts);
    return [...at.map((i) => slopes[i]! * shown), ...ranges.map((_, g) => (g === gain ? expected : 0))].map(
      (v) => v / counts,
    );
  });
  const squares = (of: readonly number[]) => of.reduce((sum, v) => sum + v ** 2, 0);
  return {
    x,
    residuals,
    rows,
    cost: squares(residuals) + squares(x.map((v, k) => (v - before[k]!) / sigma[k]!)),
  };
}

/**
 * Newton's step from there. Of the curvature, what a reading that is too small adds as ln Ω falls is counted, too:
 * without it a lead that noise has made next to nothing is approached in a hundred steps that overshoot.
 */
function stepFrom({ sigma, before, its }: Sought, { x, rows, residuals }: Look): number[] {
  const pull = sigma.map((_, k) => rows.reduce((sum, row, i) => sum + residuals[i]! * row[k]!, 0));
  const bend = pull.map((p, k) => (p < 0 && k < its.length ? -p : 0));
  return solveNormal(
    normalOf(rows, sigma, bend),
    pull.map((p, k) => p + (before[k]! - x[k]!) / sigma[k]! ** 2),
  );
}

const along = (x: readonly number[], step: readonly number[], share: number): number[] =>
  x.map((v, k) => v + share * step[k]!);
