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

/** Tolerances of both thermometers, ± °C. */
export interface Thermometers {
  readonly sensor: number;
  readonly reference: number;
}

export interface HumidityComparison {
  /**
   * direct: in one air as far as the thermometers can tell, compared as they read. brought: the reference's air brought
   * to the sensor's temperature, which adds what both thermometers may be off.
   */
  readonly method: 'direct' | 'brought';
  /** What the reference's air would read where it is compared, %RH. */
  readonly referenceAtSensor: number;
  /** Sensor − reference, %RH. */
  readonly difference: number;
  readonly sensorDewPoint: number;
  readonly referenceDewPoint: number;
}

/** How far two places in one moving air may truly be apart, ± °C: it enters a direct comparison. Our own choice. */
export const oneAir = 0.2;

/**
 * Compares two humidity readings. While their temperatures differ by less than both thermometers may be off together
 * (JCGM 100:2008, at 95 %), they hang in one air: bringing one to the other's temperature would add the thermometers'
 * errors to a difference that is none. Further apart 22 °C/56 % and 24 °C/54 % are not 2 % apart: then the reference's
 * air is brought to the sensor's temperature, same vapour pressure, WMO-No. 8 Annex 4.B; ranges and refusals as there.
 *
 * @param pair both readings
 * @param thermometers tolerances; null brings them to one temperature whatever they differ by
 */
export function compareHumidity(pair: HumidityPair, thermometers: Thermometers | null): HumidityComparison {
  const apart = Math.abs(pair.sensorTemperature - pair.referenceTemperature);
  const isOneAir =
    thermometers !== null &&
    apart <=
      (2 *
        Math.hypot(
          notNegative('tolerance of the sensor’s thermometer', thermometers.sensor),
          notNegative('tolerance of the reference’s thermometer', thermometers.reference),
        )) /
        Math.sqrt(3);
  const brought = humidityAt(pair.referenceHumidity, pair.referenceTemperature, pair.sensorTemperature);
  const referenceAtSensor = isOneAir ? pair.referenceHumidity : brought;
  return {
    method: isOneAir ? 'direct' : 'brought',
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
