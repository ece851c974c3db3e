import type { Unit } from './unit';

/** How readings of a quantity may be drawn together: circular for directions, total for rain. */
export type Aggregate = 'mean' | 'total' | 'circular';

/** A quantity as one object: all the application knows of it. Our own choices where no source is named. */
interface QuantitySpec {
  readonly name: string;
  /** Short form for descriptions, which loggers keep only so many characters of. */
  readonly short: string;
  /** Base unit: what is stored. */
  readonly unit: Unit;
  readonly aggregate: Aggregate;
  /** Decimals that make sense for field sensors of this quantity. */
  readonly decimals: number;
  /**
   * What a sensor or handheld of this quantity can honestly show; outside is refused. Base unit. Wide
   * enough for good data: sensors overshoot saturation a little, zeros drift below 0.
   */
  readonly range: readonly [low: number, high: number];
  /** Tolerance of the sensor ± when a channel states none. Base unit. */
  readonly tolerance: number;
  /** Guard: largest single adjustment without a second look. Base unit. */
  readonly guard: number;
  readonly settle: {
    /** How long readings are watched before they can be called settled, s. */
    readonly window: number;
    /** Largest movement over the window that counts as rest, as a share of the tolerance. */
    readonly share: number;
  };
  /** Where a value may honestly stand still, base unit: saturated air, no rain, calm. Not called stuck there. */
  readonly rests: readonly (readonly [low: number, high: number])[];
  /** What the quality tests of a new channel start with; null where it may rest or jump for days. */
  readonly usual: {
    readonly spike: { readonly suspect: number; readonly fail: number };
    readonly perHour: number;
    readonly flat: { readonly eps: number; readonly suspectHours: number; readonly failHours: number };
  } | null;
  /** Words it is known by in files: its own, and general ones that are asked after everybody's own. */
  readonly words: { readonly own: RegExp | null; readonly general: RegExp | null };
}

/** Tide, flow and wind never rest: sensor and reference are read at the same moment instead, and a
 * few tolerances of movement over a short watch are no obstacle. */
const neverRests = { window: 10, share: 6 };
const still = (window: number) => ({ window, share: 0.25 });

const usual = (
  suspect: number,
  fail: number,
  perHour: number,
  eps: number,
  suspectHours: number,
  failHours: number,
) => ({ spike: { suspect, fail }, perHour, flat: { eps, suspectHours, failHours } });

