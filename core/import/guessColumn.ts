import { quantityCodes, quantityOf, type QuantityCode } from '../quantity/quantity';
import { convertible, isUnit, type Unit } from '../quantity/unit';

/** Spellings of units in other people's files, in lower case. */
const spellings: Readonly<Record<string, Unit>> = {
  c: '°C',
  '°c': '°C',
  degc: '°C',
  'deg c': '°C',
  celsius: '°C',
  f: '°F',
  '°f': '°F',
  degf: '°F',
  'deg f': '°F',
  fahrenheit: '°F',
  k: 'K',
  kelvin: 'K',
  rh: '%RH',
  '%rh': '%RH',
  '% rh': '%RH',
  percent: '%',
  pct: '%',
  metre: 'm',
  metres: 'm',
  meter: 'm',
  meters: 'm',
  feet: 'ft',
  foot: 'ft',
  inch: 'in',
  inches: 'in',
  'm s-1': 'm/s',
  mps: 'm/s',
  kmh: 'km/h',
  kph: 'km/h',
  'mi/h': 'mph',
  kt: 'kn',
  kts: 'kn',
  knot: 'kn',
  knots: 'kn',
  fps: 'ft/s',
  'm3/s': 'm³/s',
  'm^3/s': 'm³/s',
  cumecs: 'm³/s',
  'l/s': 'L/s',
  lps: 'L/s',
  hpa: 'hPa',
  mbar: 'hPa',
  mb: 'hPa',
  kpa: 'kPa',
  pa: 'Pa',
  mmhg: 'mmHg',
  'mm hg': 'mmHg',
  inhg: 'inHg',
  'in hg': 'inHg',
  psi: 'psi',
  'mg/l': 'mg/L',
  mgl: 'mg/L',
  ppm: 'ppm',
  ntu: 'NTU',
  ph: 'pH',
  'us/cm': 'µS/cm',
  'μs/cm': 'µS/cm',
  'ms/cm': 'mS/cm',
  'w/m2': 'W/m²',
  'w/m^2': 'W/m²',
  'w m-2': 'W/m²',
  lux: 'lx',
  deg: '°',
  degree: '°',
  degrees: '°',
};

/**
 * The unit a file's text means, if it is one this application knows.
 *
 * @example unitNamed('degC') // '°C'
 */
export const unitNamed = (text: string): Unit | null => {
  const clean = text.trim();
  if (isUnit(clean)) return clean;
  const lower = clean.toLowerCase();
  return (
    (Object.hasOwn(spellings, lower) ? spellings[lower]! : null) ??
    (['cm', 'mm', 'mph', 'kn', 'ft', 'lx', 'in', 'm'] as const).find((u) => u === lower) ??
    null
  );
};

/** Quantities that a name speaks of: by their own words first, then by general ones. */
const named = (name: string): QuantityCode[] => {
  const by = (which: 'own' | 'general') =>
    quantityCodes.filter((code) => quantityOf(code).words[which]?.test(name));
  return [...by('own'), ...by('general')];
};

/** A name as words: "level_ft", "AirTemp.Avg" and "DO-mgL" are made of several. */
const asWords = (name: string): string =>
  name
    .replace(/[_.\-/]+/g, ' ')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .trim();

/** A unit as a quantity takes it: per cent of humidity are %RH. */
const unitFor = (unit: Unit, code: QuantityCode): Unit | null => {
  const own = unit === '%' && code === 'humidity' ? '%RH' : unit;
  return convertible(own, quantityOf(code).unit) ? own : null;
};

/** What is written of a column's unit: in a row of units or in brackets, or as the last word of its name. */
function writtenUnit(name: string, unitText: string): { text: string; unit: Unit | null } | null {
  if (unitText.trim() !== '') return { text: unitText.trim(), unit: unitNamed(unitText) };
  const last = / (\S+)$/.exec(asWords(name))?.[1];
  const suffix = last ? unitNamed(last) : null;
  return suffix ? { text: last!, unit: suffix } : null;
}

/**
 * The unit a column is written in, for a quantity: the quantity's own where nothing is written; null
 * where something is that is not known, or does not fit. Then a person has to say; it never becomes
 * the base unit by itself.
 * @example columnUnit('humidity', 'Humidity', '%') // '%RH'
 */
export function columnUnit(quantity: QuantityCode, name: string, unitText: string): Unit | null {
  const written = writtenUnit(name, unitText);
  if (!written) return quantityOf(quantity).unit;
  if (written.unit === null) return null;
  const fitting = unitFor(written.unit, quantity);
  // A last word that only looks like a unit ("Well m") says nothing against the quantity's own.
  return fitting ?? (unitText.trim() === '' ? quantityOf(quantity).unit : null);
}

/**
 * What a column may hold, from its name and unit; null when neither says. The unit is null where one is
 * written that is not known: a person has to say. A proposal to look at, never more. Common practice,
 * no source.
 * @example guessColumn('water_level_ft', '') // { quantity: 'waterLevel', unit: 'ft' }
 */
export function guessColumn(
  name: string,
  unitText: string,
): { quantity: QuantityCode; unit: Unit | null } | null {
  const plain = asWords(name);
  const written = writtenUnit(name, unitText);
  const codes = named(plain);
  if (written && written.unit === null) return codes[0] ? { quantity: codes[0], unit: null } : null;
  const unit = written?.unit ?? null;
  const fits = (code: QuantityCode) => unit === null || unitFor(unit, code) !== null;
  const own = (code: QuantityCode) => quantityOf(code).unit === unit;
  const byName = codes.find(fits);
  if (byName) return { quantity: byName, unit: columnUnit(byName, name, unitText) };
  // A unit that says otherwise than the name: the name may be anything, the person decides.
  if (codes[0]) return { quantity: codes[0], unit: columnUnit(codes[0], name, unitText) };
  if (unit === null || unitText.trim() === '') return null;
  const byUnit = quantityCodes.find(own) ?? quantityCodes.find(fits);
  return byUnit ? { quantity: byUnit, unit } : null;
}

/** What files of one origin share: delimiter, names, units. The same signature is offered the same plan. */
export const fileSignature = (
  delimiter: string,
  columns: readonly { name: string; unit: string }[],
): string => `${delimiter}|${columns.map((c) => `${c.name}\u0001${c.unit}`).join('|')}`.slice(0, 2000);
