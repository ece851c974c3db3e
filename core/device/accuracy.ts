import { finite, notNegative } from '../valid';

/** A maker's accuracy: ± (absolute + share of the reading + share of the range). */
export interface Accuracy {
  /** Base unit, ≥ 0. */
  readonly absolute: number;
  /** Share of the reading, ≥ 0: 0.02 for 2 %. */
  readonly ofReading: number;
  /** Share of the width of the range, ≥ 0. */
  readonly ofRange: number;
}

/**
 * How far a sensor may be off at a reading, ± in the base unit. Throws RangeError for a part below 0 or a
 * range that does not rise. Common practice: the parts are added.
 *
 * @param reading base unit
 * @param range what the sensor measures, base unit
 * @example toleranceAt({ absolute: 0.3, ofReading: 0.02, ofRange: 0.001 }, 10, [0, 50]) // 0.55
 */
export function toleranceAt(
  accuracy: Accuracy,
  reading: number,
  [low, high]: readonly [number, number],
): number {
  if (!(high > low)) throw new RangeError(`range ${low} to ${high} does not rise`);
  return (
    notNegative('absolute', accuracy.absolute) +
    notNegative('share of reading', accuracy.ofReading) * Math.abs(finite('reading', reading)) +
    notNegative('share of range', accuracy.ofRange) * (high - low)
  );
}

/**
 * The same in words.
 *
 * @param unit the quantity's
 * @example accuracyText({ absolute: 0.3, ofReading: 0.02, ofRange: 0 }, '°C') // '±(0.3 °C + 2 % of reading)'
 */
export function accuracyText({ absolute, ofReading, ofRange }: Accuracy, unit: string): string {
  const percent = (share: number) => `${Number((share * 100).toPrecision(6))} %`;
  const parts = [
    absolute > 0 && `${absolute} ${unit}`,
    ofReading > 0 && `${percent(ofReading)} of reading`,
    ofRange > 0 && `${percent(ofRange)} of range`,
  ].filter((p) => p !== false);
  return parts.length > 1 ? `±(${parts.join(' + ')})` : `±${parts[0] ?? `0 ${unit}`}`;
}
