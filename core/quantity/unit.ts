/**
 * Units a value can be shown or entered in, and the field's base unit it is stored in.
 *
 * Values and differences convert by different functions: an offset of 1 °C is 1.8 °F, not 33.8.
 * Conversion factors are exact by definition (NIST SP 811, Appendix B, from memory).
 */
export type Unit =
  '°C' | '°F' | '%RH' | '%' | 'm' | 'ft' | 'm/s' | 'mm' | 'in' | 'hPa' | 'mmHg' | 'mg/L' | 'pH' | 'NTU' | '°';

interface Scale {
  readonly base: Unit;
  /** base = value · factor + zero */
  readonly factor: number;
  readonly zero: number;
}

const own = (base: Unit): Scale => ({ base, factor: 1, zero: 0 });

const scales: Readonly<Record<Unit, Scale>> = {
  '°C': own('°C'),
  '°F': { base: '°C', factor: 5 / 9, zero: -160 / 9 },
  '%RH': own('%RH'),
  '%': own('%'),
  m: own('m'),
  ft: { base: 'm', factor: 0.3048, zero: 0 },
  'm/s': own('m/s'),
  mm: own('mm'),
  in: { base: 'mm', factor: 25.4, zero: 0 },
  hPa: own('hPa'),
  mmHg: { base: 'hPa', factor: 1.33322387415, zero: 0 },
  'mg/L': own('mg/L'),
  pH: own('pH'),
  NTU: own('NTU'),
  '°': own('°'),
};

/** The base unit that values entered in `unit` are stored in. */
export const baseUnit = (unit: Unit): Unit => scales[unit].base;

/** Whether a text names a unit this application knows. */
export const isUnit = (text: string): text is Unit => Object.hasOwn(scales, text);

/** Units that can stand in for one another, base unit first. */
export function unitsLike(unit: Unit): readonly Unit[] {
  const base = baseUnit(unit);
  const all = (Object.keys(scales) as Unit[]).filter((u) => scales[u].base === base);
  return [base, ...all.filter((u) => u !== base)];
}

/** A value in `unit`, in its base unit. Any finite value; NaN stays NaN. */
export const valueToBase = (value: number, unit: Unit): number =>
  value * scales[unit].factor + scales[unit].zero;

/** A base-unit value, in `unit`. */
export const valueFromBase = (value: number, unit: Unit): number =>
  (value - scales[unit].zero) / scales[unit].factor;

/** A difference, offset or tolerance in `unit`, in its base unit: no zero shift. */
export const differenceToBase = (difference: number, unit: Unit): number => difference * scales[unit].factor;

/** A base-unit difference, offset or tolerance, in `unit`. */
export const differenceFromBase = (difference: number, unit: Unit): number =>
  difference / scales[unit].factor;
