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
  for (let i = 0; i < n; i++) {
    const v = values[i]!;
    const before = i > 0 ? values[i - 1]! : NaN;
    const after = i < n - 1 ? values[i + 1]! : NaN;
    const away = circular
      ? Math.abs(angleDifference(v, before + angleDifference(after, before) / 2))
      : Math.abs(v - (before + after) / 2);
    if (v !== v) into[i] = flag.missing;
    else if (away !== away) into[i] = flag.notEvaluated;
    else into[i] = away > fail ? flag.fail : away > suspect ? flag.suspect : flag.good;
  }
  return into;
}
