import type { Quantity } from '../quantity/quantity';
import type { Flag } from './flag';
import type { Seconds } from '../time';

/**
 * A quality test as one object: what it is called, what a person sets, what is refused, what it starts
 * with, how it judges. The form beside a trace, the schema of its thresholds, the table in
 * docs/quality-tests.md and the run follow from it; `tests.ts` lists them.
 */

/** What a typed threshold means: a value or a difference in the quantity's unit, per hour, hours; or a value for each month. */
export interface NumberField {
  readonly label: string;
  readonly is: 'value' | 'difference' | 'perHour' | 'hours';
}
export interface MonthsField {
  readonly label: string;
  readonly is: 'months';
}
export type Field = NumberField | MonthsField;
/** Twelve values from January on; null for a month that is not tested. */
export type Months = readonly (number | null)[];

type FieldOf<V> = V extends number ? NumberField : V extends Months ? MonthsField : never;
export type FieldsOf<L> = { readonly [K in keyof L]-?: FieldOf<L[K]> };

/** A reading with what its neighbours tell. NaN for a value that is missing or too far away. */
export interface Reading {
  /** s since epoch */
  at: Seconds;
  value: number;
  /** The reading before, whatever lies between; `near`: NaN beyond a gap. */
  before: number;
  nearBefore: number;
  nearAfter: number;
  /** s since the reading before; 0 for the first. */
  passed: Seconds;
}

/** What of a record no value of can be found wanting: within low–high, and in steps of at most `step`. */
export interface Calm {
  readonly low?: number;
  readonly high?: number;
  readonly step?: number;
  /** The stamp up to which that holds, s; for ever if not said. */
  readonly until?: Seconds;
}

export interface Refused {
  readonly value: unknown;
  readonly detail: string;
  readonly remedy: string;
}

interface AnyTest<Limits> {
  readonly name: string;
  /** What it asks, in a few words beside its fields. */
  readonly says: string;
  readonly file: string;
  /** For docs/quality-tests.md. */
  readonly definition: string;
  readonly fields: FieldsOf<Limits>;
  /** What a channel of the quantity starts with; null for a test that is off until somebody sets it. */
  start(quantity: Quantity, sparse: boolean): Limits | null;
  /** What is wrong with typed limits, finite numbers all of them; null for nothing. */
  refuse(limits: Limits, circular: boolean): Refused | null;
  /** Limits out of the channel's own record, where the test can be learned from it. */
  readonly learn?: {
    readonly name: string;
    /** Null, where the record does not hold enough for it. */
    from(days: readonly DayOfRecord[], quantity: Quantity): Limits | null;
  };
}

/** Lowest and highest value of a day of the record, s since epoch at its beginning, base unit. */
export interface DayOfRecord {
  readonly at: Seconds;
  readonly min: number;
  readonly max: number;
}

/** Judges a value by itself and its neighbours. */
export interface PointTest<Limits> extends AnyTest<Limits> {
  readonly kind: 'point';
  judge(reading: Reading, limits: Limits, circular: boolean): Flag;
  /** @param interval storage interval, s @param at stamp from which it is asked, s */
  calm(limits: Limits, interval: Seconds, at: Seconds): Calm;
}

/** Judges a stretch of values; tells of those found wanting, in their order. */
export interface StretchTest<Limits> extends AnyTest<Limits> {
  readonly kind: 'stretch';
  stretch(
    values: Float64Array,
    limits: Limits,
    interval: Seconds,
    circular: boolean,
    tell: (index: number, bad: Flag) => void,
  ): void;
  /** Whether a value that may honestly rest is left alone. */
  readonly sparesRest: boolean;
  /** How many readings before the first judged one it looks at. */
  context(limits: Limits, interval: Seconds): number;
}

export type QualityTestOf<Limits> = PointTest<Limits> | StretchTest<Limits>;
