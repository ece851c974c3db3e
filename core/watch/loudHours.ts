import type { Milliseconds } from '../time';
import type { Span } from './hours';
import type { WatchRule } from './rule';

/** What is known of an hour of a record without its values. Begins in ms. */
export interface HourOfRecord {
  readonly at: Milliseconds;
  readonly n: number;
  readonly min: number;
  readonly max: number;
}

const hour = 3_600_000;

/** A silence shorter than this may lie between two hours that both hold values, s. */
const shortestSilence = 7200;

/**
 * Whether a rule can be rehearsed by hours: what rests on single values of every hour cannot, and no return delay, to
 * which the holes of an hour do not count.
 */
export const canSkipHours = (rule: WatchRule): boolean =>
  rule.rate === null &&
  rule.twin === null &&
  rule.gate === null &&
  rule.returnDelay === 0 &&
  (rule.silentAfter === null || rule.silentAfter >= shortestSilence);

/**
 * The hours of a record whose values decide what a rule does. An hour whose every value is within the limits
 * changes nothing, once what began before it is over: for that every value of an hour has to be back by the hysteresis.
 * Beside a hole the hours on both sides are read, since they say how long it was.
 *
 * @param hours in order, those without values left out
 * @param span ms
 * @param offLine whose values say nothing: what began before goes on until after them
 * @returns spans of whole hours in order, and of each quiet hour its instant, by which watching knows that it was not silent
 */
export function loudHours(
  rule: WatchRule,
  hours: readonly HourOfRecord[],
  span: Span,
  offLine: readonly Span[] = [],
): { readonly loud: readonly Span[]; readonly quiet: readonly HourOfRecord[] } {
  const { farLow, low, high, farHigh } = rule.limits;
  const lowest = Math.max(farLow ?? -Infinity, low ?? -Infinity);
  const highest = Math.min(high ?? Infinity, farHigh ?? Infinity);
  const loud: { from: number; until: number }[] = [];
  const quiet: HourOfRecord[] = [];
  // What began may go on.
  let isUnsettled = false;
  let before = span.from - hour;
  hours.forEach((h, i) => {
    const beyond = h.min < lowest || h.max > highest;
    const isBack = h.min >= lowest + rule.hysteresis && h.max <= highest - rule.hysteresis;
    const isOffLine = offLine.some((o) => o.from < h.at + hour && o.until >= h.at);
    const besideHole =
      h.at - before > hour || (hours[i + 1]?.at ?? Math.floor(span.until / hour) * hour) - h.at > hour;
    const isEdge = i === 0 || i === hours.length - 1;
    if (beyond || isOffLine) isUnsettled = true;
    const isQuiet = !beyond && !isUnsettled && !besideHole && !isEdge;
    // The hour by which it is over is read itself.
    if (isUnsettled && isBack && !beyond && !isOffLine) isUnsettled = false;
    before = h.at;
    if (isQuiet) {
      quiet.push(h);
      return;
    }
    const last = loud.at(-1);
    if (last && last.until === h.at) last.until = h.at + hour;
    else loud.push({ from: h.at, until: h.at + hour });
  });
  return { loud, quiet };
}
