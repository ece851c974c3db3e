import { accuracyText, toleranceAt } from './accuracy';
import { connectionKinds, type Connection } from './connection';
import { convert, conversionText, invert } from './conversion';
import type { SensorOutput } from './profile';
import { quantityOf } from '../quantity/quantity';

/** One line of a table for the bag. */
export interface SignalRow {
  /** Base unit of the quantity. */
  readonly value: number;
  /** What an input or a meter sees there. */
  readonly signal: number;
  /** What it sees where the sensor is off by its tolerance, rising. */
  readonly band: readonly [low: number, high: number];
}
export interface SignalTable {
  /** Ω, V, mA, a ratio. */
  readonly signalUnit: string;
  readonly rows: readonly SignalRow[];
  /** How the one becomes the other, and how well the sensor is known. */
  readonly says: string;
}

/** So many lines a table has at most: more is no help in a bag. */
export const mostRows = 1000;

/** What is wrong with what was asked of a table; null for nothing. */
export function refuseTable(
  { range: [low, high] }: Pick<SensorOutput, 'range'>,
  from: number,
  until: number,
  step: number,
): string | null {
  if (!(step > 0 && step < Infinity)) return `A step of ${step} leads nowhere: give one above 0.`;
  if (!(from < until)) return `From ${from} to ${until} nothing lies: let it rise.`;
  if (from < low || until > high) return `Outside ${low} to ${high} the sensor states nothing.`;
  if ((until - from) / step + 1 > mostRows)
    return `That is ${Math.floor((until - from) / step) + 1} lines, ${mostRows} at most: take a larger step.`;
  return null;
}

/**
 * The table of an output: what an input or a meter sees at each value, and within which band by the sensor's tolerance.
 *
 * @param connection the sensor's
 * @param output one of its outputs
 * @param from base unit, within its range
 * @param until base unit, above `from`, within its range
 * @param step base unit, above 0; `mostRows` lines at most
 */
export function signalTable(
  connection: Connection,
  output: Pick<SensorOutput, 'conversion' | 'range' | 'accuracy' | 'quantity'>,
  from: number,
  until: number,
  step: number,
): SignalTable {
  const wrong = refuseTable(output, from, until, step);
  if (wrong) throw new RangeError(wrong);
  const { conversion, accuracy, range, quantity } = output;
  const count = Math.floor((until - from) / step + 1e-9) + 1;
  const clamped = (v: number) => Math.min(range[1], Math.max(range[0], v));
  return {
    signalUnit: connectionKinds[connection.kind].gives,
    says: `${conversionText(conversion)}; sensor ${accuracyText(accuracy, quantityOf(quantity).unit)}`,
    rows: Array.from({ length: count }, (_, i): SignalRow => {
      // Steps add up to their digits, not to what doubles make of them.
      const value = Number((from + i * step).toPrecision(12));
      const off = toleranceAt(accuracy, value, range);
      // A little beyond its range most conversions hold still; one that does not ends there.
      const at = (v: number) => {
        const beyond = invert(conversion, v);
        return Number.isFinite(beyond) ? beyond : invert(conversion, clamped(v));
      };
      const ends = [at(value - off), at(value + off)];
      return {
        value,
        signal: invert(conversion, value),
        band: [Math.min(...ends), Math.max(...ends)],
      };
    }),
  };
}

/** The table as CSV, a line each. */
export const signalTableCsv = ({ signalUnit, rows }: SignalTable, unit: string): string =>
  [
    `value ${unit},signal ${signalUnit},low ${signalUnit},high ${signalUnit}`,
    ...rows.map((r) => [r.value, ...[r.signal, ...r.band].map((v) => Number(v.toPrecision(7)))].join(',')),
  ].join('\n') + '\n';

/**
 * The reverse: what a signal says, with what its uncertainty means there.
 *
 * @param output one of a sensor's
 * @param signal Ω, V, mA or a ratio
 * @param u standard uncertainty of it, 0 or more
 * @returns base unit; null outside what the conversion has values for
 */
export function valueOf(
  { conversion, range }: Pick<SensorOutput, 'conversion' | 'range'>,
  signal: number,
  u: number,
): { readonly value: number; readonly u: number; readonly isInRange: boolean } | null {
  const value = convert(conversion, signal);
  if (!Number.isFinite(value)) return null;
  const h = Math.max(Math.abs(signal), 1e-9) * 1e-6;
  const slope = (convert(conversion, signal + h) - convert(conversion, signal - h)) / (2 * h);
  return {
    value,
    u: Number.isFinite(slope) ? Math.abs(slope) * u : Number.NaN,
    isInRange: value >= range[0] && value <= range[1],
  };
}
