import type { PartInUse } from '../device/part';
import type { Certificate } from '../kit/certificate';
import type { ProcedureCode } from '../procedure/codes';
import type { School } from './budget';
import type { Thermometers } from './humidityComparison';
import type { ReferenceRule } from './referenceRest';
import type { SettlingRule } from './settling';
import type { QuantityCode } from '../quantity/quantity';
import type { Unit } from '../quantity/unit';

/** What was fixed when a check was opened, kept with it so that later changes elsewhere do not rewrite it. */
export interface CheckPlan {
  readonly procedure: ProcedureCode;
  readonly quantity: QuantityCode;
  /** Unit the logger gives live values in. */
  readonly unit: Unit;
  readonly zoneName: string;
  readonly repeats: number;
  readonly school: School;
  readonly settleWindow: number;
  readonly settleBand: number;
  readonly guard: number;
  readonly sensorTolerance: number;
  readonly sensorResolution: number;
  /** Time constant of the sensor in its medium by its profile, s; 0 where nobody states one. */
  readonly sensorResponse: number;
  /** s until it answers at all, by its profile; 0 where nobody states it. */
  readonly sensorDeadTime: number;
  /** The part of it that is replaced on site and bears on this quantity; null for none. */
  readonly part: PartInUse | null;
  /** Whether repeats are judged together with those of earlier checks of the sensor. */
  readonly pools: boolean;
  readonly referenceTolerance: number;
  readonly referenceResolution: number;
  readonly referenceRange: readonly [number, number];
  /** Time constant of the reference, s; 0 where nobody states one. */
  readonly referenceResponse: number;
  /** What its certificate says of it; null where its tolerance stands for it. */
  readonly certificate: Certificate | null;
  /** What is read beside both, as far as this sensor and this reference show it. */
  readonly companions: readonly PlannedCompanion[];
  /** Where it is read, by the standards chosen for it; none where a reference is read beside it. */
  readonly points: readonly PlannedPoint[];
  /** Whether humidities of one air are compared as they read, see `compareHumidity`. */
  readonly comparesDirectly: boolean;
  readonly outOfDateReason: string | null;
  /** What the goods were: an adjustment belongs to them. Null where the procedure does not ask. */
  readonly material: string | null;
  readonly adjustIn: 'device' | 'record';
  /** In which steps its device takes an offset, and how far; null where it takes every digit, or nothing is told to it. */
  readonly offsets: { readonly step: number; readonly most: number } | null;
  readonly decimals: number;
}

/** A companion of the procedure, and what shows it here. */
export interface PlannedCompanion {
  readonly key: string;
  /** The channel of the same sensor that its logger shows it by; null where it is typed, or read off the reference. */
  readonly channel: null | { readonly number: number; readonly unit: Unit };
  /** ± of whatever shows it, base unit; null where nobody states one. */
  readonly tolerance: number | null;
  /** What that can show, base unit. */
  readonly range: readonly [low: number, high: number];
  /** What the certificate of the reference says of it; null for what is read elsewhere, or has none. */
  readonly certificate: Certificate | null;
}

/** A known value that the sensor is brought to. */
export interface PlannedPoint {
  readonly key: string;
  readonly name: string;
  /** What it is, base unit, by its temperature, °C, ascending; one row without temperature where it hangs on none. */
  readonly values: readonly { readonly temperature: number | null; readonly value: number }[];
  /** ± of it, base unit, > 0. */
  readonly tolerance: number;
  /** ± of the sensor there, base unit, > 0: it may grow with the reading. */
  readonly sensorTolerance: number;
  /** The standard in the Kit whose label says so; null for one that nature gives. */
  readonly standardId: string | null;
}

/** The tolerances of both thermometers of a humidity check; null where it brings all to one temperature. */
export function thermometersOf({
  comparesDirectly,
  companions,
}: Pick<CheckPlan, 'comparesDirectly' | 'companions'>): Thermometers | null {
  const sensor = toleranceOf(companions, 'sensorTemperature');
  const reference = toleranceOf(companions, 'referenceTemperature');
  return comparesDirectly && sensor !== null && reference !== null ? { sensor, reference } : null;
}

const toleranceOf = (companions: CheckPlan['companions'], key: string): number | null =>
  companions.find((c) => c.key === key)?.tolerance ?? null;

/**
 * By what a reading of a check counts as settled.
 *
 * @param placedAt when the sensor was placed or something round it changed, s on the clock of the readings; null for
 *   one that hangs where it hung
 */
export const settlingRule = (
  plan: Pick<
    CheckPlan,
    'settleWindow' | 'settleBand' | 'sensorResolution' | 'sensorResponse' | 'sensorDeadTime'
  >,
  placedAt: number | null,
): SettlingRule => ({
  window: plan.settleWindow,
  band: plan.settleBand,
  resolution: plan.sensorResolution,
  response: plan.sensorResponse,
  deadTime: plan.sensorDeadTime,
  ...(placedAt !== null && { placedAt }),
});

/** By what the reference of a check counts as settled. */
export const referenceRule = (
  plan: Pick<CheckPlan, 'settleWindow' | 'settleBand' | 'referenceResolution' | 'referenceResponse'>,
): ReferenceRule => ({
  window: plan.settleWindow,
  band: plan.settleBand,
  resolution: plan.referenceResolution,
  response: plan.referenceResponse,
});
