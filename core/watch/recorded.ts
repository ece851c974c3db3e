import type { Milliseconds, Seconds } from '../time';
import { lastRead } from './beside';
import { spansOf } from './hours';
import { rehearse, type Doubted, type Rehearsal } from './rehearse';
import type { WatchRule } from './rule';
import type { Arrivals, KnownSpan } from './watcher';

export interface Series {
  readonly at: Float64Array;
  readonly value: Float64Array;
}

/** A stretch of a record with all that a rehearsal of it needs. Stamps and arrivals in ms. */
export interface Recorded {
  readonly from: Milliseconds;
  readonly until: Milliseconds;
  /** In order of clock run and stamp. */
  readonly at: Float64Array;
  readonly run: Int32Array;
  readonly value: Float64Array;
  /** NaN where nobody noted it. */
  readonly arrived: Float64Array;
  readonly before: Series;
  readonly beside: ReadonlyMap<string, Series>;
  readonly offLine: readonly KnownSpan[];
  readonly doubted: readonly Doubted[];
}

/** How a record is taken, beside what lies in it. */
export interface TakenAs {
  /** By when values arrived, as watching live does; else as if each had arrived with its stamp. */
  readonly asArrived: boolean;
  readonly zone: string;
  /** A stretch without values longer than this does not count towards a delay, ms. */
  readonly gap: Milliseconds;
  /** How old values of other channels may be, ms. */
  readonly besideOldest: Milliseconds;
}

/** A hole in a record that is longer than so many intervals does not count towards a delay. Our own choice. */
const holeIntervals = 3;
/** Values of other channels are believed for so many intervals of the channel they are asked for. */
const besideIntervals = 2;
/** Where the interval is not known, ms. */
const usualHole = 3 * 3_600_000;

/** @example holeOf(600) // 1_800_000 */
export const holeOf = (interval: Seconds | null): Milliseconds =>
  interval === null ? usualHole : holeIntervals * interval * 1000;
/** @example besideOldest(600) // 1_200_000 */
export const besideOldest = (interval: Seconds | null): Milliseconds =>
  interval === null ? usualHole : besideIntervals * interval * 1000;

/**
 * Plays a rule on a stretch of a record.
 *
 * @param rule values in the base unit of the channel
 */
export function rehearseRecorded(rule: WatchRule, recorded: Recorded, as: TakenAs): Rehearsal {
  const { from, until } = recorded;
  const series = (id: string | undefined): Float64Array | null => {
    const found = id === undefined ? undefined : recorded.beside.get(id);
    return found ? lastRead(recorded.at, found.at, found.value, as.besideOldest) : null;
  };
  const taken: Arrivals = {
    at: recorded.at,
    run: recorded.run,
    value: recorded.value,
    arrived: as.asArrived
      ? recorded.arrived.map((a, i) => (Number.isNaN(a) ? recorded.at[i]! : a))
      : recorded.at,
    gate: series(rule.gate?.channelId),
    twin: series(rule.twin?.channelId),
  };
  // Taken as if nothing came late, an off-line span is known as it begins.
  const offLine = as.asArrived
    ? recorded.offLine
    : recorded.offLine.flatMap((s) => (s.knownUntil === Infinity ? [{ ...s, knownFrom: -Infinity }] : []));
  return rehearse(
    rule,
    as.asArrived ? inOrderOfArrival(taken) : taken,
    { holds: spansOf(rule.hours, as.zone, from, until), offLine, gap: as.gap },
    { from, until },
    recorded.doubted,
    recorded.before,
  );
}

/** The same values in the order in which they arrived; those that arrived together stay as they are. */
export function inOrderOfArrival(values: Arrivals): Arrivals {
  const { arrived } = values;
  let sorted = true;
  for (let i = 1; i < arrived.length && sorted; i++) sorted = arrived[i]! >= arrived[i - 1]!;
  if (sorted) return values;
  const order = Array.from(arrived.keys()).sort((a, b) => arrived[a]! - arrived[b]! || a - b);
  const by = (of: Float64Array) => Float64Array.from(order, (i) => of[i]!);
  return {
    at: by(values.at),
    run: Int32Array.from(order, (i) => values.run[i]!),
    value: by(values.value),
    arrived: by(arrived),
    gate: values.gate && by(values.gate),
    twin: values.twin && by(values.twin),
  };
}
