import { positive } from '../valid';

/** What a bucket of readings keeps: enough to draw it, to add it up and to see its direction. */
export interface Rollup {
  /** s since epoch, a whole multiple of the width. */
  readonly start: number;
  n: number;
  sum: number;
  min: number;
  max: number;
  first: number;
  last: number;
  /** Sums of sine and cosine of the values taken as degrees. */
  sinSum: number;
  cosSum: number;
}

const radians = Math.PI / 180;

/**
 * Gathers readings that come in ascending order into buckets of `width` s.
 *
 * @returns `add` takes an instant (ms since epoch) and a value in the base unit; `buckets` holds all so far
 */
export function rollupBuilder(width: number) {
  positive('width', width);
  const buckets: Rollup[] = [];
  let open: Rollup | null = null;
  let until = -Infinity;
  return {
    buckets: buckets as readonly Rollup[],
    add(at: number, value: number) {
      const [sin, cos] = [Math.sin(value * radians), Math.cos(value * radians)];
      if (open === null || at >= until) {
        const start = Math.floor(at / 1000 / width) * width;
        until = (start + width) * 1000;
        open = {
          start,
          n: 1,
          sum: value,
          min: value,
          max: value,
          first: value,
          last: value,
          sinSum: sin,
          cosSum: cos,
        };
        buckets.push(open);
        return;
      }
      open.n++;
      open.sum += value;
      if (value < open.min) open.min = value;
      if (value > open.max) open.max = value;
      open.last = value;
      open.sinSum += sin;
      open.cosSum += cos;
    },
  };
}

/** Buckets of a wider width from narrower ones, ascending; `width` is a multiple of theirs. */
export function widerRollups(buckets: readonly Rollup[], width: number): Rollup[] {
  positive('width', width);
  const wide: Rollup[] = [];
  for (const b of buckets) {
    const start = Math.floor(b.start / width) * width;
    const open = wide.at(-1);
    if (!open || open.start !== start) {
      wide.push({ ...b, start });
      continue;
    }
    open.n += b.n;
    open.sum += b.sum;
    open.min = Math.min(open.min, b.min);
    open.max = Math.max(open.max, b.max);
    open.last = b.last;
    open.sinSum += b.sinSum;
    open.cosSum += b.cosSum;
  }
  return wide;
}
