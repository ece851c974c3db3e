import type { Milliseconds } from '../time';

/**
 * The largest move of a series within a span up to each value: value minus whichever of the extremes of
 * the span is further from it, with its sign. Asked value by value in order of stamps; a stamp before the last one, as
 * of a clock set back, begins anew.
 *
 * @param span ms, > 0
 * @returns a function of stamp (ms) and value, in the unit of the values
 */
export function steepest(span: Milliseconds): (at: Milliseconds, value: number) => number {
  let highest = extremes((a, b) => a >= b);
  let lowest = extremes((a, b) => a <= b);
  let last = -Infinity;
  return (at, value) => {
    if (at < last) {
      highest = extremes((a, b) => a >= b);
      lowest = extremes((a, b) => a <= b);
    }
    last = at;
    const fall = value - highest(at, value, at - span);
    const rise = value - lowest(at, value, at - span);
    return rise >= -fall ? rise : fall;
  };
}

/** Keeps what may still be the extreme of a moving span: stamps rising, each value outdone by those before it. */
function extremes(outdoes: (a: number, b: number) => boolean) {
  let stamps: number[] = [];
  let values: number[] = [];
  let first = 0;
  return (at: number, value: number, from: number): number => {
    while (stamps.length > first && outdoes(value, values.at(-1)!)) {
      stamps.pop();
      values.pop();
    }
    stamps.push(at);
    values.push(value);
    while (stamps[first]! < from) first++;
    if (first > 1024) {
      stamps = stamps.slice(first);
      values = values.slice(first);
      first = 0;
    }
    return values[first]!;
  };
}
