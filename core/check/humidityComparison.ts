import { notNegative } from '../valid';
import { dewPoint, humidityAt, humidityPerDegree } from '../moistAir/humidity';

export interface HumidityPair {
  /** %RH and °C at the sensor. */
  readonly sensorHumidity: number;
  readonly sensorTemperature: number;
  /** %RH and °C at the reference. */
  readonly referenceHumidity: number;
  readonly referenceTemperature: number;
}

export interface HumidityComparison {
  /** What the reference's air would read at the sensor's temperature, %RH. */
  readonly referenceAtSensor: number;
  /** Sensor − reference, both at the sensor's temperature, %RH. */
  readonly difference: number;
  readonly sensorDewPoint: number;
  readonly referenceDewPoint: number;
}

/**
 * Compares two humidity readings at one temperature, the sensor's own: 22 °C/56 % and 24 °C/54 %
 * are not 2 % apart. Same vapour pressure, WMO-No. 8 Annex 4.B; ranges and refusals as there.
 */
export function compareHumidity(pair: HumidityPair): HumidityComparison {
  const referenceAtSensor = humidityAt(
    pair.referenceHumidity,
    pair.referenceTemperature,
    pair.sensorTemperature,
  );
  return {
    referenceAtSensor,
    difference: pair.sensorHumidity - referenceAtSensor,
    sensorDewPoint: dewPoint(pair.sensorTemperature, pair.sensorHumidity),
    referenceDewPoint: dewPoint(pair.referenceTemperature, pair.referenceHumidity),
  };
}

/**
 * How far one thermometer's error (± °C) moves the compared humidity, ± %RH. It enters once for
 * each of the two thermometers: the conversion rests on the temperature *between* sensor and
 * reference, and each of them can be wrong about its own end.
 * @example temperatureShare(20, 50, 0.3) // 0.9281
 */
export const temperatureShare = (
  temperature: number,
  humidity: number,
  thermometerTolerance: number,
): number =>
  Math.abs(humidityPerDegree(temperature, humidity)) * notNegative('tolerance', thermometerTolerance);
