/**
 * Units a value can be shown or entered in. What is stored is in the base unit of its quantity: a
 * water level in m, rain in mm, though both are lengths.
 *
 * Values and differences convert by different functions: an offset of 1 °C is 1.8 °F, not 33.8.
 * Source of the factors: NIST SP 811 (2008), Appendix B (from memory): exact by definition, but for
 * the conventional millimetre and inch of mercury.
 */
interface Scale {
  readonly kind: string;
  /** value in the kind's own unit = value · factor + zero */
  readonly factor: number;
  readonly zero: number;
}

const scale = (kind: string, factor = 1, zero = 0): Scale => ({ kind, factor, zero });

const scales = {
  '°C': scale('temperature'),
  '°F': scale('temperature', 5 / 9, -160 / 9),
  K: scale('temperature', 1, -273.15),
  '%RH': scale('relative humidity'),
  '%': scale('share'),
  m: scale('length'),
  cm: scale('length', 0.01),
  mm: scale('length', 0.001),
  ft: scale('length', 0.3048),
  in: scale('length', 0.0254),
  'm/s': scale('speed'),
  'mm/s': scale('speed', 0.001),
  'km/h': scale('speed', 1 / 3.6),
  mph: scale('speed', 0.44704),
  kn: scale('speed', 1852 / 3600),
  'ft/s': scale('speed', 0.3048),
  mL: scale('volume'),
  L: scale('volume', 1000),
  g: scale('mass'),
  kg: scale('mass', 1000),
  'g/kg': scale('salinity'),
  'm³/s': scale('discharge'),
  'L/s': scale('discharge', 0.001),
  hPa: scale('pressure'),
  kPa: scale('pressure', 10),
  Pa: scale('pressure', 0.01),
  mmHg: scale('pressure', 1.33322387415),
  inHg: scale('pressure', 33.86388640341),
  psi: scale('pressure', 68.94757293168361),
  'mg/L': scale('mass concentration'),
  ppm: scale('parts per million'),
  pH: scale('pH'),
  NTU: scale('turbidity'),
  'µS/cm': scale('conductivity'),
  'mS/cm': scale('conductivity', 1000),
  'W/m²': scale('irradiance'),
  lx: scale('illuminance'),
  A: scale('current'),
  mA: scale('current', 0.001),
  V: scale('voltage'),
  mV: scale('voltage', 0.001),
  counts: scale('count'),
  '°': scale('direction'),
  s: scale('time'),
  min: scale('time', 60),
} as const;

export type Unit = keyof typeof scales;

/**
 * Whether a text names a unit this application knows.
 *
 * @example isUnit('furlong') // false
 */
export const isUnit = (text: string): text is Unit => Object.hasOwn(scales, text);

/**
 * Whether values in one unit can be given in the other.
 *
 * @example convertible('ft', 'm') // true
 */
export const convertible = (a: Unit, b: Unit): boolean => scales[a].kind === scales[b].kind;

/** Units that can stand in for one another, the one asked for first. */
export const unitsLike = (unit: Unit): readonly Unit[] => [
  unit,
  ...(Object.keys(scales) as Unit[]).filter((u) => u !== unit && convertible(u, unit)),
];

/**
 * A value in `unit`, given in `base`. Any finite value; NaN stays NaN. RangeError for units of two kinds.
 *
 * @example valueToBase(50, '°F', '°C') // 10
 */
export function valueToBase(value: number, unit: Unit, base: Unit): number {
  if (unit === base) return value;
  const [from, to] = bothOf(unit, base);
  return (value * from.factor + from.zero - to.zero) / to.factor;
}

/**
 * A value in `base`, given in `unit`.
 *
 * @example valueFromBase(10, '°F', '°C') // 50
 */
export const valueFromBase = (value: number, unit: Unit, base: Unit): number =>
  valueToBase(value, base, unit);

/**
 * A difference, offset or tolerance in `unit`, given in `base`: no zero shift. RangeError for units of two kinds.
 *
 * @example differenceToBase(1.8, '°F', '°C') // 1
 */
export function differenceToBase(difference: number, unit: Unit, base: Unit): number {
  if (unit === base) return difference;
  const [from, to] = bothOf(unit, base);
  return (difference * from.factor) / to.factor;
}

/**
 * A difference, offset or tolerance in `base`, given in `unit`.
 *
 * @example differenceFromBase(1, '°F', '°C') // 1.8
 */
export const differenceFromBase = (difference: number, unit: Unit, base: Unit): number =>
  differenceToBase(difference, base, unit);

function bothOf(unit: Unit, base: Unit): [Scale, Scale] {
  if (!convertible(unit, base)) throw new RangeError(`${unit} cannot be given in ${base}`);
  return [scales[unit], scales[base]];
}
