import type { SimState } from './state';

/** What a sensor of the stand can be put into, to practise: each a place of its own. Water at 20 °C, air at 1 000 hPa. */
const water = { base: 20 };
/** A probe for soil that lies in water is full of it. */
const soaked = { soilMoisture: { base: 100 } };
export const media = {
  'pH 6.86': { ph: { base: 6.881 }, waterTemperature: water },
  'pH 4.01': { ph: { base: 4.0 }, waterTemperature: water },
  'pH 9.18': { ph: { base: 9.225 }, waterTemperature: water },
  // What water in balance with this air holds: 8.97 mg/L (Benson & Krause, at 1 000 hPa and 20 °C).
  'saturated air': {
    dissolvedOxygen: { base: 8.968 },
    oxygenSaturation: { base: 100 },
    waterTemperature: water,
  },
  'distilled water': {
    turbidity: { base: 0.05 },
    conductivity: { base: 1 },
    waterTemperature: water,
    soilTemperature: water,
    ...soaked,
  },
  'turbidity 20': { turbidity: { base: 20 }, waterTemperature: water },
  'KCl 0.01': {
    conductivity: { base: 1413 },
    waterTemperature: { base: 25 },
    soilTemperature: { base: 25 },
    ...soaked,
  },
  'melting ice': {
    waterTemperature: { base: 0 },
    airTemperature: { base: 0 },
    soilTemperature: { base: 0 },
    surfaceTemperature: { base: 0 },
    ...soaked,
  },
  'stirred bath': {
    waterTemperature: { base: 12.4 },
    airTemperature: { base: 12.4 },
    soilTemperature: { base: 12.4 },
    surfaceTemperature: { base: 12.4 },
    ...soaked,
  },
  'column of 0.200 m': { waterLevel: { base: 0.2 } },
  'column of 0.600 m': { waterLevel: { base: 0.6 } },
  // A vane held along a line that the map says.
  'bearing of 214°': { windDirection: { base: 214 } },
  'dark cap': { radiation: { base: 0 }, illuminance: { base: 0 } },
  'sodium chloride': { humidity: { base: 75.5 }, airTemperature: { base: 20 } },
  'magnesium chloride': { humidity: { base: 33.1 }, airTemperature: { base: 20 } },
  'zero gas': { co2: { base: 0 } },
  'outdoor air': { co2: { base: 427 } },
  'span gas': { co2: { base: 1000 } },
} as const satisfies Record<string, SimState['places'][string]>;

export type Medium = keyof typeof media;

/** Those that show a sensor something that it measures. */
export const mediaFor = (quantities: readonly string[]): readonly Medium[] =>
  (Object.keys(media) as Medium[]).filter((m) => Object.keys(media[m]).some((q) => quantities.includes(q)));

const prefix = 'Medium/';
export const mediumPlace = (medium: string): string => `${prefix}${medium}`;

/** The medium a place is; null for a place of the world. */
export const mediumOf = (place: string): string | null =>
  place.startsWith(prefix) ? place.slice(prefix.length) : null;

/** How it is there; null for a place of the world. */
export const mediumAt = (place: string): SimState['places'][string] | null =>
  place.startsWith(prefix) ? ((media as SimState['places'])[place.slice(prefix.length)] ?? null) : null;
