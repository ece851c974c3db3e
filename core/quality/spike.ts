import { angleDifference } from './angle';
import { flag } from './flag';

export interface SpikeLimits {
  /** Distance from the middle of the neighbours, base unit, > 0. */
  readonly suspect: number;
  readonly fail: number;
}

/**
 * Spike test: the value against the middle of its two neighbours, |x(n) − (x(n−1) + x(n+1))/2|;
 * beyond `fail` 4, beyond `suspect` 3. The first and last value, and those beside a missing one, are
 * not evaluated (2). For directions the middle lies on the shorter arc.
 * Source: QARTOD manuals (US IOOS), spike test (SPK_REF, THRSHLD_LOW, THRSHLD_HIGH).
 */
export function spikeTest(
  values: Float64Array,
  limits: SpikeLimits,
  circular = false,
  into = new Uint8Array(values.length),
): Uint8Array {
  const n = values.length;
  const { suspect, fail } = limits;
  into.fill(flag.good);
  let before = NaN;
  let v = n > 0 ? values[0]! : NaN;
  for (let i = 0; i < n; i++) {
    const after = i < n - 1 ? values[i + 1]! : NaN;
    const away = circular
      ? Math.abs(angleDifference(v, before + angleDifference(after, before) / 2))
      : Math.abs(v - (before + after) / 2);
    // Comparisons with NaN are false: what cannot be reckoned comes to the questions why.
    if (!(away <= suspect)) {
      if (away > fail) into[i] = flag.fail;
      else if (away > suspect) into[i] = flag.suspect;
      else into[i] = v === v ? flag.notEvaluated : flag.missing;
    }
    before = v;
    v = after;
  }
  return into;
}