const quantities = {
  airTemperature: {
    name: 'Air temperature',
    short: 'air temp',
    unit: '°C',
    aggregate: 'mean',
    decimals: 2,
    range: [-60, 80],
    tolerance: 0.4,
    guard: 2,
    settle: still(60),
    rests: [],
    usual: usual(3, 6, 12, 0.005, 12, 24),
    words: { own: null, general: /temp/i },
  },
  dewPoint: {
    name: 'Dew point',
    short: 'dew point',
    unit: '°C',
    aggregate: 'mean',
    decimals: 2,
    range: [-80, 60],
    tolerance: 0.8,
    guard: 3,
    settle: still(60),
    rests: [],
    usual: usual(4, 8, 15, 0.005, 12, 24),
    words: { own: /dew ?(point|pt)|\btd\b/i, general: null },
  },
  humidity: {
    name: 'Humidity',
    short: 'humidity',
    unit: '%RH',
    aggregate: 'mean',
    decimals: 1,
    range: [0, 105],
    tolerance: 2.5,
    guard: 8,
    settle: still(60),
    rests: [[99.5, 105]],
    usual: usual(12, 25, 60, 0.05, 12, 24),
    words: { own: /humid|\brh\b|feuchte/i, general: null },
  },
  waterTemperature: {
    name: 'Water temperature',
    short: 'water temp',
    unit: '°C',
    aggregate: 'mean',
    decimals: 2,
    range: [-5, 45],
    tolerance: 0.3,
    guard: 1.5,
    settle: still(60),
    rests: [],
    usual: usual(1, 2.5, 4, 0.005, 24, 48),
    words: { own: /water.*temp|wassertemp/i, general: null },
  },
  ph: {
    name: 'pH',
    short: 'pH',
    unit: 'pH',
    aggregate: 'mean',
    decimals: 2,
    range: [0, 14],
    tolerance: 0.15,
    guard: 0.6,
    settle: still(90),
    rests: [],
    usual: usual(0.4, 1, 1, 0.005, 24, 48),
    words: { own: /\bph\b/i, general: null },
  },
  dissolvedOxygen: {
    name: 'Dissolved oxygen',
    short: 'oxygen',
    unit: 'mg/L',
    aggregate: 'mean',
    decimals: 2,
    range: [-0.5, 30],
    tolerance: 0.3,
    guard: 1.5,
    settle: still(90),
    rests: [],
    usual: usual(1, 2.5, 4, 0.005, 24, 48),
    words: { own: null, general: /oxygen|\bdo\b/i },
  },
  oxygenSaturation: {
    name: 'Oxygen saturation',
    short: 'oxygen sat',
    unit: '%',
    aggregate: 'mean',
    decimals: 1,
    range: [-2, 300],
    tolerance: 3,
    guard: 15,
    settle: still(90),
    rests: [],
    usual: usual(12, 25, 40, 0.05, 24, 48),
    words: { own: /oxygen.*sat|\bdo sat/i, general: /oxygen|\bdo\b/i },
  },
  turbidity: {
    name: 'Turbidity',
    short: 'turbidity',
    unit: 'NTU',
    aggregate: 'mean',
    decimals: 1,
    range: [-5, 4000],
    tolerance: 1,
    guard: 5,
    settle: still(60),
    rests: [],
    usual: usual(40, 150, 400, 0.05, 24, 72),
    words: { own: /turb/i, general: null },
  },
  conductivity: {
    name: 'Conductivity',
    short: 'conductivity',
    unit: 'µS/cm',
    aggregate: 'mean',
    decimals: 0,
    range: [-10, 100_000],
    tolerance: 20,
    guard: 100,
    settle: still(60),
    rests: [],
    usual: usual(200, 1000, 2000, 0.05, 48, 96),
    words: { own: /conduct|\bec\b/i, general: null },
  },
  waterLevel: {
    name: 'Water level',
    short: 'level',
    unit: 'm',
    aggregate: 'mean',
    decimals: 3,
    range: [-500, 9000],
    tolerance: 0.01,
    guard: 0.05,
    settle: neverRests,
    rests: [],
    usual: usual(0.15, 0.5, 2.5, 0.0005, 12, 24),
    words: { own: /level|stage|pegel/i, general: null },
  },
  velocity: {
    name: 'Surface velocity',
    short: 'velocity',
    unit: 'm/s',
    aggregate: 'mean',
    decimals: 3,
    range: [-15, 15],
    tolerance: 0.05,
    guard: 0.25,
    settle: neverRests,
    rests: [],
    usual: usual(0.5, 1.5, 6, 0.0005, 12, 24),
    words: { own: /veloc/i, general: null },
  },
  discharge: {
    name: 'Discharge',
    short: 'discharge',
    unit: 'm³/s',
    aggregate: 'mean',
    decimals: 3,
    range: [-10_000, 400_000],
    tolerance: 0.1,
    guard: 1,
    settle: neverRests,
    rests: [],
    usual: null,
    words: { own: /discharge|\bflow\b|abfluss/i, general: null },
  },
  bulkMoisture: {
    name: 'Bulk moisture',
    short: 'moisture',
    unit: '%',
    aggregate: 'mean',
    decimals: 1,
    range: [0, 100],
    tolerance: 1,
    guard: 1.8,
    settle: still(60),
    rests: [],
    usual: usual(3, 8, 15, 0.05, 12, 24),
    words: { own: null, general: /moist/i },
  },
  windSpeed: {
    name: 'Wind speed',
    short: 'wind speed',
    unit: 'm/s',
    aggregate: 'mean',
    decimals: 1,
    range: [-0.5, 120],
    tolerance: 0.5,
    guard: 2,
    settle: neverRests,
    rests: [[-0.5, 0.5]],
    usual: null,
    words: { own: null, general: /wind|gust/i },
  },
  windDirection: {
    name: 'Wind direction',
    short: 'wind from',
    unit: '°',
    aggregate: 'circular',
    decimals: 0,
    range: [0, 360],
    tolerance: 5,
    guard: 20,
    settle: neverRests,
    rests: [],
    usual: null,
    words: { own: /wind.*(dir|from)|direction|bearing/i, general: null },
  },
  rain: {
    name: 'Rain',
    short: 'rain',
    unit: 'mm',
    aggregate: 'total',
    decimals: 1,
    range: [0, 2000],
    tolerance: 0.2,
    guard: 1,
    settle: still(60),
    rests: [[0, 0]],
    usual: null,
    words: { own: /rain|precip|niederschlag/i, general: null },
  },
  airPressure: {
    name: 'Air pressure',
    short: 'pressure',
    unit: 'hPa',
    aggregate: 'mean',
    decimals: 1,
    range: [300, 1100],
    tolerance: 0.5,
    guard: 2,
    settle: still(30),
    rests: [],
    usual: usual(3, 8, 8, 0.05, 6, 12),
    words: { own: /press|baro/i, general: null },
  },
  co2: {
    name: 'Carbon dioxide',
    short: 'CO2',
    unit: 'ppm',
    aggregate: 'mean',
    decimals: 0,
    range: [0, 100_000],
    tolerance: 50,
    guard: 200,
    settle: still(120),
    rests: [],
    usual: usual(300, 1000, 3000, 0.05, 12, 24),
    words: { own: /\bco ?2\b|carbon dioxide/i, general: null },
  },
  radiation: {
    name: 'Radiation',
    short: 'radiation',
    unit: 'W/m²',
    aggregate: 'mean',
    decimals: 0,
    range: [-30, 2000],
    tolerance: 20,
    guard: 80,
    settle: still(30),
    rests: [[-30, 2]],
    usual: null,
    words: { own: /radiation|irradi|pyran/i, general: null },
  },
  illuminance: {
    name: 'Illuminance',
    short: 'light',
    unit: 'lx',
    aggregate: 'mean',
    decimals: 0,
    range: [-5, 250_000],
    tolerance: 50,
    guard: 500,
    settle: still(30),
    rests: [[-5, 5]],
    usual: null,
    words: { own: /illum|\blux\b|\blight\b/i, general: null },
  },
  soilTemperature: {
    name: 'Soil temperature',
    short: 'soil temp',
    unit: '°C',
    aggregate: 'mean',
    decimals: 2,
    range: [-40, 70],
    tolerance: 0.4,
    guard: 2,
    settle: still(300),
    rests: [[-0.5, 0.5]],
    usual: usual(2, 4, 6, 0.005, 48, 96),
    words: { own: /soil.*temp/i, general: null },
  },
  surfaceTemperature: {
    name: 'Surface temperature',
    short: 'surface temp',
    unit: '°C',
    aggregate: 'mean',
    decimals: 2,
    range: [-60, 120],
    tolerance: 0.6,
    guard: 3,
    settle: still(120),
    rests: [],
    usual: usual(5, 10, 30, 0.005, 12, 24),
    words: { own: /surf.*temp/i, general: null },
  },
  moduleTemperature: {
    name: 'Module temperature',
    short: 'module temp',
    unit: '°C',
    aggregate: 'mean',
    decimals: 1,
    range: [-60, 130],
    tolerance: 1,
    guard: 4,
    settle: still(120),
    rests: [],
    usual: usual(8, 16, 60, 0.01, 24, 48),
    words: { own: /module.*temp/i, general: null },
  },
  soilMoisture: {
    name: 'Soil moisture',
    short: 'soil moisture',
    unit: '%',
    aggregate: 'mean',
    decimals: 1,
    range: [-2, 105],
    tolerance: 3,
    guard: 10,
    settle: still(60),
    rests: [[-2, 105]],
    usual: null,
    words: { own: /soil.*(moist|water)|\bvwc\b/i, general: null },
  },
  woodMoisture: {
    name: 'Wood moisture',
    short: 'wood moisture',
    unit: '%',
    aggregate: 'mean',
    decimals: 1,
    // Of the dry mass: green wood holds more water than wood.
    range: [0, 250],
    tolerance: 2,
    guard: 4,
    settle: still(60),
    rests: [[0, 250]],
    usual: null,
    words: { own: /(wood|timber|beam).*moist/i, general: null },
  },
  leafWetness: {
    name: 'Leaf wetness',
    short: 'wetness',
    unit: 'counts',
    aggregate: 'mean',
    decimals: 0,
    range: [0, 4095],
    tolerance: 25,
    guard: 200,
    settle: still(30),
    rests: [[0, 4095]],
    usual: null,
    words: { own: /wetness/i, general: null },
  },
  airFlow: {
    name: 'Air flow',
    short: 'air flow',
    unit: 'm/s',
    aggregate: 'mean',
    decimals: 2,
    range: [-40, 40],
    tolerance: 0.3,
    guard: 2,
    settle: neverRests,
    rests: [[-0.05, 0.05]],
    usual: null,
    words: { own: /air ?flow/i, general: null },
  },
  vibration: {
    name: 'Vibration',
    short: 'vibration',
    unit: 'mm/s',
    aggregate: 'mean',
    decimals: 2,
    range: [-0.5, 200],
    tolerance: 0.5,
    guard: 3,
    settle: neverRests,
    rests: [[-0.5, 0.2]],
    usual: null,
    words: { own: /vibrat/i, general: null },
  },
  tankLevel: {
    name: 'Tank level',
    short: 'tank level',
    unit: 'm',
    aggregate: 'mean',
    decimals: 2,
    range: [-1, 60],
    tolerance: 0.02,
    guard: 0.3,
    settle: still(60),
    rests: [[-1, 60]],
    usual: null,
    words: { own: /tank.*level|\bsump\b/i, general: null },
  },
  electricCurrent: {
    name: 'Electric current',
    short: 'current',
    unit: 'A',
    aggregate: 'mean',
    decimals: 2,
    range: [-2000, 2000],
    tolerance: 0.5,
    guard: 5,
    settle: still(30),
    rests: [[-0.1, 0.1]],
    usual: null,
    words: { own: /\bamps?\b/i, general: null },
  },
  signal: {
    name: 'Signal',
    short: 'signal',
    unit: 'V',
    aggregate: 'mean',
    decimals: 4,
    range: [-100, 100],
    tolerance: 0.01,
    guard: 0.5,
    settle: still(30),
    rests: [[-100, 100]],
    usual: null,
    words: { own: null, general: null },
  },
} as const satisfies Readonly<Record<string, QuantitySpec>>;

