import {
  setTests,
  testOf,
  qualityTestName,
  type QualityThresholds,
  type SetTest,
} from '@/core/quality/tests';

/** An end of a range that a quality test keeps values to, over a stretch of time (ms). */
export interface LimitLine {
  readonly test: SetTest;
  readonly name: string;
  readonly from: number;
  readonly until: number;
  readonly value: number;
}

/**
 * Where the ranges of thresholds lie in a window: as the tests themselves say that values within them
 * cannot be found wanting. Tests without a range have no line.
 */
export function limitLines(thresholds: Partial<QualityThresholds>, from: number, until: number): LimitLine[] {
  return setTests.flatMap((code) => {
    const test = testOf(code);
    const limits: unknown = thresholds[code] ?? null;
    if (limits === null || test.kind !== 'point') return [];
    const lines: LimitLine[] = [];
    for (let at = from; at < until;) {
      const calm = test.calm(limits, 600, at / 1000);
      const end = Math.min(until, (calm.until ?? Infinity) * 1000);
      for (const value of [calm.low, calm.high])
        if (value !== undefined && Number.isFinite(value))
          lines.push({ test: code, name: qualityTestName(code), from: at, until: end, value });
      if (!(end > at)) break;
      at = end;
    }
    return lines;
  });
}
