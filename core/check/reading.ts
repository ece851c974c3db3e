import type { Gathered } from '../procedure/procedure';
import type { CheckPlan } from './plan';
import type { Settling } from './settling';

/** One dated value of a check. */
export interface Observation {
  readonly id: string;
  /** `sensor`, `reference`, or the key of a companion of its procedure. */
  readonly role: string;
  /** Base unit. */
  readonly value: number;
  /** s since epoch. */
  readonly at: number;
  /** Since when it is the mean of what was read, s; null for one that was read at its instant. */
  readonly since: number | null;
  readonly isExcluded: boolean;
}

/** What belongs together: the sensor once, what it is compared with, what that hangs on. */
export interface CheckReading {
  readonly id: string;
  readonly phase: 'as-found' | 'verification';
  /** How many adjustments were made before it. */
  readonly round: number;
  /** The point of the plan it was read at; null for a procedure without points. */
  readonly point: string | null;
  /** When the sensor was read, s since epoch. */
  readonly at: number;
  readonly settling: Settling;
  readonly isExcluded: boolean;
  readonly observations: readonly Observation[];
}

/** The observations of a reading by what they are; null where the sensor was not read, or its point is none of the plan. */
export function gather(
  { observations, point }: Pick<CheckReading, 'observations' | 'point'>,
  { points }: Pick<CheckPlan, 'points'>,
): Gathered | null {
  const planned = point === null ? null : points.find((p) => p.key === point);
  if (planned === undefined) return null;
  let sensor: number | null = null;
  const references: number[] = [];
  const companions: Record<string, number> = {};
  for (const { role, value, isExcluded } of observations) {
    if (isExcluded) continue;
    if (role === 'sensor') sensor = value;
    else if (role === 'reference') references.push(value);
    else companions[role] = value;
  }
  return sensor === null ? null : { point: planned, sensor, references, companions };
}