export type QuantityCode = keyof typeof quantities;
export interface Quantity extends QuantitySpec {
  readonly code: QuantityCode;
}

export const quantityCodes = Object.keys(quantities) as readonly QuantityCode[];

const byCode = new Map<string, Quantity>(quantityCodes.map((code) => [code, { code, ...quantities[code] }]));

/** The quantity by its code; throws for a code that is not in the list (programmer error). */
export function quantityOf(code: QuantityCode): Quantity {
  const found = byCode.get(code);
  if (!found) throw new Error(`unknown quantity ${code}`);
  return found;
}

/**
 * The name of a quantity within a sentence.
 *
 * @example inSentence('ph') // 'pH'
 */
export const inSentence = (code: QuantityCode): string => {
  const { name } = quantityOf(code);
  // A symbol keeps its capitals.
  return name === 'pH' ? name : name.toLowerCase();
};

/**
 * Whether a value lies where its quantity may honestly stand still.
 *
 * @example mayRest('humidity', 100) // true
 */
export const mayRest = (code: QuantityCode, value: number): boolean =>
  quantityOf(code).rests.some(([low, high]) => value >= low && value <= high);

/**
 * A description that means something, since it ends up in file names: "Map store humidity", 24 characters at most.
 *
 * @example describeChannel('Map store', 'humidity') // 'Map store humidity'
 */
export const describeChannel = (zone: string, code: QuantityCode): string => {
  const { short } = quantityOf(code);
  return `${zone.slice(0, 23 - short.length).trim()} ${short}`;
};
