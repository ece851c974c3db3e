import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { baseUnit, isUnit, type Unit } from '../quantity/unit';

/** Spellings of units in other people's files. */
const spellings: Readonly<Record<string, Unit>> = {
  c: '°C',
  degc: '°C',
  celsius: '°C',
  f: '°F',
  degf: '°F',
  rh: '%RH',
  '% rh': '%RH',
  mbar: 'hPa',
  hpa: 'hPa',
  mmhg: 'mmHg',
  'mg/l': 'mg/L',
  ntu: 'NTU',
  ph: 'pH',
  deg: '°',
  'm s-1': 'm/s',
  inch: 'in',
};

/** The unit a file's text means, if it is one this application knows. */
export const unitNamed = (text: string): Unit | null => {
  const clean = text.trim();
  return isUnit(clean) ? clean : (spellings[clean.toLowerCase()] ?? null);
};

const words: readonly [RegExp, QuantityCode][] = [
  [/wind.*(dir|from)|direction|bearing/i, 'windDirection'],
  [/wind|gust/i, 'windSpeed'],
  [/press|baro/i, 'airPressure'],
  [/humid|\brh\b|feuchte/i, 'humidity'],
  [/water.*temp|wassertemp/i, 'waterTemperature'],
  [/temp/i, 'airTemperature'],
  [/rain|precip|niederschlag/i, 'rain'],
  [/level|stage|pegel/i, 'waterLevel'],
  [/turb/i, 'turbidity'],
  [/oxygen|\bdo\b/i, 'dissolvedOxygen'],
  [/\bph\b/i, 'ph'],
  [/moist/i, 'bulkMoisture'],
  [/veloc/i, 'velocity'],
];

/**
 * What a column may hold, from its name and unit; null when neither says. A proposal for a person to
 * look at, never more. Common practice, no source.
 */
export function guessColumn(name: string, unitText: string): { quantity: QuantityCode; unit: Unit } | null {
  const unit = unitNamed(unitText);
  const fits = (code: QuantityCode) => unit === null || quantityOf(code).unit === baseUnit(unit);
  const byName = words.find(([pattern, code]) => pattern.test(name) && fits(code))?.[1];
  const byUnit =
    unit === null
      ? undefined
      : words.map(([, code]) => code).find((code) => quantityOf(code).unit === baseUnit(unit));
  const quantity = byName ?? byUnit;
  return quantity ? { quantity, unit: unit ?? quantityOf(quantity).unit } : null;
}

/** What files of one origin share: delimiter, names, units. The same signature is offered the same plan. */
export const fileSignature = (
  delimiter: string,
  columns: readonly { name: string; unit: string }[],
): string => `${delimiter}|${columns.map((c) => `${c.name}\u0001${c.unit}`).join('|')}`.slice(0, 2000);
