import { angleDifference } from './angle';
import { flag } from './flag';

export interface FlatLimits {
  /** Movement that counts as none, base unit, ≥ 0; a difference must be below it, or be 0. */
  readonly eps: number;
  /** So many values before this one, all the same within eps: suspect, fail. Whole, suspect ≤ fail. */
  readonly suspect: number;
  readonly fail: number;
}

/**
 * Flat line test: value n against each of the values before it; the same as the last `suspect`
 * within eps is 3, as the last `fail` 4. A missing value breaks the line.
 * Source: QARTOD manuals (US IOOS), flat line test (EPS, REP_CNT_SUSPECT, REP_CNT_FAIL).
 */
export function flatLineTest(
  values: Float64Array,
  limits: FlatLimits,
  circular = false,
  into = new Uint8Array(values.length),
): Uint8Array {
  const { eps, suspect, fail } = limits;
  const apart = (a: number, b: number) => (circular ? Math.abs(angleDifference(a, b)) : Math.abs(a - b));
  into.fill(flag.good);
  /** How many values before the last one were the same as it. */
  let run = 0;
  let before = NaN;
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!;
    const away = circular ? Math.abs(angleDifference(v, before)) : Math.abs(v - before);
    if (away >= eps && away !== 0) {
      run = 0;
    } else if (v === before) {
      // The very same value again: all that was the same as the one before is the same as this.
      if (run < fail) run++;
    } else {
      run = 0;
      for (; run < fail && run < i; run++) {
        const far = apart(v, values[i - 1 - run]!);
        if (!(far < eps || far === 0)) break;
      }
    }
    before = v;
    if (run >= suspect) into[i] = run >= fail ? flag.fail : flag.suspect;
    else if (v !== v) into[i] = flag.missing;
  }
  return into;
}
