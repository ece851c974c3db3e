import type { CompareState } from '@/core/watch/comparator';
import {
  causes,
  type Cause,
  type Gate,
  type Level,
  type WatchHours,
  type WatchRule,
} from '@/core/watch/rule';
import type { Ring, WatchState } from '@/core/watch/watcher';
import type { Limits } from '@/core/settings/limits';
import { finite, maybeId } from './pieces';
import { listOf, must, number, oneOf, orNull, shape, yesNo } from './shape';

/** What is watched and how watching stands, on the wire and as it is stored. */

const level = must(orNull(finite()));
const seconds = must(finite());
const minute = must(number((n) => n.integer().min(0).max(1439)));
const numbers = (most: number) =>
  must(
    orNull(
      listOf(
        number((n) => n.integer().min(1).max(most)),
        (a) => a.unique().max(most),
      ),
    ),
  );

export const watchRule = shape<WatchRule>({
  limits: must(shape<Limits>({ farLow: level, low: level, high: level, farHigh: level })),
  hysteresis: must(finite()),
  delay: seconds,
  returnDelay: seconds,
  hours: must(
    orNull(
      shape<WatchHours>({
        months: numbers(12),
        weekdays: numbers(7),
        fromMinute: minute,
        untilMinute: minute,
      }),
    ),
  ),
  gate: must(
    orNull(
      shape<Gate>({
        channelId: must(maybeId),
        side: must(oneOf<Gate['side']>()('above', 'below')),
        limit: must(finite()),
        hysteresis: must(finite()),
      }),
    ),
  ),
  rate: must(orNull(shape<NonNullable<WatchRule['rate']>>({ by: must(finite()), within: seconds }))),
  twin: must(
    orNull(
      shape<NonNullable<WatchRule['twin']>>({
        channelId: must(maybeId),
        tolerance: must(finite()),
        delay: seconds,
      }),
    ),
  ),
  silentAfter: must(orNull(finite())),
  latest: seconds,
});

const compareState = shape<CompareState>({
  beyond: must(yesNo()),
  held: must(number()),
  active: must(yesNo()),
  began: must(number()),
  depth: must(number()),
});
const ringLevel = must(oneOf<Level>()(-2, -1, 0, 1, 2));
const instant = must(number());
const maybe = must(orNull(number()));
const ring = shape<Ring>({
  cause: must(oneOf<Cause>()(...causes)),
  level: ringLevel,
  began: instant,
  at: instant,
  value: maybe,
  raised: instant,
  worst: ringLevel,
  peak: maybe,
  returned: maybe,
  overAt: maybe,
  ended: must(orNull(oneOf<NonNullable<Ring['ended']>>()('back', 'hours', 'gate'))),
});
export const watchState = shape<WatchState>({
  run: must(number()),
  last: instant,
  arrived: instant,
  limits: must(listOf(compareState, (a) => a.length(4))),
  rate: must(compareState),
  twin: must(compareState),
  gate: must(compareState),
  ringing: must(listOf(ring, (a) => a.max(causes.length))),
});
