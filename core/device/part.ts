import { decodeField, encodeField, type RegisterField } from './registerField';

/** A part that is replaced on site and brings coefficients of its own: the cap of an optical oxygen sensor. */
export interface ReplaceablePart {
  readonly name: string;
  /** Keys of the outputs it bears on. */
  readonly bears: readonly string[];
  /** How long one serves, days; left out where its maker does not say. */
  readonly goodFor?: number;
  /** First of its holding registers; each coefficient is a float32 in two of them, the high word first. */
  readonly register: number;
  /** As they stand on its label, in the order of the registers, with what each may be. */
  readonly coefficients: readonly { readonly name: string; readonly low: number; readonly high: number }[];
  /** Holding register that keeps them when 1 is written to it; null where they are kept at once. */
  readonly storeRegister: number | null;
}

/** A part of a sensor that is replaced on site, as a check knows it. */
export interface PartInUse {
  readonly name: string;
  /** Since when it is in the sensor, at the latest, s since epoch. */
  readonly since: number;
  /** How long it serves by its maker, days, > 0; null where nobody states it. */
  readonly goodFor: number | null;
}

const field = (address: number): RegisterField => ({
  fn: 3,
  address,
  type: 'float32',
  wordOrder: 'high-first',
  missing: [],
});

/**
 * Coefficients as the words of their registers.
 *
 * @param coefficients finite numbers; kept as float32
 * @example partWords([1, -2]) // [16256, 0, 49152, 0]
 */
export const partWords = (coefficients: readonly number[]): number[] =>
  coefficients.flatMap((c) => {
    if (!Number.isFinite(c)) throw new RangeError(`coefficient ${c} is not a finite number`);
    return encodeField(field(0), c);
  });

/** The shortest decimal that is the same float32: as a label would say it, not as a double shows it. */
function shortest(value: number): number {
  for (let digits = 1; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits));
    if (Math.fround(short) === value) return short;
  }
  return value;
}

/**
 * The coefficients that words hold, each as the shortest decimal that is the same float32; NaN for one that is no
 * number.
 *
 * @param words two for each
 * @example partCoefficients([16256, 0, 15523, 55050]) // [1, 0.02]
 */
export const partCoefficients = (words: readonly number[]): number[] =>
  Array.from({ length: Math.floor(words.length / 2) }, (_, i) =>
    shortest(decodeField(field(0), words.slice(2 * i, 2 * i + 2))),
  );

/**
 * The first coefficient that cannot stand on the label of such a part: a slipped digit or sign. Null for none; a number
 * too few or too many is said as its place.
 *
 * @param typed in the order of the label
 * @example refuseCoefficients({ coefficients: [{ name: 'K0', low: 0.5, high: 2 }] }, [10]) // { at: 0, says: 'K0 is 0.5 to 2, not 10' }
 */
export function refuseCoefficients(
  { coefficients }: Pick<ReplaceablePart, 'coefficients'>,
  typed: readonly number[],
): { readonly at: number; readonly says: string } | null {
  if (typed.length !== coefficients.length)
    return {
      at: Math.min(typed.length, coefficients.length),
      says: `its label has ${coefficients.length} coefficients, not ${typed.length}`,
    };
  for (const [at, { name, low, high }] of coefficients.entries()) {
    const value = typed[at]!;
    if (!(value >= low && value <= high)) return { at, says: `${name} is ${low} to ${high}, not ${value}` };
  }
  return null;
}
