import { finite } from '../valid';

/** pH electrodes and the buffers they are read in. */

const gasConstant = 8.314462618;
const faraday = 96485.33212;

/**
 * Nernst slope, mV per pH: what an ideal electrode changes by. ln 10 · R · T / F.
 *
 * Source: Nernst equation with the constants of CODATA 2018.
 *
 * @param temperature °C, −5 to 100; RangeError outside
 * @example nernstSlope(25) // 59.16
 */
export function nernstSlope(temperature: number): number {
  if (!(temperature >= -5 && temperature <= 100))
    throw new RangeError(`temperature ${temperature} °C is outside −5…100 °C`);
  return (1000 * Math.LN10 * gasConstant * (temperature + 273.15)) / faraday;
}

export interface Electrode {
  /** mV per pH, positive for a sound one. */
  readonly slope: number;
  /** Share of the Nernst slope at that temperature, %. */
  readonly share: number;
  /** What it gives at pH 7, mV. */
  readonly offset: number;
}

/**
 * Slope and offset of an electrode from two buffers. 95–105 % and ±30 mV are usual for a sound one (common practice, as
 * ISO 10523 leaves it to the maker; from memory).
 *
 * @param points pH of each buffer and what the electrode gives in it, mV; two, of different pH
 * @param temperature of both, °C
 * @throws RangeError for two points that are one
 * @example electrodeOf([{ ph: 7, millivolts: -3 }, { ph: 4.01, millivolts: 171 }], 25).offset // -3
 */
export function electrodeOf(points: readonly [Buffered, Buffered], temperature: number): Electrode {
  const [a, b] = points;
  for (const p of points) {
    finite('pH', p.ph);
    finite('potential', p.millivolts);
  }
  if (Math.abs(a.ph - b.ph) < 0.5) throw new RangeError(`pH ${a.ph} and pH ${b.ph} are one point`);
  const slope = (a.millivolts - b.millivolts) / (b.ph - a.ph);
  return {
    slope,
    share: (100 * slope) / nernstSlope(temperature),
    offset: a.millivolts + slope * (a.ph - 7),
  };
}

interface Buffered {
  readonly ph: number;
  readonly millivolts: number;
}

/** What usually counts as a sound electrode; common practice, no source. */
export const soundElectrode = { share: [95, 105], offset: 30 } as const;
