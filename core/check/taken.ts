import { finite } from '../valid';
import { pooledRepeatability, together, type Repeatability } from './repeatability';
import { coverageFactor, mean, studentAt } from './uncertainty';

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

/**
 * One side at which a shortfall or an excess counts as more than chance. A device that takes too little is the usual
 * fault, so its side is watched more closely. Our own choice, by simulation.
 */
const chance = { short: 0.94, over: 0.985 } as const;
/** Midway between half of it and all of it, and between all of it and twice that: what lies nearer to all was taken. */
const nearer = { half: 0.75, twice: 1.5 } as const;

/**
 * Compares what the difference from the reference changed by with the offset that was written. Both sides are paired
 * with the reference, so that what moved meanwhile is taken out. Judged with the repeatability of both sets and of
 * earlier checks together: not taken is what is off by more than chance *and* lies nearer to half of it, or to twice
 * it, than to the whole. Null where nothing says how far one difference scatters, or the offset is too small beside
 * that for half of it to be told from the whole.
 *
 * What it claims is simulated in `decision.test.ts` and tabled in docs/judgement.md.
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
  const error = known.s * Math.sqrt(1 / before.length + 1 / after.length);
  const within = (share: number) => studentAt(share, known.dof) * error + step / 2;
  if (Math.abs(given) / 2 <= within(chance.short)) return null;
  const share = change / given;
  const missing = Math.abs(given) * (1 - share);
  const doubt = coverageFactor(known.dof) * error + step / 2;
  const isShort = share < nearer.half && missing > within(chance.short);
  const isOver = share > nearer.twice && -missing > within(chance.over);
  return isShort || isOver ? { kind: 'otherwise', change, doubt, share } : { kind: 'taken', change, doubt };
}
