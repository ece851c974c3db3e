import type { QuantityCode } from '../quantity/quantity';
import { notNegative } from '../valid';

/** What a handheld wants of whoever carries it. */
export interface Care {
  /** It switches itself off after so long without a key, s; null for one that stays on, or nobody knows. */
  readonly switchesOffAfter: number | null;
  /** What is done before it is read, in order. */
  readonly preparation: readonly string[];
  /** What of it wears: a membrane cap, an electrode, a filter. */
  readonly parts: readonly WornPart[];
  /** How long it takes to answer, by quantity: time constant, s. */
  readonly responses: readonly { readonly quantity: QuantityCode; readonly seconds: number }[];
}
export interface WornPart {
  readonly name: string;
  /** Day it was put in, as 2026-03-02. */
  readonly renewedOn: string;
  /** For how many days it is good. */
  readonly goodFor: number;
}

export const noCare: Care = { switchesOffAfter: null, preparation: [], parts: [], responses: [] };

/**
 * Whether an instrument switches itself off before sensor and reference have come to rest: then a key is pressed in
 * between, or its switch-off is turned off.
 *
 * @param switchesOffAfter s, > 0; null for one that stays on
 * @param takes how long one reading takes, s, ≥ 0
 * @example goesOffFirst(300, 360) // true
 */
export const goesOffFirst = (switchesOffAfter: number | null, takes: number): boolean =>
  switchesOffAfter !== null && switchesOffAfter <= notNegative('time of a reading', takes);

/**
 * Since how many days a part is past what it is good for; negative while it is good.
 *
 * @param part renewed on a day that is one, good for ≥ 0 days
 * @param today as 2026-03-02
 * @example daysWorn({ name: 'cap', renewedOn: '2026-01-01', goodFor: 30 }, '2026-02-10') // 10
 */
export function daysWorn({ renewedOn, goodFor }: WornPart, today: string): number {
  const days = (Date.parse(today) - Date.parse(renewedOn)) / 86_400_000;
  if (!Number.isFinite(days)) throw new RangeError(`${renewedOn} or ${today} is no day`);
  return Math.round(days - notNegative('days it is good for', goodFor));
}
