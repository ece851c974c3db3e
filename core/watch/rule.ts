import { limitFields, type Limits } from '../settings/limits';
import type { Seconds } from '../time';

/** When a limit counts; null for always. */
export interface WatchHours {
  /** Months of the year, 1–12; null for all. */
  readonly months: readonly number[] | null;
  /** Days of the week, 1 Monday to 7 Sunday; null for all. */
  readonly weekdays: readonly number[] | null;
  /** Minutes after midnight at the site; equal for the whole day, an end before the beginning runs over midnight. */
  readonly fromMinute: number;
  readonly untilMinute: number;
}

/** Another channel of the station on which the limits depend: supply-air temperature only while air flows. */
export interface Gate {
  readonly channelId: string;
  readonly side: 'above' | 'below';
  /** Base unit of that channel. */
  readonly limit: number;
  /** How far it has to come back before it no longer holds, base unit of that channel. */
  readonly hysteresis: number;
}

/** What is watched of one channel, as it stands from one revision to the next. Values in the channel's base unit. */
export interface WatchRule {
  readonly limits: Limits;
  /** How far inside a limit a value has to come back before it is over. */
  readonly hysteresis: number;
  /** How long a value has to be beyond a limit before it rings. */
  readonly delay: Seconds;
  /** How long it has to be back before it is over. */
  readonly returnDelay: Seconds;
  readonly hours: WatchHours | null;
  readonly gate: Gate | null;
  /** Rings where a value moves by more than `by`, either way, within `within`. */
  readonly rate: { readonly by: number; readonly within: Seconds } | null;
  /** Rings where it differs by more than `tolerance` from another channel of the station. */
  readonly twin: {
    readonly channelId: string;
    readonly tolerance: number;
    readonly delay: Seconds;
  } | null;
  /** Rings where the newest value is older than this. */
  readonly silentAfter: Seconds | null;
  /** A value that is older than this when it arrives does not ring: the past is for the record. */
  readonly latest: Seconds;
}

/** What may be the matter with a channel, each with an alarm of its own. */
export const causes = ['limits', 'rate', 'twin', 'silent'] as const;
export type Cause = (typeof causes)[number];

/** How far a value is from what is wanted: −2 far too low … 2 far too high. */
export type Level = -2 | -1 | 0 | 1 | 2;

/** Levels in the order of the fields of limits: what a limit is the edge of. */
export const levelsOfLimits: readonly Level[] = [-2, -1, 1, 2];

/** The field of the limit that a level is beyond; null for within. */
export const fieldOfLevel = (level: Level): keyof Limits | null =>
  limitFields[levelsOfLimits.indexOf(level)] ?? null;

/** @example levelNames[-2] // 'far too low' */
export const levelNames: Readonly<Record<Level, string>> = {
  [-2]: 'far too low',
  [-1]: 'too low',
  0: 'within',
  1: 'too high',
  2: 'far too high',
};

/** A rule that watches nothing: what the form of a channel begins with beside its limits. */
export const noRule: WatchRule = {
  limits: { farLow: null, low: null, high: null, farHigh: null },
  hysteresis: 0,
  delay: 0,
  returnDelay: 0,
  hours: null,
  gate: null,
  rate: null,
  twin: null,
  silentAfter: null,
  latest: 3600,
};

/** Channels that a rule looks at beside its own. */
export const channelsBeside = (rule: WatchRule): readonly string[] => [
  ...new Set([rule.gate?.channelId, rule.twin?.channelId].filter((id) => id !== undefined)),
];
