import { positive } from '../valid';

/** Platinum resistance thermometers. Source: IEC 60751:2008, the Callendar–Van Dusen equation and its coefficients. */
const A = 3.9083e-3;
const B = -5.775e-7;
const C = -4.183e-12;

/**
 * Resistance of a platinum element, Ω; NaN outside −200 to 850 °C.
 *
 * @param t °C, −200 to 850
 * @param at0 resistance at 0 °C, Ω, > 0: 100 for a Pt100
 * @example resistanceAt(100, 100) // 138.5055
 */
export function resistanceAt(t: number, at0: number): number {
  positive('resistance at 0 °C', at0);
  if (!(t >= -200 && t <= 850)) return Number.NaN;
  return at0 * (1 + A * t + B * t ** 2 + (t < 0 ? C * (t - 100) * t ** 3 : 0));
}

/**
 * Temperature of a platinum element, °C; NaN for a resistance outside what −200 to 850 °C give. Above 0 °C
 * in closed form; below there is none, and Newton's method ends at the last digit.
 *
 * @param ohms Ω, > 0
 * @param at0 resistance at 0 °C, Ω, > 0
 * @example temperatureAt(109.73, 100) // 24.99
 */
export function temperatureAt(ohms: number, at0: number): number {
  positive('resistance at 0 °C', at0);
  // Tables round to a hundredth of an ohm of a Pt100: their ends are taken too.
  const rounded = at0 * 5e-5;
  if (!(ohms >= resistanceAt(-200, at0) - rounded && ohms <= resistanceAt(850, at0) + rounded))
    return Number.NaN;
  const closed = (-A + Math.sqrt(A ** 2 - 4 * B * (1 - ohms / at0))) / (2 * B);
  if (ohms >= at0) return closed;
  let t = closed;
  for (let i = 0; i < 8; i++) {
    const slope = at0 * (A + 2 * B * t + C * (4 * t ** 3 - 300 * t ** 2));
    t -= (at0 * (1 + A * t + B * t ** 2 + C * (t - 100) * t ** 3) - ohms) / slope;
  }
  return t;
}

/**
 * Tolerance of an element, ±°C. Source: IEC 60751:2008, table 2.
 *
 * @param t °C
 * @example platinumTolerance('B', 100) // 0.8
 */
export const platinumTolerance = (grade: 'A' | 'B', t: number): number =>
  grade === 'A' ? 0.15 + 0.002 * Math.abs(t) : 0.3 + 0.005 * Math.abs(t);
