/**
 * Moist air over water. Source: WMO-No. 8, Guide to Instruments and Methods of Observation,
 * Annex 4.B: e_w = 6.112 · exp(17.62 t / (243.12 + t)) hPa, valid −45…60 °C.
 */
const a = 6.112;
const b = 17.62;
const c = 243.12;

function inRange(temperature: number): number {
  if (!(temperature >= -45 && temperature <= 60))
    throw new RangeError(`temperature ${temperature} °C is outside −45…60 °C`);
  return temperature;
}

function humidityInRange(humidity: number): number {
  if (!(humidity >= 0 && humidity <= 105))
    throw new RangeError(`humidity ${humidity} %RH is outside 0–105 %RH`);
  return humidity;
}

/**
 * Saturation vapour pressure over water, hPa, at −45…60 °C. RangeError outside.
 *
 * @example saturationPressure(20) // 23.326
 */
export function saturationPressure(temperature: number): number {
  const t = inRange(temperature);
  return a * Math.exp((b * t) / (c + t));
}

/**
 * Dew point over water, °C, of air at `temperature` °C and `humidity` %RH (above 0, up to 105:
 * sensors overshoot). RangeError outside; humidity 0 has no dew point and is refused.
 * @example dewPoint(20, 50) // 9.2552
 */
export function dewPoint(temperature: number, humidity: number): number {
  if (humidityInRange(humidity) === 0) throw new RangeError('humidity 0 %RH has no dew point');
  const pressure = (humidity / 100) * saturationPressure(temperature);
  const ln = Math.log(pressure / a);
  return (c * ln) / (b - ln);
}

/**
 * What the same air (same vapour pressure) would read in %RH at another temperature.
 * 22 °C/56 % brought to 24 °C reads 49.6 %. May exceed 100: such air would condense.
 * @example humidityAt(56, 22, 24) // 49.619
 */
export function humidityAt(humidity: number, from: number, to: number): number {
  return (humidityInRange(humidity) * saturationPressure(from)) / saturationPressure(to);
}

/**
 * Change of %RH per °C at constant vapour pressure: how a temperature error shows as humidity.
 *
 * @example humidityPerDegree(20, 50) // -3.0938
 */
export function humidityPerDegree(temperature: number, humidity: number): number {
  inRange(temperature);
  return (-humidityInRange(humidity) * b * c) / (c + temperature) ** 2;
}

/** Over ice, same source: e_i = 6.112 · exp(22.46 t / (272.62 + t)) hPa, valid −65…0 °C. */
const overIce = { b: 22.46, c: 272.62 };

/**
 * Frost point over ice, °C, of air whose dew point over water is below 0 °C: the same vapour pressure, at which frost
 * forms before dew would. Null for a dew point of 0 °C or more: there is no ice then.
 *
 * @param dew dew point over water, °C, −45…60; RangeError outside
 * @example frostPointOf(-10) // -8.876
 */
export function frostPointOf(dew: number): number | null {
  const ln = Math.log(saturationPressure(dew) / a);
  return dew < 0 ? (overIce.c * ln) / (overIce.b - ln) : null;
}
