import { notNegative, positive } from '../valid';
import { atRest, judgeSettling } from './settling';
import type { TimedValue } from './timedValue';

/** Whether a reference that was brought beside the sensor has come to rest itself. */
export type ReferenceRest =
  /** By its own readings, which came over a link. */
  | { readonly state: 'settled' }
  | { readonly state: 'moving'; readonly movement: number; readonly band: number }
  /** A person watched its display, and it stood still. */
  | { readonly state: 'said' }
  /** It hung there for as long as it needs; not yet so long. */
  | { readonly state: 'waited'; readonly waited: number; readonly needed: number }
  | { readonly state: 'waiting'; readonly waited: number; readonly needed: number };

export interface ReferenceRule {
  /** Its time constant, s, ≥ 0; 0 where nobody states one. */
  readonly response: number;
  /** Over how long its own readings are watched, s, > 0. */
  readonly window: number;
  /** Largest movement still to come that counts as rest, base unit, > 0. */
  readonly band: number;
  /** Base unit, ≥ 0. */
  readonly resolution: number;
}

/** After so many time constants less than one hundredth of the way is left (e⁻⁵ = 0.7 %). */
const constants = 5;

/**
 * Whether the reference stands still: by its own readings where they come over a link, by what a person says who
 * watched it, else by the time it had. Null where none of these says anything: nobody states how long it takes.
 *
 * Source: e⁻⁵ of a first-order response; the order of the three is ours.
 *
 * @param watched what it showed, ascending time, base unit; empty where it has no link
 * @param waited since it was brought there, s, ≥ 0
 * @param isSaid a person watched its display over the window, and it stood still
 * @example referenceRest({ response: 20, window: 60, band: 0.1, resolution: 0.01 }, [], 40, false) // { state: 'waiting', waited: 40, needed: 100 }
 */
export function referenceRest(
  { response, window, band, resolution }: ReferenceRule,
  watched: readonly TimedValue[],
  waited: number,
  isSaid: boolean,
): ReferenceRest | null {
  notNegative('response', response);
  notNegative('time waited', waited);
  positive('band', band);
  if (isSaid) return { state: 'said' };
  const wide = Math.max(band, 2 * resolution);
  const own = judgeSettling(watched, { window, band: wide, resolution, response });
  if (atRest(own)) return { state: 'settled' };
  if (own.state === 'moving') return { state: 'moving', movement: own.movement, band: wide };
  if (response === 0) return null;
  const needed = constants * response;
  return { state: waited >= needed ? 'waited' : 'waiting', waited, needed };
}

/** Whether a reading may count, as far as its reference goes. */
export const referenceRests = (rest: ReferenceRest | null): boolean =>
  rest === null || (rest.state !== 'moving' && rest.state !== 'waiting');
