import type { LaunchOrder } from '@/core/deploy/launch';
import { startsBy, type StartsBy, type WhenFull } from '@/core/device/loggerProfile';
import { listOf, must, number, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';
import { stored } from './stored';

/** What is kept of the launch of a logger: what it was to be told, what it kept, how long that was said to last. */
const words = must(text((s) => s.allow('')));
const days = must(orNull(number((n) => n.unsafe())));
const order = shape<LaunchOrder>({
  id: words,
  description: words,
  start: must(oneOf<StartsBy>()(...(startsBy as [StartsBy]))),
  startAt: must(orNull(text())),
  whenFull: must(oneOf<WhenFull>()('stops', 'overwrites')),
  storesBattery: must(yesNo()),
});

/** Days from the fewest to the most; null for no end. */
export interface ExpectedDays {
  readonly low: number | null;
  readonly high: number | null;
}
const expectedDays = must(shape<ExpectedDays>({ low: days, high: days }));
export interface Expected {
  readonly memory: ExpectedDays;
  readonly battery: ExpectedDays;
  readonly ends: ExpectedDays;
  readonly sums: readonly string[];
}
const expected = shape<Expected>({
  memory: expectedDays,
  battery: expectedDays,
  ends: expectedDays,
  sums: must(listOf(text())),
});
export const storedExpected = stored('how long a launch lasts', expected);

export interface LaunchIntent {
  readonly deploymentId: string;
  /** Null: it is stopped. */
  readonly order: LaunchOrder | null;
  readonly channels: number;
  readonly storeEvery: number;
  readonly expected: Expected | null;
  readonly says: string;
}
export const launchIntent = stored(
  'a logger to be launched or stopped',
  shape<LaunchIntent>({
    deploymentId: words,
    order: must(orNull(order)),
    channels: must(number()),
    storeEvery: must(number()),
    expected: must(orNull(expected)),
    says: words,
  }),
);

export interface LaunchOutcome {
  readonly says: string;
  /** The description as it keeps it. */
  readonly kept: string;
}
export const launchOutcome = stored(
  'what came of a launch',
  shape<LaunchOutcome>({ says: words, kept: words }),
);
