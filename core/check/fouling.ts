import { finite, notNegative } from '../valid';
import { pooledRepeatability, together, type Repeatability } from './repeatability';
import { coverageFactor, mean } from './uncertainty';

/** What cleaning changed of a sensor's reading, beside a reference that took no part in it. */
export interface Fouling {
  /** What slime and dirt had taken away, base unit: what is to be added to readings from before; negative where they added. */
  readonly value: number;
  /** ± at 95 %, base unit; null where nothing says how far one reading scatters. */
  readonly doubt: number | null;
}

/**
 * Fouling: (sensor after − before) − (reference after − before). What is left after cleaning is drift.
 *
 * Source: USGS Techniques and Methods 1-D3 (Wagner et al., 2006), fouling error (a − b) − (d − c), from memory.
 *
 * @param before sensor − reference before cleaning, base unit, one or more; null is returned for none
 * @param after the same after it
 * @param earlier repeatability of earlier checks of the sensor; null for none
 * @param resolution steps of sensor and reference together, base unit, ≥ 0: a reference that stands still between two of
 *   its steps shows the same wrong one every time, before as after
 * @example foulingOf([-0.4, -0.4], [-0.1, -0.1], null, 0)?.value.toFixed(1) // '0.3'
 */
export function foulingOf(
  before: readonly number[],
  after: readonly number[],
  earlier: Repeatability | null,
  resolution: number,
): Fouling | null {
  for (const v of [...before, ...after]) finite('difference', v);
  if (before.length === 0 || after.length === 0) return null;
  const known = together(pooledRepeatability([before, after]), earlier);
  return {
    value: mean(after) - mean(before),
    doubt:
      known &&
      Math.hypot(
        coverageFactor(known.dof) * known.s * Math.sqrt(1 / before.length + 1 / after.length),
        2 * Math.sqrt(2 / 12) * notNegative('resolution', resolution),
      ),
  };
}
