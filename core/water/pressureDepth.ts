import { finite } from '../valid';
import { waterDensity } from './density';

/** Standard acceleration of free fall, m/s² (3rd CGPM, 1901). */
export const standardGravity = 9.80665;

export interface PressureReading {
  /** What the sensor shows, hPa: above the air where it is vented, else absolute. */
  readonly pressure: number;
  /** Of the air at the same time, hPa, at the station's height; null for a vented sensor. */
  readonly air: number | null;
  /** Of the water, °C, 0–40. */
  readonly temperature: number;
  /** Practical salinity, 0–42. */
  readonly salinity: number;
}

/**
 * How deep a sensor of pressure hangs: h = (p − p_air) / (ρ g).
 *
 * Source: hydrostatics; density by `waterDensity`, g = 9.80665 m/s². Between the equator and the poles g differs by half
 * a per cent, at 60° by 0.13 %: of 5 m, 6 mm; a site's own may be given.
 *
 * @param reading pressures in hPa, finite; RangeError otherwise, and for water outside 0–40 °C or salinity outside 0–42
 * @param g m/s², 9.7–9.9; RangeError otherwise
 * @returns m; below 0 where the sensor hangs in the air, or reads low
 * @example pressureDepth({ pressure: 300, air: null, temperature: 20, salinity: 0 }).toFixed(4) // '3.0646'
 */
export function pressureDepth(reading: PressureReading, g = standardGravity): number {
  const { pressure, air, temperature, salinity } = reading;
  if (!(g >= 9.7 && g <= 9.9)) throw new RangeError(`g of ${g} m/s² is not on earth`);
  const above = finite('pressure', pressure) - (air === null ? 0 : finite('pressure of the air', air));
  return (100 * above) / (waterDensity(temperature, salinity) * g);
}
