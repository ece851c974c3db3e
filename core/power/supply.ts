import { finite, notNegative } from '../valid';

/**
 * Voltage that reaches a sensor at the end of its cable.
 * drop = current × loop resistance (out and back), Ohm's law.
 */
export interface SupplyRun {
  /** Volts at the logger's terminals, > 0. */
  readonly supply: number;
  /** Current the sensor draws, A, ≥ 0. */
  readonly current: number;
  /** One-way cable length, m, ≥ 0. */
  readonly length: number;
  /** Resistance of one conductor, Ω/km, ≥ 0. */
  readonly resistance: number;
}

export interface SupplyAtSensor {
  readonly drop: number;
  readonly atSensor: number;
}

/**
 * Drop and remaining voltage, V. Throws RangeError for a negative or non-finite argument.
 *
 * @example supplyAtSensor({ supply: 12, current: 0.02, length: 100, resistance: 0.1 }) // { drop: 0.0004, atSensor: 11.9996 }
 */
export function supplyAtSensor(run: SupplyRun): SupplyAtSensor {
  for (const [name, value] of Object.entries(run)) notNegative(name, value);
  const drop = run.current * 2 * run.length * (run.resistance / 1000);
  return { drop, atSensor: run.supply - drop };
}

/**
 * Resistance of one copper conductor at 20 °C, Ω/km, by AWG size. Source: ASTM B258 (from memory).
 */
export const copperResistance: Readonly<Record<number, number>> = {
  18: 20.95,
  20: 33.31,
  22: 52.96,
  24: 84.2,
};

export type SupplyVerdict = 'in-range' | 'too-low' | 'too-high';

/**
 * Whether a voltage lies within what a sensor accepts, limits included. RangeError for one that is not finite.
 *
 * @param volts at the sensor, V
 * @param low the least it takes, V
 * @param high the most it takes, V
 * @example judgeSupply(8.9, 9, 28) // 'too-low'
 */
export function judgeSupply(volts: number, low: number, high: number): SupplyVerdict {
  for (const v of [volts, low, high]) finite('voltage', v);
  if (volts < low) return 'too-low';
  return volts > high ? 'too-high' : 'in-range';
}
