import type { QuantityCode } from '../quantity/quantity';
import type { Milliseconds, Seconds } from '../time';
import type { Unit } from '../quantity/unit';

/** When a value is of, and what the station has on file for it. */
export interface At {
  /** s since epoch */
  readonly at: Seconds;
  /** Discharge by section and curve, or by the rating of the level alone, m³/s; null where nobody asks a formula that needs it. */
  readonly discharge: ((at: Milliseconds, level: number, velocity: number) => number) | null;
}

/** A quantity that follows from others: what it takes, what is set once, and how it is reckoned. */
export interface Formula<Input extends string = string, Parameter extends string = string> {
  readonly name: string;
  /** What it makes of what, in a line. */
  readonly says: string;
  /** Channels it takes, by name; values of a stamp are there for all of them but the optional ones. */
  readonly inputs: Readonly<
    Record<
      Input,
      {
        readonly label: string;
        /** What it may be; null for any, as long as all such inputs are of one quantity. */
        readonly quantity: QuantityCode | null;
        readonly optional?: boolean;
      }
    >
  >;
  readonly parameters: Readonly<
    Record<
      Parameter,
      {
        readonly label: string;
        readonly unit: Unit | 'g/kg';
        readonly usual: number;
        readonly range: readonly [number, number];
      }
    >
  >;
  /** What comes out; null for the quantity of its inputs. */
  readonly quantity: QuantityCode | null;
  /**
   * The value, base unit, from values in base units; NaN where there is none. An optional input that is
   * not given is undefined.
   */
  of(
    values: Readonly<Record<Input, number | undefined>>,
    parameters: Readonly<Record<Parameter, number>>,
    circular: boolean,
    at: At,
  ): number;
}
