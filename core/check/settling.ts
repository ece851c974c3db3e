import { notNegative, positive } from '../valid';
import { followOf } from '../fit/follow';
import { projectFinal, type Projection } from './projection';
import type { TimedValue } from './timedValue';
import { coverageFactor } from './uncertainty';

export type Settling =
  /** Not watched long enough to say anything. */
  | { readonly state: 'watching'; readonly watched: number; readonly window: number }
  /** What is still to come is proven smaller than the band; `movement` is what the slope says of it. */
  | { readonly state: 'settled'; readonly value: number; readonly movement: number; readonly band: number }
  /** Still moving; where it is heading is stated only if the readings can tell. */
  | {
      readonly state: 'moving';
      readonly movement: number;
      readonly band: number;
      readonly projected: Projection | null;
    }
  /** No trend, but the scatter is too wide to prove rest. */
  | {
      readonly state: 'restless';
      readonly scatter: number;
      readonly movement: number;
      readonly band: number;
    }
  /** Read off a display: a person watched it over the window, and it stood still. */
  | { readonly state: 'said'; readonly window: number }
  /** Not read at its instant: the mean of so many readings over a window, which need not stand still. */
  | {
      readonly state: 'averaged';
      readonly window: number;
      readonly n: number;
      readonly scatter: number;
    };

/** Whether a reading counts as one at rest: shown to be so, or said by whoever watched the display. */
export const atRest = ({ state }: Settling): boolean =>
  state === 'settled' || state === 'said' || state === 'averaged';

export interface SettlingRule {
  /** How long readings must have been watched, s, > 0. */
  readonly window: number;
  /** Largest movement still to come that counts as rest, base unit, > 0. */
  readonly band: number;
  /** Resolution of the reading, base unit, ≥ 0: no fit may claim to know better. */
  readonly resolution: number;
  /** Time constant of the sensor in its medium by its profile, s, ≥ 0; 0 where nobody states one. */
  readonly response?: number;
  /** s from a change of its medium until it answers at all, ≥ 0. */
  readonly deadTime?: number;
  /** When it was placed, or something round it changed, on the clock of the readings; what was read before counts no more. */
  readonly placedAt?: number;
}

const fewest = 5;
/** After so many time constants a first-order response has 5 % to go. */
const constants = 3;

/**
 * Says whether a reading has come to rest, from all readings so far (ascending time; non-finite values are passed over).
 * Rest has to be *proven*: what is still to come has to stay inside the band. That is the slope over the window, with
 * its doubt at 95 %, times the time constant (what a first-order response has left); where the readings tell where it
 * is heading, the way there with its doubt serves as well. A slope near nothing at the beginning of a response is no
 * rest: once it was placed, nothing is settled before the response was seen or three time constants have passed. A
 * sensor that hangs where it hung has had them.
 * A moving reading gets the projected final value. RangeError for a window or band that is not above 0. The band is
 * common practice, no source; the bound is an equivalence test.
 *
 * @example judgeSettling(Array.from({ length: 20 }, (_, i) => ({ t: i * 5, value: 20 })), { window: 60, band: 0.1, resolution: 0.01 }).state // 'settled'
 */
export function judgeSettling(readings: readonly TimedValue[], rule: SettlingRule): Settling {
  positive('window', rule.window);
  positive('band', rule.band);
  notNegative('resolution', rule.resolution);
  const response = notNegative('response', rule.response ?? 0);
  const deadTime = notNegative('dead time', rule.deadTime ?? 0);
  const { window, band, resolution, placedAt = null } = rule;
  const clean = readings.filter(
    (r) => Number.isFinite(r.t) && Number.isFinite(r.value) && (placedAt === null || r.t >= placedAt),
  );
  const last = clean.at(-1);
  const watched = last ? last.t - clean[0]!.t : 0;
  if (!last || clean.length < fewest || watched < window) return { state: 'watching', watched, window };
  // Of a slow sensor a short slope says little of what is still to come: as much as there is, up to two time constants.
  const recent = clean.filter((r) => r.t >= last.t - Math.max(window, Math.min(watched, 2 * response)));
  if (recent.length < fewest) return { state: 'watching', watched, window };
  const line = straightLine(recent, resolution);
  const projected = projectFinal(clean, resolution);
  // Without a time constant of its own, the window stands for it.
  const tau = Math.max(response, projected?.tau ?? 0) || window;
  const movement = line.slope * tau;
  const doubt = line.doubt * tau;
  const untilThen = placedAt === null ? 0 : deadTime + constants * response;
  const early = projected === null && watched < untilThen;
  const isHeaded =
    projected !== null && Math.abs(projected.final - last.value) + 2 * projected.uncertainty <= band;
  if (!early && (Math.abs(movement) + doubt <= band || isHeaded))
    return { state: 'settled', value: line.mean, movement, band };
  if (early && Math.abs(movement) + doubt <= band) return { state: 'watching', watched, window: untilThen };
  if (Math.abs(movement) <= doubt) return { state: 'restless', scatter: line.scatter, movement, band };
  return { state: 'moving', movement, band, projected };
}

/** The slope of readings with its doubt at 95 %: readings that follow one another count as fewer. */
function straightLine(readings: readonly TimedValue[], resolution: number) {
  const n = readings.length;
  const span = readings[n - 1]!.t - readings[0]!.t;
  const tMean = readings.reduce((s, r) => s + r.t, 0) / n;
  const mean = readings.reduce((s, r) => s + r.value, 0) / n;
  let stt = 0;
  let sty = 0;
  for (const r of readings) {
    stt += (r.t - tMean) ** 2;
    sty += (r.t - tMean) * (r.value - mean);
  }
  const slope = stt > 0 ? sty / stt : 0;
  const residuals = readings.map((r) => r.value - mean - slope * (r.t - tMean));
  const sse = residuals.reduce((s, r) => s + r * r, 0);
  const floor = resolution / Math.sqrt(12);
  const scatter = Math.max(Math.sqrt(sse / Math.max(1, n - 2)), floor);
  const follow = Math.min(mostFollow, Math.max(0, followOf(residuals)));
  // So many readings say as much that do not follow one another (Bartlett 1946, from memory).
  const telling = Math.max(fewest - 2, (n * (1 - follow)) / (1 + follow) - 2);
  const error = (scatter / Math.sqrt(stt)) * Math.sqrt((1 + follow) / (1 - follow));
  // What moves by less than a step shows nothing.
  const hidden = resolution / (span * Math.sqrt(3));
  return {
    mean,
    slope,
    scatter,
    doubt: stt > 0 ? coverageFactor(telling) * Math.hypot(error, hidden) : Infinity,
  };
}
/** Readings that follow one another more than this are one. */
const mostFollow = 0.95;
