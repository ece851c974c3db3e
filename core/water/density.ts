import { finite } from '../valid';

/** Temperatures and salinities that both sources hold for. */
const low = 0;
const high = 40;
const saltiest = 42;

/**
 * Density of water, kg/m³: air-free fresh water, and what salt adds to it.
 *
 * Source: Tanaka et al. (2001) for fresh water, 0–40 °C; Millero & Poisson (1981), the one-atmosphere equation of state of
 * sea water (UNESCO EOS-80), for the share of the salt (coefficients from memory, held to its published check values).
 *
 * @param temperature °C, 0–40; RangeError otherwise
 * @param salinity practical salinity, 0–42; RangeError otherwise
 * @example waterDensity(20, 0).toFixed(3) // '998.207'
 */
export function waterDensity(temperature: number, salinity = 0): number {
  const t = finite('temperature', temperature);
  const s = finite('salinity', salinity);
  if (t < low || t > high) throw new RangeError(`water of ${t} °C is not within ${low}–${high} °C`);
  if (s < 0 || s > saltiest) throw new RangeError(`a salinity of ${s} is not within 0–${saltiest}`);
  const fresh = 999.97495 * (1 - ((t - 3.983035) ** 2 * (t + 301.797)) / (522528.9 * (t + 69.34881)));
  const a = 0.824493 - 4.0899e-3 * t + 7.6438e-5 * t ** 2 - 8.2467e-7 * t ** 3 + 5.3875e-9 * t ** 4;
  const b = -5.72466e-3 + 1.0227e-4 * t - 1.6546e-6 * t ** 2;
  return fresh + a * s + b * s ** 1.5 + 4.8314e-4 * s ** 2;
}
