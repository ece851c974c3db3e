/** One live value: seconds on any common clock, value in base unit. */
export interface TimedValue {
  readonly t: number;
  readonly value: number;
}
