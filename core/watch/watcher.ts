import { limitFields } from '../settings/limits';
import { inMilliseconds, type Milliseconds } from '../time';
import { atRest, compare, type Comparator, type CompareState } from './comparator';
import { within, type Span } from './hours';
import { steepest } from './rate';
import { levelsOfLimits, type Cause, type Level, type WatchRule } from './rule';

/** Values of a channel in the order in which they arrived, then of clock run and stamp. Stamps and arrivals in ms. */
export interface Arrivals {
  readonly at: Float64Array;
  readonly run: Int32Array;
  readonly value: Float64Array;
  readonly arrived: Float64Array;
  /** What the channel the limits depend on, and the twin, last read by then; NaN where that is not known. */
  readonly gate: Float64Array | null;
  readonly twin: Float64Array | null;
}

/** A span in which the sensor was off-line, and from when until when that was known. */
export interface KnownSpan extends Span {
  readonly knownFrom: Milliseconds;
  readonly knownUntil: Milliseconds;
}

/** What a rule is watched with beside itself. */
export interface WatchGround {
  /** Spans in which its hours hold; outside, a value is not compared. */
  readonly holds: readonly Span[];
  readonly offLine: readonly KnownSpan[];
  /** A stretch between two values that is longer than this does not count towards a delay, ms. */
  readonly gap: Milliseconds;
}

/** One ring, from when it was raised until it was over. */
export interface Ring {
  readonly cause: Cause;
  /** 0 for causes without levels. */
  level: Level;
  /** Stamp of the value with which it began; of a silence, of the newest value. */
  readonly began: Milliseconds;
  /** Stamp and value with which it rang. */
  readonly at: Milliseconds;
  readonly value: number | null;
  /** When whoever watches could know: the arrival of that value. */
  readonly raised: Milliseconds;
  worst: Level;
  /** The value furthest out; of a twin and a rate, the largest difference. Null of a silence. */
  peak: number | null;
  /** Arrival of the value by which it was over; null while it is not. */
  returned: Milliseconds | null;
  overAt: Milliseconds | null;
  ended: 'back' | 'hours' | 'gate' | null;
}

/** How watching stands after what has arrived: what a process that goes on with it has to know. */
export interface WatchState {
  /** Clock run and stamp of the last value taken, and when the last one arrived; 0 for none. */
  run: number;
  last: Milliseconds;
  arrived: Milliseconds;
  limits: CompareState[];
  rate: CompareState;
  twin: CompareState;
  gate: CompareState;
  ringing: Ring[];
}

export const watchingNothing = (): WatchState => ({
  run: 0,
  last: 0,
  arrived: 0,
  limits: [atRest(), atRest(), atRest(), atRest()],
  rate: atRest(),
  twin: atRest(),
  gate: atRest(),
  ringing: [],
});

/** Whether nothing is beyond, held or ringing: then the last stamp is all there is to know. */
export const isAtRest = (s: WatchState): boolean =>
  s.ringing.length === 0 && [...s.limits, s.rate, s.twin, s.gate].every((c) => !c.beyond && !c.active);

export interface WatchEvent {
  readonly kind: 'raised' | 'worse' | 'eased' | 'returned';
  readonly ring: Ring;
}

/** Why values beyond a limit did not ring. */
export type WhyMissed = 'short' | 'late' | 'off-line' | 'hours' | 'gate';
/** A stretch of values beyond a limit in which nothing rang. */
export interface Missed {
  readonly from: Milliseconds;
  until: Milliseconds;
  /** Furthest beyond the limit, and the value there. */
  depth: number;
  peak: number;
  why: WhyMissed;
}

/**
 * Watches a channel by one rule: the same for what arrives now and for a rehearsal on what arrived once.
 * `take` is given values in the order of arrival; one that is stamped before the last of its run came too
 * late and is passed over. `settle` says what a silence makes of an instant at which nothing arrived.
 *
 * @param before how watching stood; changed in place
 * @param seen called for each event, in order
 * @param missed called for each stretch beyond a limit in which nothing rang
 */
