import { toleranceBudget, type Budget, type School } from '../check/budget';
import { judge, limitOf, type Verdict } from '../check/verdict';
import { formatDifference, formatValue, roundTo } from '../quantity/format';
import { finite, notNegative, positive } from '../valid';

/** What a logger says of an instant between two of its values. */
export interface RecordAt {
  /** m, interpolated. */
  readonly value: number;
  /** How fast it went, m/s. */
  readonly slope: number;
  /** Stamps of the values before and after, ms. */
  readonly between: readonly [number, number];
}

/**
 * The record at an instant: straight between the value before and the one after.
 *
 * @param before stamp in ms (what the clock ran off is taken out) and value in m, not after `at`; null for none
 * @param after the same, not before `at`
 * @param at ms since epoch
 * @param longest no gap longer than this is bridged, ms, > 0
 * @returns null in a gap, and where the record ends before or begins after
 * @example recordAt([0, 2.1], [600_000, 2.4], 200_000, 1_500_000)?.value.toFixed(3) // '2.200'
 */
export function recordAt(
  before: readonly [at: number, value: number] | null,
  after: readonly [at: number, value: number] | null,
  at: number,
  longest: number,
): RecordAt | null {
  finite('instant', at);
  positive('longest gap', longest);
  if (!before || !after) return null;
  const [[t0, v0], [t1, v1]] = [before, after];
  if (t0 > at || t1 < at || t1 - t0 > longest) return null;
  if (t1 === t0) return { value: v0, slope: 0, between: [t0, t1] };
  return {
    value: v0 + ((at - t0) / (t1 - t0)) * (v1 - v0),
    slope: (1000 * (v1 - v0)) / (t1 - t0),
    between: [t0, t1],
  };
}

/**
 * How far a logged level may be off: 0.01 ft, or 0.2 % of the effective stage, whichever is more.
 *
 * Source: USGS Techniques and Methods 3-A7 (Sauer & Turnipseed, 2010), from memory.
 *
 * @param level m; RangeError for one that is not finite
 * @param zeroFlow level at which nothing flows any more, m: the stage above it is the effective one; null for unknown,
 *   when the stage above the station's zero stands in
 * @example stageTolerance(6, null).toFixed(4) // '0.0120'
 */
export const stageTolerance = (level: number, zeroFlow: number | null): number =>
  Math.max(0.01 * 0.3048, 0.002 * Math.max(0, finite('level', level) - (zeroFlow ?? 0)));

export interface GaugeComparison {
  /** Logged − gauge, m. */
  readonly difference: number;
  /** "2.204 − 2.198 = +0.006 m" */
  readonly sum: string;
  readonly budget: Budget;
  /** ± m, by the school. */
  readonly limit: number;
  readonly verdict: Verdict;
}

export interface GaugeInput {
  /** m, by the gauge. */
  readonly level: number;
  /** ± m, of reading and elevation together. */
  readonly accuracy: number;
  /** ± s: to how much its time is known. */
  readonly timeAccuracy: number;
  readonly record: RecordAt;
  /** What the sensor may be off, ± m: beside it stands what the stage allows, and the larger one counts. */
  readonly sensorTolerance: number;
  readonly sensorResolution: number;
  readonly zeroFlow: number | null;
  /** Largest correction that needs no second look, m, > 0. */
  readonly guard: number;
  readonly school: School;
}

/**
 * A level read at a gauge beside the logger's own, by the same judgement as any other check: inside what both may be off
 * the record is left alone. While the level goes, what the time is known to counts as level.
 *
 * Source: `toleranceBudget` and `judge`; `stageTolerance`.
 *
 * @param input levels above one zero; RangeError for numbers that are not finite, or tolerances that are not above 0
 */
export function compareWithRecord(input: GaugeInput): GaugeComparison {
  const { level, record, school } = input;
  const [logged, gauge] = [roundTo(record.value, 3), roundTo(finite('level', level), 3)];
  const difference = roundTo(logged - gauge, 3);
  const going = Math.abs(record.slope) * notNegative('accuracy of the time', input.timeAccuracy);
  const budget = toleranceBudget({
    differences: [difference],
    sensorTolerance: Math.max(input.sensorTolerance, stageTolerance(level, input.zeroFlow)),
    sensorResolution: input.sensorResolution,
    referenceTolerance: input.accuracy,
    referenceResolution: 0,
    further: [{ name: 'level going meanwhile', limit: going }],
  });
  return {
    difference,
    sum: `${formatValue(logged, 3)} − ${formatValue(gauge, 3)} = ${formatDifference(difference, 3)} m`,
    budget,
    limit: limitOf(budget, school),
    verdict: judge({
      budget,
      school,
      guard: input.guard,
      plannedRepeats: 1,
      differences: [difference],
      settled: [true],
      decimals: 3,
    }),
  };
}
