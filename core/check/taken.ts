import { finite } from '../valid';
import { pooledRepeatability, together, type Repeatability } from './repeatability';
import { coverageFactor, mean } from './uncertainty';

/** Whether a device took the offset it was given. */
export type Taken =
  /** By as much as can be told. */
  | { readonly kind: 'taken'; readonly change: number; readonly doubt: number }
  /** By another amount: `share` of what it was given. */
  | {
      readonly kind: 'otherwise';
      readonly change: number;
      readonly doubt: number;
      readonly share: number;
    };

/** At 95 % one sound device in twenty would be accused; so much wider fewer are. Our own choice, by simulation. */
const wider = 1.05;

/**
 * Compares what the difference from the reference changed by with the offset that was written. Both sides are paired
 * with the reference, so that what moved meanwhile is taken out. Judged with the repeatability of both sets and of
 * earlier checks together; null where nothing says how far one difference scatters, or the offset is too small beside
 * that to be told from half of it.
 *
 * What it claims is simulated in `taken.test.ts` and tabled in docs/judgement.md.
 *
 * @param before sensor − reference before the write, base unit, one or more
 * @param after the same after it
 * @param given what the offset was changed by, base unit
 * @param earlier repeatability of earlier checks of the sensor; null for none
 * @param step smallest step the device takes an offset in, base unit, ≥ 0: its rounding is no fault
 */
export function judgeTaken(
  before: readonly number[],
  after: readonly number[],
  given: number,
  earlier: Repeatability | null,
  step: number,
): Taken | null {
  finite('given', given);
  if (before.length === 0 || after.length === 0) return null;
  const known = together(pooledRepeatability([before, after]), earlier);
  if (!known) return null;
  const change = mean(after) - mean(before);
  const doubt =
    wider * coverageFactor(known.dof) * known.s * Math.sqrt(1 / before.length + 1 / after.length) + step / 2;
  if (Math.abs(given) <= doubt) return null;
  return Math.abs(change - given) <= doubt
    ? { kind: 'taken', change, doubt }
    : { kind: 'otherwise', change, doubt, share: change / given };
}
