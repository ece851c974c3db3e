import type { Unit } from './unit';

/** How readings of a quantity may be drawn together: circular for directions, total for rain. */
export type Aggregate = 'mean' | 'total' | 'circular';

export interface Quantity {
  readonly code: QuantityCode;
  readonly name: string;
  /** Short form for descriptions, which loggers keep only so many characters of. */
  readonly short: string;
  /** Base unit: what is stored. */
  readonly unit: Unit;
  readonly aggregate: Aggregate;
  /** Decimals that make sense for field sensors of this quantity. */
  readonly decimals: number;
  /** What a sensor or handheld of this quantity can honestly show; outside is refused. Base unit. */
  readonly range: readonly [low: number, high: number];
  /** Tolerance of the sensor ± when a channel states none. Base unit. Our own choice. */
  readonly tolerance: number;
  /** Guard: largest single adjustment without a second look. Base unit. Our own choice. */
  readonly guard: number;
  /** How long readings are watched before they can be called settled, s. Our own choice. */
  readonly settleWindow: number;
  /** Largest movement over the window that counts as rest, as a share of the tolerance. Our own choice. */
  readonly settleShare: number;
  /** Where a value may honestly stand still, base unit: saturated air, no rain, calm. Not called stuck there. */
  readonly rests: readonly (readonly [low: number, high: number])[];
}

export type QuantityCode =
  | 'airTemperature'
  | 'dewPoint'
  | 'humidity'
  | 'waterTemperature'
  | 'ph'
  | 'dissolvedOxygen'
  | 'oxygenSaturation'
  | 'turbidity'
  | 'conductivity'
  | 'waterLevel'
  | 'velocity'
  | 'discharge'
  | 'bulkMoisture'
  | 'windSpeed'
  | 'windDirection'
  | 'rain'
  | 'airPressure'
  | 'co2'
  | 'radiation'
  | 'illuminance';

function quantity(
  code: QuantityCode,
  name: string,
  short: string,
  unit: Unit,
  decimals: number,
  range: readonly [number, number],
  tolerance: number,
  guard: number,
  settleWindow: number,
  more: Partial<Pick<Quantity, 'aggregate' | 'settleShare' | 'rests'>> = {},
): Quantity {
  return {
    code,
    name,
    short,
    unit,
    decimals,
    range,
    tolerance,
    guard,
    settleWindow,
    aggregate: 'mean',
    settleShare: 0.25,
    rests: [],
    ...more,
  };
}

/**
 * Tide, flow and wind never rest: sensor and reference are read at the same moment instead, and a
 * few tolerances of movement over a short watch are no obstacle.
 */
const neverRests = { settleShare: 6 };

/** Ranges are wide enough for good data: sensors overshoot saturation a little, zeros drift below 0. */
const all: readonly Quantity[] = [
  quantity('airTemperature', 'Air temperature', 'air temp', '°C', 2, [-60, 80], 0.4, 2, 60),
  quantity('dewPoint', 'Dew point', 'dew point', '°C', 2, [-80, 60], 0.8, 3, 60),
  quantity('humidity', 'Humidity', 'humidity', '%RH', 1, [0, 105], 2.5, 8, 60, { rests: [[99.5, 105]] }),
  quantity('waterTemperature', 'Water temperature', 'water temp', '°C', 2, [-5, 45], 0.3, 1.5, 60),
  quantity('ph', 'pH', 'pH', 'pH', 2, [0, 14], 0.15, 0.6, 90),
  quantity('dissolvedOxygen', 'Dissolved oxygen', 'oxygen', 'mg/L', 2, [-0.5, 30], 0.3, 1.5, 90),
  quantity('oxygenSaturation', 'Oxygen saturation', 'oxygen sat', '%', 1, [-2, 300], 3, 15, 90),
  quantity('turbidity', 'Turbidity', 'turbidity', 'NTU', 1, [-5, 4000], 1, 5, 60),
  quantity('conductivity', 'Conductivity', 'conductivity', 'µS/cm', 0, [-10, 100_000], 20, 100, 60),
  quantity('waterLevel', 'Water level', 'level', 'm', 3, [-500, 9000], 0.01, 0.05, 10, neverRests),
  quantity('velocity', 'Surface velocity', 'velocity', 'm/s', 3, [-15, 15], 0.05, 0.25, 10, neverRests),
  quantity('discharge', 'Discharge', 'discharge', 'm³/s', 3, [-10_000, 400_000], 0.1, 1, 10, neverRests),
  quantity('bulkMoisture', 'Bulk moisture', 'moisture', '%', 1, [0, 100], 1, 1.8, 60),
  quantity('windSpeed', 'Wind speed', 'wind speed', 'm/s', 1, [-0.5, 120], 0.5, 2, 10, {
    ...neverRests,
    rests: [[-0.5, 0.5]],
  }),
  quantity('windDirection', 'Wind direction', 'wind from', '°', 0, [0, 360], 5, 20, 10, {
    ...neverRests,
    aggregate: 'circular',
  }),
  quantity('rain', 'Rain', 'rain', 'mm', 1, [0, 2000], 0.2, 1, 60, { aggregate: 'total', rests: [[0, 0]] }),
  quantity('airPressure', 'Air pressure', 'pressure', 'hPa', 1, [300, 1100], 0.5, 2, 30),
  quantity('co2', 'Carbon dioxide', 'CO2', 'ppm', 0, [0, 100_000], 50, 200, 120),
  quantity('radiation', 'Radiation', 'radiation', 'W/m²', 0, [-30, 2000], 20, 80, 30, { rests: [[-30, 2]] }),
  quantity('illuminance', 'Illuminance', 'light', 'lx', 0, [-5, 250_000], 50, 500, 30, { rests: [[-5, 5]] }),
];

const byCode = new Map(all.map((q) => [q.code, q]));

export const quantityCodes: readonly QuantityCode[] = all.map((q) => q.code);

/** The quantity by its code; throws for a code that is not in the list (programmer error). */
export function quantityOf(code: QuantityCode): Quantity {
  const found = byCode.get(code);
  if (!found) throw new Error(`unknown quantity ${code}`);
  return found;
}

/** Whether a value lies where its quantity may honestly stand still. */
export const mayRest = (code: QuantityCode, value: number): boolean =>
  quantityOf(code).rests.some(([low, high]) => value >= low && value <= high);

/** A description that means something, since it ends up in file names: "Map store humidity", 24 characters at most. */
export const describeChannel = (zone: string, code: QuantityCode): string => {
  const { short } = quantityOf(code);
  return `${zone.slice(0, 23 - short.length).trim()} ${short}`;
};
