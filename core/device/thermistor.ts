import { positive } from '../valid';

const zero = 273.15;

/** 1/T = a + b · ln R + c · (ln R)³, T in K, R in Ω. Source: Steinhart & Hart (1968), Deep-Sea Research 15, 497–503. */
export interface SteinhartHart {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

/**
 * Temperature of a thermistor, °C.
 *
 * @param ohms Ω, > 0
 * @example steinhartHart({ a: 1.1292e-3, b: 2.3411e-4, c: 8.7755e-8 }, 10_000) // 25.0
 */
export function steinhartHart({ a, b, c }: SteinhartHart, ohms: number): number {
  const ln = Math.log(positive('resistance', ohms));
  return 1 / (a + b * ln + c * ln ** 3) - zero;
}

/**
 * Its inverse, Ω: the one real root of the cubic in ln R, by Cardano's formula.
 *
 * @param t °C, above −273.15
 * @example steinhartHartResistance({ a: 1.1292e-3, b: 2.3411e-4, c: 8.7755e-8 }, 25) // 10000.7
 */
export function steinhartHartResistance({ a, b, c }: SteinhartHart, t: number): number {
  const x = (a - 1 / positive('absolute temperature', t + zero)) / c;
  const y = Math.sqrt((b / (3 * c)) ** 3 + (x / 2) ** 2);
  return Math.exp(Math.cbrt(y - x / 2) - Math.cbrt(y + x / 2));
}

/**
 * The coefficients that go through three points.
 *
 * @param points three of temperature (°C) and resistance (Ω, > 0), all different
 */
export function steinhartHartThrough(
  points: readonly [readonly [number, number], readonly [number, number], readonly [number, number]],
): SteinhartHart {
  const [[y1, l1], [y2, l2], [y3, l3]] = points.map(([t, ohms]) => [
    1 / positive('absolute temperature', t + zero),
    Math.log(positive('resistance', ohms)),
  ]) as [[number, number], [number, number], [number, number]];
  const [g2, g3] = [(y2 - y1) / (l2 - l1), (y3 - y1) / (l3 - l1)];
  const c = (g3 - g2) / ((l3 - l2) * (l1 + l2 + l3));
  const b = g2 - c * (l1 ** 2 + l1 * l2 + l2 ** 2);
  return { a: y1 - l1 * (b + c * l1 ** 2), b, c };
}

/** R = R₂₅ · exp(β · (1/T − 1/298.15 K)): the beta equation, good over a narrow range. Common practice. */
interface Beta {
  /** Ω at 25 °C, > 0. */
  readonly at25: number;
  /** K, > 0. */
  readonly beta: number;
}

/**
 * Temperature by the beta equation, °C.
 *
 * @param ohms Ω, > 0
 * @example betaTemperature({ at25: 10_000, beta: 3950 }, 10_000) // 25.0
 */
export const betaTemperature = ({ at25, beta }: Beta, ohms: number): number =>
  1 / (1 / (25 + zero) + Math.log(positive('resistance', ohms) / at25) / beta) - zero;

/**
 * Resistance by the beta equation, Ω.
 *
 * @param t °C, above −273.15
 * @example betaResistance({ at25: 10_000, beta: 3950 }, 25) // 10000
 */
export const betaResistance = ({ at25, beta }: Beta, t: number): number =>
  at25 * Math.exp(beta * (1 / positive('absolute temperature', t + zero) - 1 / (25 + zero)));
