/** Pressure of the air over height, for whoever compares a barometer with a report that was reduced to sea level. */

/** 0.0065 K/m, 288.15 K, 1013.25 hPa, 9.80665 m/s², 287.053 J/(kg K). ISO 2533. */
const isa = {
  lapse: 0.0065,
  temperature: 288.15,
  pressure: 1013.25,
  gravity: 9.80665,
  gas: 287.053,
} as const;
const exponent = (isa.lapse * isa.gas) / isa.gravity;

/**
 * The pressure at an elevation by one that was reduced to sea level, hPa. Two practices: aviation reduces by the standard
 * atmosphere (QNH), weather services by the temperature of the air between (QFF).
 * Source: ISO 2533 and ICAO Doc 7488 for the first, the hypsometric equation as in WMO-No. 8, 3.11, without humidity, for
 * the second; from memory.
 *
 * @param seaLevel reduced to sea level, hPa, 850–1100
 * @param elevation of the barometer, m, −430–5000
 * @param temperature of the air at the barometer, °C, −60–60; null where it was reduced by the standard atmosphere
 * @throws RangeError outside these
 * @example pressureAt(1013.25, 1000, null) // 898.75
 */
export function pressureAt(seaLevel: number, elevation: number, temperature: number | null): number {
  within('pressure reduced to sea level', seaLevel, 850, 1100);
  within('elevation', elevation, -430, 5000);
  if (temperature === null)
    return (
      (seaLevel ** exponent - isa.pressure ** exponent * ((isa.lapse * elevation) / isa.temperature)) **
      (1 / exponent)
    );
  within('air temperature', temperature, -60, 60);
  const mean = temperature + 273.15 + (isa.lapse * elevation) / 2;
  return seaLevel * Math.exp((-isa.gravity * elevation) / (isa.gas * mean));
}

function within(name: string, value: number, low: number, high: number): void {
  if (!(value >= low && value <= high)) throw new RangeError(`${name} ${value} is outside ${low} to ${high}`);
}
