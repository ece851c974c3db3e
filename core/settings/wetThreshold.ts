import { dewPoint } from '../moistAir/humidity';
import { formatValue, roundTo } from '../quantity/format';
import { finite, notNegative } from '../valid';

/** So long after rain a leaf may still be wet, h, and so near the dew point it may be, °C. Our own choice. */
export const dryAfterRain = 6;
export const clearOfDewPoint = 2;
/** A record of rain that ended longer ago says nothing of now, h. Our own choice. */
export const rainKnownWithin = 1;

export interface DryReading {
  /** What the sensor reads now, said to be dry; base unit. */
  readonly dry: number;
  /** What its profile adds to it, base unit, ≥ 0. */
  readonly margin: number;
  readonly decimals: number;
  readonly unit: string;
}

export interface WetThreshold {
  /** From here on it counts as wet, base unit. */
  readonly threshold: number;
  readonly sum: string;
}

/**
 * The value from which a leaf counts as wet: what its sensor reads dry, on site, plus the margin of its profile.
 * Common practice, no source (dry counts + 50).
 *
 * @example wetThreshold({ dry: 430, margin: 50, decimals: 0, unit: 'counts' }) // { threshold: 480, sum: '430 + 50 = 480 counts' }
 */
export function wetThreshold({ dry, margin, decimals, unit }: DryReading): WetThreshold {
  // What is said and what is written are the same number.
  const threshold = roundTo(roundTo(finite('dry', dry), decimals) + notNegative('margin', margin), decimals);
  const text = (v: number) => formatValue(v, decimals);
  return {
    threshold,
    sum: `${text(dry)} + ${text(margin)} = ${text(threshold)} ${unit}`,
  };
}

/** What is known of the weather at a station where somebody says that a leaf is dry. */
export interface DryWeather {
  /** mm in the last `dryAfterRain` hours, and for how many h to now nobody knows; null where nothing of it was ever recorded. */
  readonly rain: { readonly mm: number; readonly unknownFor: number } | null;
  /** Air beside it, °C and %RH; null where nobody measures it. */
  readonly air: { readonly temperature: number; readonly humidity: number } | null;
}

/**
 * Why a leaf that is said to be dry may not be; nothing where all speaks for it or nothing is known. Common practice,
 * no source.
 *
 * @param weather rain in mm and h ≥ 0; air at −45…60 °C and up to 105 %RH
 * @example doubtsOfDry({ rain: { mm: 0.4, unknownFor: 0.1 }, air: null }) // ['it rained 0.4 mm in the last 6 h']
 */
export function doubtsOfDry({ rain, air }: DryWeather): string[] {
  const doubts: string[] = [];
  if (rain && notNegative('rain', rain.mm) > 0)
    doubts.push(`it rained ${formatValue(rain.mm, 1)} mm in the last ${dryAfterRain} h`);
  if (rain && notNegative('unknown for', rain.unknownFor) > rainKnownWithin)
    doubts.push(`the record of rain ends ${formatValue(rain.unknownFor, 1)} h ago`);
  if (air && air.humidity > 0) {
    const point = dewPoint(air.temperature, air.humidity);
    if (air.temperature - point < clearOfDewPoint)
      doubts.push(
        `the air is near its dew point: ${formatValue(air.temperature, 1)} − ${formatValue(point, 1)} = ${formatValue(air.temperature - point, 1)} °C`,
      );
  }
  return doubts;
}
