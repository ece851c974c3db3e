import { DateTime } from 'luxon';
import type { Milliseconds } from '../time';
import type { WatchHours } from './rule';

/** From one instant until another; the end is outside. */
export interface Span {
  readonly from: Milliseconds;
  readonly until: Milliseconds;
}

/**
 * The spans within a window at which hours hold, in order, by the clock on the wall of the site: a day that is
 * an hour short or long is so here, too.
 *
 * @param hours null for always
 * @param zone IANA name
 * @returns clipped to the window
 * @throws RangeError for a zone that does not exist
 */
export function spansOf(
  hours: WatchHours | null,
  zone: string,
  from: Milliseconds,
  until: Milliseconds,
): Span[] {
  if (!hours) return [{ from, until }];
  const { months, weekdays, fromMinute, untilMinute } = hours;
  const lasts = untilMinute > fromMinute ? untilMinute - fromMinute : untilMinute - fromMinute + 1440;
  const spans: { from: number; until: number }[] = [];
  // One day before: its hours may run over midnight into the window.
  let day = DateTime.fromMillis(from, { zone }).startOf('day').minus({ days: 1 });
  if (!day.isValid) throw new RangeError(`zone ${zone} does not exist`);
  for (; day.toMillis() < until; day = day.plus({ days: 1 })) {
    if ((months && !months.includes(day.month)) || (weekdays && !weekdays.includes(day.weekday))) continue;
    const begin = day.set({ hour: Math.floor(fromMinute / 60), minute: fromMinute % 60 });
    const last = fromMinute + lasts;
    const end = day
      .plus({ days: Math.floor(last / 1440) })
      .set({ hour: Math.floor((last % 1440) / 60), minute: last % 60 });
    const span = { from: Math.max(from, begin.toMillis()), until: Math.min(until, end.toMillis()) };
    if (span.from >= span.until) continue;
    const before = spans.at(-1);
    if (before && before.until >= span.from) before.until = Math.max(before.until, span.until);
    else spans.push(span);
  }
  return spans;
}

/**
 * Whether instants lie in spans, asked in rising order mostly: goes along instead of searching anew.
 *
 * @param spans in order, not overlapping
 */
export function within(spans: readonly Span[]): (at: Milliseconds) => boolean {
  let i = 0;
  return (at) => {
    while (i > 0 && spans[i - 1]!.until > at) i--;
    while (i < spans.length && spans[i]!.until <= at) i++;
    return i < spans.length && spans[i]!.from <= at;
  };
}
