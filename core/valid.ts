/**
 * What public functions of core refuse: arguments that no measurement can have. RangeError, since
 * whoever passes them on from outside is expected to have looked before.
 */

/**
 * A number that is neither NaN nor infinite.
 *
 * @example finite('pressure', 1013.25) // 1013.25
 */
export function finite(name: string, value: number): number {
  if (!Number.isFinite(value)) throw new RangeError(`${name} ${value} is not a finite number`);
  return value;
}

/**
 * A finite number of at least 0: a tolerance, a resolution, a length.
 *
 * @example notNegative('tolerance', 0) // 0
 */
export function notNegative(name: string, value: number): number {
  if (!(value >= 0) || value === Infinity) throw new RangeError(`${name} ${value} is not ≥ 0`);
  return value;
}

/**
 * A finite number above 0: an interval, a width, a limit.
 *
 * @example positive('interval', 600) // 600
 */
export function positive(name: string, value: number): number {
  if (!(value > 0) || value === Infinity) throw new RangeError(`${name} ${value} is not above 0`);
  return value;
}

/**
 * A whole number of at least `least`.
 *
 * @example whole('repeats', 3, 1) // 3
 */
export function whole(name: string, value: number, least = 0): number {
  if (!Number.isInteger(value) || value < least)
    throw new RangeError(`${name} ${value} is no whole number ≥ ${least}`);
  return value;
}
