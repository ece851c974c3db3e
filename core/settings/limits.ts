import type { QuantityCode } from '../quantity/quantity';

/** Four levels at which a logger says that a value is out of what is wanted; null for none. */
export interface Limits {
  readonly farLow: number | null;
  readonly low: number | null;
  readonly high: number | null;
  readonly farHigh: number | null;
}
export const limitFields = ['farLow', 'low', 'high', 'farHigh'] as const satisfies readonly (keyof Limits)[];
export const limitNames: Readonly<Record<keyof Limits, string>> = {
  farLow: 'Far too low',
  low: 'Too low',
  high: 'Too high',
  farHigh: 'Far too high',
};

const levels = (
  farLow: number | null,
  low: number | null,
  high: number | null,
  farHigh: number | null,
): Limits => ({ farLow, low, high, farHigh });

/**
 * Where one may begin, by quantity, base unit: limits made for temperature are nonsense for humidity. Null where only
 * the place can say. Our own invention, to be thought over at each place.
 */
export const usualLimits: Readonly<Record<QuantityCode, Limits | null>> = {
  airTemperature: levels(2, 8, 26, 32),
  dewPoint: levels(null, null, 15, 18),
  humidity: levels(25, 35, 65, 80),
  waterTemperature: levels(1, 4, 18, 22),
  ph: levels(6, 6.5, 8.5, 9),
  dissolvedOxygen: levels(5, 7, null, null),
  oxygenSaturation: levels(60, 80, 120, 140),
  turbidity: levels(null, null, 25, 100),
  conductivity: null,
  waterLevel: null,
  velocity: null,
  discharge: null,
  bulkMoisture: levels(8, 10, 16, 20),
  windSpeed: levels(null, null, 15, 22),
  windDirection: null,
  rain: null,
  airPressure: levels(960, 980, 1040, 1050),
  co2: levels(null, null, 1000, 2000),
  radiation: null,
  illuminance: null,
  soilTemperature: levels(-2, 1, 20, 28),
  surfaceTemperature: null,
  moduleTemperature: levels(null, null, 65, 80),
  soilMoisture: levels(10, 18, 45, 55),
  woodMoisture: levels(null, null, 18, 20),
  leafWetness: null,
  airFlow: levels(0.2, 0.5, null, null),
  vibration: null,
  tankLevel: null,
  electricCurrent: null,
  signal: null,
};

/**
 * The first two limits that do not rise; null where all do, and for none or one.
 *
 * @param limits in one unit; null ones are passed over
 * @example limitsOutOfOrder({ farLow: null, low: 20, high: 18, farHigh: 30 }) // ['low', 'high']
 */
export function limitsOutOfOrder(limits: Limits): readonly [keyof Limits, keyof Limits] | null {
  const set = limitFields.filter((f) => limits[f] !== null);
  for (const [i, f] of set.entries()) {
    const next = set[i + 1];
    if (next !== undefined && !(limits[f]! < limits[next]!)) return [f, next];
  }
  return null;
}
