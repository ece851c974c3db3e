export type IntervalRefusal =
  | { readonly kind: 'not-whole'; readonly value: number }
  | { readonly kind: 'outside'; readonly value: number; readonly low: number; readonly high: number }
  | {
      readonly kind: 'does-not-divide';
      readonly value: number;
      readonly into: number;
      readonly near: readonly number[];
    };

const day = 86_400;

/**
 * Why a storage interval cannot be used: it must be whole seconds that divide a day, so that stamps come out round.
 *
 * @example refuseStorageInterval(600, 60) // null
 */
export function refuseStorageInterval(storage: number): IntervalRefusal | null {
  if (!Number.isInteger(storage)) return { kind: 'not-whole', value: storage };
  if (storage < 1 || storage > day) return { kind: 'outside', value: storage, low: 1, high: day };
  if (day % storage !== 0)
    return { kind: 'does-not-divide', value: storage, into: day, near: nearestDivisors(storage, day) };
  return null;
}

/** Why a measurement interval cannot be used with a storage interval: it must divide it. Both s. */
export function refuseMeasurementInterval(measurement: number, storage: number): IntervalRefusal | null {
  if (!Number.isInteger(measurement)) return { kind: 'not-whole', value: measurement };
  if (measurement < 1 || measurement > storage)
    return { kind: 'outside', value: measurement, low: 1, high: storage };
  if (storage % measurement !== 0)
    return {
      kind: 'does-not-divide',
      value: measurement,
      into: storage,
      near: nearestDivisors(measurement, storage),
    };
  return null;
}

/** The divisors of `whole` next below and above `value`. */
function nearestDivisors(value: number, whole: number): number[] {
  const near: number[] = [];
  for (let d = value; d >= 1; d--)
    if (whole % d === 0) {
      near.push(d);
      break;
    }
  for (let d = value + 1; d <= whole; d++)
    if (whole % d === 0) {
      near.push(d);
      break;
    }
  return near;
}
