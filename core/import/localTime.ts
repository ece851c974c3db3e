import { IANAZone } from 'luxon';

/** Where the times of a file belong. */
export type StampZone =
  | { readonly kind: 'fixed'; readonly minutes: number }
  | { readonly kind: 'zone'; readonly name: string }
  /** Every stamp carries its own offset. */
  | { readonly kind: 'stamp' };

export type LocalInstant =
  | number
  /** The clocks were put forward over it: such a time never was. */
  | 'never-was'
  /** The clocks were put back over it: such a time was twice. */
  | 'was-twice';

const day = 86_400_000;

/**
 * Whether a text names a zone of the IANA time zone database that this machine knows.
 *
 * @example isZoneName('Atlantic/Nowhere') // false
 */
export const isZoneName = (name: string): boolean => IANAZone.isValidZone(name);

/**
 * Turns wall-clock times of a zone into instants. A time that never was or was twice is told, not
 * decided. Fast for long records: between changes of the clocks it is one subtraction.
 *
 * @returns wall-clock ms (as if UTC) → instant, ms since epoch. Throws RangeError for an unknown zone.
 * @example localTime('Europe/London')(Date.UTC(2026, 2, 29, 1, 30)) // 'never-was'
 */
export function localTime(zoneName: string): (wall: number) => LocalInstant {
  if (!isZoneName(zoneName)) throw new RangeError(`unknown time zone ${zoneName}`);
  const zone = IANAZone.create(zoneName);
  const offsetAt = (utc: number) => Math.round(zone.offset(utc)) * 60_000;
  let safeFrom = Infinity;
  let safeUntil = -Infinity;
  let safeOffset = 0;
  return (wall) => {
    if (wall >= safeFrom && wall < safeUntil) return wall - safeOffset;
    const [before, after] = [offsetAt(wall - day), offsetAt(wall + day)];
    if (before === after) {
      // No change within a day either way: the stretch up to the next look needs no further asking.
      if (offsetAt(wall) === before && offsetAt(wall + 2 * day) === before) {
        safeFrom = wall;
        safeUntil = wall + day;
        safeOffset = before;
      }
      return wall - before;
    }
    const fitting = [before, after].filter((o) => offsetAt(wall - o) === o);
    if (fitting.length === 0) return 'never-was';
    return fitting.length === 2 ? 'was-twice' : wall - fitting[0]!;
  };
}
