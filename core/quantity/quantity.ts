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
}

export type QuantityCode =
  | 'airTemperature'
  | 'humidity'
  | 'waterTemperature'
  | 'ph'
  | 'dissolvedOxygen'
  | 'turbidity'
  | 'waterLevel'
  | 'velocity'
  | 'bulkMoisture'
  | 'windSpeed'
  | 'windDirection'
  | 'rain'
  | 'airPressure';

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
  aggregate: Aggregate = 'mean',
  settleShare = 0.25,
): Quantity {
  return { code, name, short, unit, decimals, range, tolerance, guard, settleWindow, aggregate, settleShare };
}

/**
 * Tide, flow and wind never rest: sensor and reference are read at the same moment instead, and a
 * few tolerances of movement over a short watch are no obstacle.
 */
const neverRests = 6;

const all: readonly Quantity[] = [
  quantity('airTemperature', 'Air temperature', 'air temp', '°C', 2, [-60, 80], 0.4, 2, 60),
  quantity('humidity', 'Humidity', 'humidity', '%RH', 1, [0, 100], 2.5, 8, 60),
  quantity('waterTemperature', 'Water temperature', 'water temp', '°C', 2, [-5, 45], 0.3, 1.5, 60),
  quantity('ph', 'pH', 'pH', 'pH', 2, [0, 14], 0.15, 0.6, 90),
  quantity('dissolvedOxygen', 'Dissolved oxygen', 'oxygen', 'mg/L', 2, [0, 25], 0.3, 1.5, 90),
  quantity('turbidity', 'Turbidity', 'turbidity', 'NTU', 1, [0, 4000], 1, 5, 60),
  quantity('waterLevel', 'Water level', 'level', 'm', 3, [-20, 100], 0.01, 0.05, 10, 'mean', neverRests),
  quantity(
    'velocity',
    'Surface velocity',
    'velocity',
    'm/s',
    3,
    [-15, 15],
    0.05,
    0.25,
    10,
    'mean',
    neverRests,
  ),
  quantity('bulkMoisture', 'Bulk moisture', 'moisture', '%', 1, [0, 100], 1, 1.8, 60),
  quantity('windSpeed', 'Wind speed', 'wind speed', 'm/s', 1, [0, 90], 0.5, 2, 10, 'mean', neverRests),
  quantity(
    'windDirection',
    'Wind direction',
    'wind from',
    '°',
    0,
    [0, 360],
    5,
    20,
    10,
    'circular',
    neverRests,
  ),
  quantity('rain', 'Rain', 'rain', 'mm', 1, [0, 500], 0.2, 1, 60, 'total'),
  quantity('airPressure', 'Air pressure', 'pressure', 'hPa', 1, [500, 1100], 0.5, 2, 30),
];

const byCode = new Map(all.map((q) => [q.code, q]));

export const quantityCodes: readonly QuantityCode[] = all.map((q) => q.code);

/** The quantity by its code; throws for a code that is not in the list (programmer error). */
export function quantityOf(code: QuantityCode): Quantity {
  const found = byCode.get(code);
  if (!found) throw new Error(`unknown quantity ${code}`);
  return found;
}

/** A description that means something, since it ends up in file names: "Map store humidity", 24 characters at most. */
export const describeChannel = (zone: string, code: QuantityCode): string => {
  const { short } = quantityOf(code);
  return `${zone.slice(0, 23 - short.length).trim()} ${short}`;
};
