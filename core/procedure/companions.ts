import type { QuantityCode } from '../quantity/quantity';
import type { Companion } from './procedure';

/** What several procedures read beside the sensor. */

/** The temperature of what the sensor lies in, by a channel of its own where it has one. */
export const mediumTemperature = (quantity: QuantityCode, isNeeded: boolean, why: string): Companion => ({
  name: 'temperature',
  unit: '°C',
  decimals: 1,
  range: [-10, 60],
  of: 'sensor',
  quantity,
  isNeeded,
  why,
});

export const stationPressure = (isNeeded: boolean, why: string): Companion => ({
  name: 'air pressure at the place',
  unit: 'hPa',
  decimals: 1,
  range: [500, 1100],
  of: 'place',
  quantity: 'airPressure',
  isNeeded,
  why,
});
