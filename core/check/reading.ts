import { correctionOf, type Certificate } from '../kit/certificate';
import type { Gathered } from '../procedure/procedure';
import type { CheckPlan } from './plan';
import type { ReferenceRest } from './referenceRest';
import type { Settling } from './settling';
import { mean } from './uncertainty';

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
  /** Whether the reference stood still; null where nothing says so, or none was read beside it. */
  readonly reference: ReferenceRest | null;
  /** Read as found, but after the sensor was cleaned; never where an adjustment is verified. */
  readonly isCleaned: boolean;
  readonly isExcluded: boolean;
  readonly observations: readonly Observation[];
}

/** The observations of a reading by what they are, put right by the certificate of what showed them; null where the sensor was not read, or its point is none of the plan. */
export function gather(
  { observations, point, at: when }: Pick<CheckReading, 'observations' | 'point' | 'at'>,
  { points, certificate, companions: planned }: Pick<CheckPlan, 'points' | 'certificate' | 'companions'>,
): Gathered | null {
  const at = point === null ? null : points.find((p) => p.key === point);
  if (at === undefined) return null;
  let sensor: number | null = null;
  const references: number[] = [];
  const companions: Record<string, number> = {};
  for (const { role, value, isExcluded } of observations) {
    if (isExcluded) continue;
    if (role === 'sensor') sensor = value;
    else if (role === 'reference') references.push(value);
    else companions[role] = right(value, planned.find((c) => c.key === role)?.certificate ?? null);
  }
  if (sensor === null) return null;
  const shown = { point: at, sensor, at: when, references, companions };
  if (certificate === null || references.length === 0) return shown;
  const corrections = references.map((value) => correctionOf(certificate, value));
  return {
    ...shown,
    references: references.map((value, i) => value + corrections[i]!),
    corrected: mean(corrections),
  };
}

const right = (value: number, certificate: Certificate | null): number =>
  certificate === null ? value : value + correctionOf(certificate, value);
