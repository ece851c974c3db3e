/**
 * Dissolved oxygen that water holds in balance with water-saturated air.
 * Source: Benson & Krause (1984), as given in Standard Methods 4500-O (from memory; checked against its
 * table in the tests).
 */
const kelvin = (t: number) => t + 273.15;

function within(name: string, value: number, low: number, high: number, unit: string): number {
  if (!(value >= low && value <= high))
    throw new RangeError(`${name} ${value} ${unit} is outside ${low}–${high} ${unit}`);
  return value;
}

/**
 * Oxygen at saturation, mg/L.
 *
 * @param temperature of the water, °C, 0–40
 * @param pressure of the air at the place, hPa, 500–1100; not reduced to sea level
 * @param salinity g/kg, 0–40
 * @throws RangeError outside
 * @example oxygenAtSaturation(20, 1013.25, 0) // 9.09
 */
export function oxygenAtSaturation(temperature: number, pressure: number, salinity: number): number {
  const t = within('temperature', temperature, 0, 40, '°C');
  const atm = within('pressure', pressure, 500, 1100, 'hPa') / 1013.25;
  const s = within('salinity', salinity, 0, 40, 'g/kg');
  const k = kelvin(t);
  const fresh = -139.34411 + 1.575701e5 / k - 6.642308e7 / k ** 2 + 1.2438e10 / k ** 3 - 8.621949e11 / k ** 4;
  const salted = fresh - s * (1.7674e-2 - 10.754 / k + 2140.7 / k ** 2);
  const vapour = Math.exp(11.8571 - 3840.7 / k - 216_961 / k ** 2);
  const theta = 0.000975 - 1.426e-5 * t + 6.436e-8 * t ** 2;
  return (Math.exp(salted) * atm * (1 - vapour / atm) * (1 - theta * atm)) / ((1 - vapour) * (1 - theta));
}