export function watcher(
  rule: WatchRule,
  ground: WatchGround,
  before: WatchState,
  seen: (event: WatchEvent) => void,
  missed: (stretch: Missed) => void = () => {},
) {
  const s = before;
  const { limits } = rule;
  const onDelay = inMilliseconds(rule.delay);
  const offDelay = inMilliseconds(rule.returnDelay);
  const latest = inMilliseconds(rule.latest);
  const silentAfter = rule.silentAfter === null ? Infinity : inMilliseconds(rule.silentAfter);
  const comparators: (Comparator | null)[] = limitFields.map((f, i) =>
    limits[f] === null
      ? null
      : { limit: limits[f], side: i < 2 ? -1 : 1, hysteresis: rule.hysteresis, onDelay, offDelay },
  );
  const none: Comparator = { limit: Infinity, side: 1, hysteresis: 0, onDelay: 0, offDelay: 0 };
  const rateOver: Comparator = rule.rate ? { ...none, limit: rule.rate.by } : none;
  const twinOver: Comparator = rule.twin
    ? { ...none, limit: rule.twin.tolerance, onDelay: inMilliseconds(rule.twin.delay) }
    : none;
  const gateOver: Comparator = rule.gate
    ? {
        ...none,
        limit: rule.gate.limit,
        side: rule.gate.side === 'above' ? 1 : -1,
        hysteresis: rule.gate.hysteresis,
      }
    : none;
  const moved = rule.rate ? steepest(inMilliseconds(rule.rate.within)) : null;
  const holds = within(ground.holds);
  const everOffLine = ground.offLine.length > 0;
  const maybeOffLine = within(union(ground.offLine));
  let excursion: (Missed & { rang: boolean }) | null = null;

  // Below the first and above the second a value is beyond some limit.
  const lowest = Math.max(limits.farLow ?? -Infinity, limits.low ?? -Infinity);
  const highest = Math.min(limits.high ?? Infinity, limits.farHigh ?? Infinity);
  // What rings, by its cause: asked with every value.
  const open: Record<Cause, Ring | null> = { limits: null, rate: null, twin: null, silent: null };
  for (const ring of s.ringing) open[ring.cause] = ring;
  const raise = (
    cause: Cause,
    level: Level,
    began: number,
    at: number,
    value: number | null,
    raised: number,
  ) => {
    const ring: Ring = {
      cause,
      level,
      began,
      at,
      value,
      raised,
      worst: level,
      peak: value,
      returned: null,
      overAt: null,
      ended: null,
    };
    s.ringing.push(ring);
    open[cause] = ring;
    seen({ kind: 'raised', ring });
  };
  const end = (ring: Ring, at: number, arrived: number, ended: Ring['ended']) => {
    ring.returned = arrived;
    ring.overAt = at;
    ring.ended = ended;
    s.ringing = s.ringing.filter((r) => r !== ring);
    open[ring.cause] = null;
    seen({ kind: 'returned', ring });
  };

  /** Two-valued causes: a rate, a twin. */
  const follow = (
    cause: Cause,
    state: CompareState,
    at: number,
    arrived: number,
    fresh: boolean,
    by: number,
  ) => {
    const ring = open[cause];
    if (ring && Math.abs(by) > Math.abs(ring.peak ?? 0)) ring.peak = by;
    if (state.active && !ring && fresh) raise(cause, 0, state.began, at, by, arrived);
    else if (!state.active && ring) end(ring, at, arrived, 'back');
  };

  const judgeLimits = (at: number, arrived: number, fresh: boolean, value: number) => {
    let level: Level = 0;
    let began = 0;
    for (let i = 0; i < 4; i++) {
      const state = s.limits[i]!;
      if (!state.active) continue;
      const own = levelsOfLimits[i]!;
      // Of two sides, as while the way back is waited for, the one the value is on now.
      const heavier = Math.abs(own) > Math.abs(level);
      if (level === 0 || (Math.sign(own) === Math.sign(level) ? heavier : state.beyond)) {
        level = own;
        began = state.began;
      }
    }
    const ring = open.limits;
    if (!ring) {
      if (level !== 0 && fresh) raise('limits', level, began, at, value, arrived);
      return;
    }
    if (level === 0) return end(ring, at, arrived, 'back');
    if (Math.sign(level) !== Math.sign(ring.level)) {
      end(ring, at, arrived, 'back');
      if (fresh) raise('limits', level, began, at, value, arrived);
      return;
    }
    if (Math.sign(level) * (value - ring.peak!) > 0) ring.peak = value;
    if (level === ring.level) return;
    const worse = Math.abs(level) > Math.abs(ring.level);
    if (worse && !fresh) return;
    ring.level = level;
    if (worse) ring.worst = level;
    seen({ kind: worse ? 'worse' : 'eased', ring });
  };

  const endLimits = (at: number, arrived: number, ended: 'hours' | 'gate') => {
    for (const state of s.limits) {
      state.beyond = state.active = false;
      state.held = 0;
    }
    const ring = open.limits;
    if (ring) end(ring, at, arrived, ended);
  };

  const closeExcursion = () => {
    if (excursion && !excursion.rang) missed(excursion);
    excursion = null;
  };
  /** Keeps account of what lies beyond a limit, whatever the rule makes of it. */
  const note = (at: number, value: number, why: WhyMissed) => {
    const depth = Math.max(lowest - value, value - highest);
    if (depth <= 0) {
      if (excursion) closeExcursion();
      return;
    }
    excursion ??= { from: at, until: at, depth, peak: value, why, rang: false };
    excursion.until = at;
    excursion.rang ||= open.limits !== null;
    if (depth > excursion.depth) {
      excursion.depth = depth;
      excursion.peak = value;
    }
    if (excursion.why === 'short') excursion.why = why;
  };

  const isOffLine = (at: number, arrived: number): boolean =>
    everOffLine && maybeOffLine(at) && offLineAt(ground.offLine, at, arrived) !== null;

  /** When the newest value is too old, if nothing else arrives; Infinity for never. */
  const silentFrom = (): number => {
    if (s.last === 0) return Infinity;
    let due = Math.max(s.arrived, s.last + silentAfter);
    for (let off = offLineAt(ground.offLine, due, due); off; off = offLineAt(ground.offLine, due, due)) {
      const until = Math.min(off.until, off.knownUntil);
      if (!(until < Infinity)) return Infinity;
      due = until + 1;
    }
    return due;
  };
  const settle = (now: Milliseconds) => {
    if (silentAfter === Infinity || open.silent || s.last + silentAfter >= now) return;
    const due = silentFrom();
    if (due < now) raise('silent', 0, s.last, s.last, null, due);
  };

  const takeOne = (at: number, run: number, value: number, arrived: number, gate: number, twin: number) => {
    if (run < s.run || (run === s.run && at <= s.last)) return;
    const between = run === s.run ? at - s.last : 0;
    const passed = between > ground.gap || s.last === 0 ? 0 : between;
    s.run = run;
    s.last = at;
    const by = moved ? moved(at, value) : 0;
    if (isOffLine(at, arrived)) return note(at, value, 'off-line');
    const fresh = arrived - at <= latest;
    if (rule.gate && !Number.isNaN(gate)) compare(gateOver, s.gate, at, 0, gate);
    // Where it is not known whether the limits apply, they do.
    const gated = rule.gate !== null && !Number.isNaN(gate) && !s.gate.beyond;
    if (gated || !holds(at)) {
      const why = gated ? 'gate' : 'hours';
      endLimits(at, arrived, why);
      note(at, value, why);
    } else {
      let active = open.limits !== null;
      for (let i = 0; i < 4; i++) {
        const c = comparators[i];
        if (!c) continue;
        compare(c, s.limits[i]!, at, passed, value);
        if (s.limits[i]!.active) active = true;
      }
      if (active) judgeLimits(at, arrived, fresh, value);
      note(at, value, fresh ? 'short' : 'late');
    }
    if (moved) {
      compare(rateOver, s.rate, at, passed, Math.abs(by));
      follow('rate', s.rate, at, arrived, fresh, by);
    }
    if (rule.twin && !Number.isNaN(twin)) {
      compare(twinOver, s.twin, at, passed, Math.abs(value - twin));
      follow('twin', s.twin, at, arrived, fresh, value - twin);
    }
  };

  return {
    /** Shows a rate the values before the first one that is taken. */
    prime(at: ArrayLike<number>, value: ArrayLike<number>) {
      if (moved) for (let i = 0; i < at.length; i++) moved(at[i]!, value[i]!);
    },
    take({ at, run, value, arrived, gate, twin }: Arrivals) {
      const n = at.length;
      for (let i = 0; i < n;) {
        const now = arrived[i]!;
        settle(now);
        const last = s.last;
        for (; i < n && arrived[i] === now; i++)
          takeOne(at[i]!, run[i]!, value[i]!, now, gate ? gate[i]! : NaN, twin ? twin[i]! : NaN);
        if (s.last === last) continue;
        s.arrived = now;
        const silent = open.silent;
        if (silent && s.last + silentAfter > now) end(silent, s.last, now, 'back');
      }
    },
    settle,
    /** When it will be silent if nothing else arrives; null for never, and while it is. */
    silentAt(): Milliseconds | null {
      if (silentAfter === Infinity || open.silent) return null;
      const due = silentFrom();
      return due === Infinity ? null : due;
    },
    /** Nothing else comes: a stretch that is open is closed. */
    finish(now: Milliseconds) {
      settle(now);
      closeExcursion();
    },
  };
}

/** The span that held an instant as far as was known at another; null for none. */
function offLineAt(spans: readonly KnownSpan[], at: Milliseconds, known: Milliseconds): KnownSpan | null {
  for (const span of spans)
    if (at >= span.from && at <= span.until && known >= span.knownFrom && known < span.knownUntil)
      return span;
  return null;
}

/** Spans as one list in order without overlaps; the end of an off-line span belongs to it. */
function union(spans: readonly Span[]): Span[] {
  const all: { from: number; until: number }[] = [];
  for (const { from, until } of [...spans].sort((a, b) => a.from - b.from)) {
    const before = all.at(-1);
    if (before && from <= before.until) before.until = Math.max(before.until, until + 1);
    else all.push({ from, until: until + 1 });
  }
  return all;
}
