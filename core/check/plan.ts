import type { School } from './budget';
import type { Thermometers } from './humidityComparison';
import type { SettlingRule } from './settling';
import type { QuantityCode } from '../quantity/quantity';
import type { Unit } from '../quantity/unit';

/** What was fixed when a check was opened, kept with it so that later changes elsewhere do not rewrite it. */
export interface CheckPlan {
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
  /** Whether repeats are judged together with those of earlier checks of the sensor. */
  readonly pools: boolean;
  readonly referenceTolerance: number;
  readonly referenceResolution: number;
  readonly referenceRange: readonly [number, number];
  /** For humidity: the thermometers on both sides. */
  readonly temperature: null | {
    readonly channelNumber: number;
    readonly unit: Unit;
    readonly sensorTolerance: number;
    readonly referenceTolerance: number;
    readonly referenceRange: readonly [number, number];
    /** Whether humidities of one air are compared as they read, see `compareHumidity`. */
    readonly direct: boolean;
  };
  readonly outOfDateReason: string | null;
  readonly adjustIn: 'device' | 'record';
  readonly decimals: number;
}

/** The tolerances of both thermometers of a humidity check; null where it brings all to one temperature. */
export const thermometersOf = ({ temperature }: Pick<CheckPlan, 'temperature'>): Thermometers | null =>
  temperature?.direct
    ? { sensor: temperature.sensorTolerance, reference: temperature.referenceTolerance }
    : null;

/**
 * By what a reading of a check counts as settled.
 *
 * @param placedAt when the sensor was placed or something round it changed, s on the clock of the readings; null for
 *   one that hangs where it hung
 */
export const settlingRule = (
  plan: Pick<CheckPlan, 'settleWindow' | 'settleBand' | 'sensorResolution' | 'sensorResponse'>,
  placedAt: number | null,
): SettlingRule => ({
  window: plan.settleWindow,
  band: plan.settleBand,
  resolution: plan.sensorResolution,
  response: plan.sensorResponse,
  ...(placedAt !== null && { placedAt }),
});
