import { projectFinal } from '@/core/check/projection';
import { judgeSettling } from '@/core/check/settling';
import { normal, uniform } from './simulate';

/** What a sensor does that is put into another medium, in tolerances of the sensor; where it ends is 0. */
export const responses = [
  'first order',
  'plateau, then a step',
  'second order',
  'drifting medium',
  'ten-second hold',
  'correlated noise',
] as const;
export type ResponseKind = (typeof responses)[number];

export interface Response {
  /** Time constant, s. */
  readonly tau: number;
  /** Where it begins, tolerances off. */
  readonly amplitude: number;
  /** Standard deviation of one reading, and its step. */
  readonly noise: number;
  readonly resolution: number;
  /** How long it is watched, s. */
  readonly seconds: number;
}

/** s between two readings. */
const every = 2;
/** Tolerances a second that a medium drifts. */
const drifts = 0.002;
const hold = 10;
/** How far noise follows itself from reading to reading. */
const follows = 0.8;

/** Readings of it, and what its medium truly is at a time. */
export function respond(
  kind: ResponseKind,
  random: () => number,
  { tau, amplitude, noise, resolution, seconds }: Response,
) {
  const draw = normal(random);
  const plateau = kind === 'plateau, then a step' ? tau * (0.5 + random()) : 0;
  const drift = kind === 'drifting medium' ? (random() < 0.5 ? -1 : 1) * drifts : 0;
  const at = (t: number): number => {
    const x = (t - plateau) / tau;
    if (x < 0) return amplitude;
    if (kind === 'second order') return amplitude * (1.5 * Math.exp(-x) - 0.5 * Math.exp(-3 * x));
    return amplitude * Math.exp(-x) + drift * (t - tau * (1 - Math.exp(-x)));
  };
  const readings: { t: number; value: number }[] = [];
  let following = 0;
  for (let t = 0; t <= seconds; t += every) {
    const last = readings.at(-1);
    if (kind === 'ten-second hold' && last && Math.floor(t / hold) === Math.floor(last.t / hold)) {
      readings.push({ t, value: last.value });
      continue;
    }
    const fresh = draw();
    following = follows * following + Math.sqrt(1 - follows ** 2) * fresh;
    const value =
      at(kind === 'ten-second hold' ? Math.floor(t / hold) * hold : t) +
      noise * (kind === 'correlated noise' ? following : fresh);
    readings.push({ t, value: Math.round(value / resolution) * resolution });
  }
  return { readings, truth: (t: number) => drift * t };
}

/** One drawn at random: of these noises and steps, seen for 1.5 to 3.5 time constants after what it waits. */
export function someResponse(random: () => number, kind: ResponseKind): Response {
  const tau = 15 + 45 * random();
  const pick = (of: readonly number[]) => of[Math.floor(random() * of.length)]!;
  return {
    tau,
    amplitude: (random() < 0.5 ? -1 : 1) * (2 + 18 * random()),
    noise: pick([0.01, 0.03, 0.1]),
    resolution: pick([0.01, 0.1]),
    seconds: tau * (1.5 + 2 * random() + (kind === 'plateau, then a step' ? 1 : 0)),
  };
}

/** Of so many responses: how many were projected, and of how many the stated 95 % hold the medium at the last reading. */
export function coverageOf(kind: ResponseKind, runs: number): { said: number; inside: number } {
  const random = uniform(7);
  let [said, inside] = [0, 0];
  for (let i = 0; i < runs; i++) {
    const its = someResponse(random, kind);
    const { readings, truth } = respond(kind, random, its);
    const p = projectFinal(readings, its.resolution);
    if (!p) continue;
    said++;
    if (Math.abs(p.final - truth(readings.at(-1)!.t)) <= 2 * p.uncertainty) inside++;
  }
  return { said, inside };
}

/** When each of so many responses is first called settled, s of its time constant, and how far it then is from its medium. */
export function settledAt(kind: ResponseKind, runs: number): ({ after: number; off: number } | null)[] {
  const random = uniform(11);
  return Array.from({ length: runs }, () => {
    const its = someResponse(random, kind);
    const rule = {
      window: 60,
      band: 0.25,
      resolution: its.resolution,
      // The profile knows the time constant to a factor.
      response: its.tau / (0.6 + 0.9 * random()),
      placedAt: 0,
    };
    const { readings, truth } = respond(kind, random, { ...its, seconds: 11 * its.tau + 120 });
    const at = readings.findIndex(
      (_, n) => n > 20 && n % 5 === 0 && judgeSettling(readings.slice(0, n + 1), rule).state === 'settled',
    );
    if (at < 0) return null;
    const { t, value } = readings[at]!;
    return { after: t / its.tau, off: Math.abs(value - truth(t)) };
  });
}
