import { finite } from '../valid';

/** How a reading is corrected: gain · reading + offset. */
export interface Coefficients {
  readonly gain: number;
  /** Base unit. */
  readonly offset: number;
  /** Between which readings it was proved, base unit. */
  readonly low: number;
  readonly high: number;
}

/**
 * What brings readings to their references: an offset for one point, gain and offset for more, by least squares.
 *
 * @param read what the sensor read and should have read at each point, base unit; one or more
 * @throws RangeError for none, and for several points that are one
 * @example lineThrough([{ sensor: 4.1, reference: 4 }, { sensor: 7.1, reference: 7 }]) // { gain: 1, offset: -0.1, low: 4.1, high: 7.1 }
 */
export function lineThrough(
  read: readonly { readonly sensor: number; readonly reference: number }[],
): Coefficients {
  if (read.length === 0) throw new RangeError('no point was read');
  for (const { sensor, reference } of read) {
    finite('sensor', sensor);
    finite('reference', reference);
  }
  const n = read.length;
  const [x, y] = [read.reduce((s, r) => s + r.sensor, 0) / n, read.reduce((s, r) => s + r.reference, 0) / n];
  const [low, high] = [Math.min(...read.map((r) => r.sensor)), Math.max(...read.map((r) => r.sensor))];
  if (n === 1) return { gain: 1, offset: rounded(y - x), low, high };
  const squares = read.reduce((s, r) => s + (r.sensor - x) ** 2, 0);
  if (!(squares > 1e-12 * Math.max(1, x * x))) throw new RangeError('these points are one');
  const gain = read.reduce((s, r) => s + (r.sensor - x) * (r.reference - y), 0) / squares;
  return { gain: rounded(gain), offset: rounded(y - gain * x), low, high };
}

/** Without the binary residue of a sum. */
const rounded = (value: number): number => Number(value.toPrecision(12));
