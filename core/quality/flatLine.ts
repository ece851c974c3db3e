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
  /** How many values before the last one were the same as it. */
  let run = 0;
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!;
    if (v !== v) {
      into[i] = flag.missing;
      run = 0;
      continue;
    }
    if (i > 0 && v === values[i - 1]) {
      // The very same value again: all that was the same as the one before is the same as this.
      if (run < fail) run++;
    } else {
      run = 0;
      while (run < fail && run < i) {
        const other = values[i - 1 - run]!;
        const away = circular ? Math.abs(angleDifference(v, other)) : Math.abs(v - other);
        if (!(away < eps || away === 0)) break;
        run++;
      }
    }
    into[i] = run >= fail ? flag.fail : run >= suspect ? flag.suspect : flag.good;
  }
  return into;
}
