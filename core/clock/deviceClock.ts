import { finite } from '../valid';

/** How a person's device and the server differ in time, as measured at one contact. */
export interface ClockMeasure {
  /** The device is ahead by so much, s; negative where it is behind. */
  readonly ahead: number;
  /** How far that may be wrong, s: half the time the contact took. */
  readonly doubt: number;
  /** When, by the device's own clock, ms since epoch. */
  readonly at: number;
}

/**
 * The difference between two clocks from one question and its answer: the server's stamp belongs, within
 * half the time the contact took, to the middle of it (RFC 5905, section 8, with one stamp of the server
 * in the place of two).
 *
 * @param sent when the question left, by the device, ms
 * @param received when the answer was there, by the device, ms; not before `sent`
 * @param server the server's stamp, ms
 * @returns null where the device's clock was set back in between, or the stamp is none
 * @example measureClock(10_000, 10_200, 4_100).ahead // 6
 */
export function measureClock(sent: number, received: number, server: number): ClockMeasure | null {
  finite('sent', sent);
  finite('received', received);
  if (!Number.isFinite(server) || received < sent) return null;
  return {
    ahead: ((sent + received) / 2 - server) / 1000,
    doubt: (received - sent) / 2 / 1000,
    at: received,
  };
}

/** A clock of a phone or tablet drifts so much at most, s for each s. Common practice, no source. */
const drift = 50e-6;
/** Beyond this two measures are of a clock that was set in between, s, beside what both doubt. Our own choice. */
const setByHand = 2;

/** How far a measure may be wrong at a later instant (ms, by the device), s. */
const doubtAt = (m: ClockMeasure, at: number): number => m.doubt + drift * Math.max(0, (at - m.at) / 1000);

/**
 * Which of two measures of one clock to go by: the newer, unless the older is still surer and both agree.
 * @example betterMeasure({ ahead: 1, doubt: 0.1, at: 0 }, { ahead: 1.5, doubt: 2, at: 1000 }).ahead // 1
 */
export function betterMeasure(held: ClockMeasure | null, next: ClockMeasure): ClockMeasure {
  if (!held || next.at < held.at || wasSet(held, next)) return next;
  return doubtAt(held, next.at) < next.doubt ? held : next;
}

/**
 * Whether the clock was set between two measures: they part by more than both may be wrong.
 * @example wasSet({ ahead: 0, doubt: 0.1, at: 0 }, { ahead: 86400, doubt: 0.1, at: 1000 }) // true
 */
export const wasSet = (earlier: ClockMeasure, later: ClockMeasure): boolean =>
  Math.abs(later.ahead - earlier.ahead) > doubtAt(earlier, later.at) + later.doubt + setByHand;

/**
 * An instant of the device (ms) in the server's time, ms. A difference within its own doubt is none.
 * @example inServerTime(100_000, { ahead: 60, doubt: 0.2, at: 90_000 }) // 40000
 */
export function inServerTime(device: number, measure: ClockMeasure | null): number {
  finite('device', device);
  return device - 1000 * correction(measure);
}

/**
 * What is taken off a device's time, s: nothing where the difference is within its doubt.
 * @example correction({ ahead: 0.1, doubt: 0.2, at: 0 }) // 0
 */
export const correction = (measure: ClockMeasure | null): number =>
  measure && Math.abs(measure.ahead) > measure.doubt ? measure.ahead : 0;

/** From here on a person is told that the device's clock is wrong, s. Our own choice. */
export const worthTelling = 30;
