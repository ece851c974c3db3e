import type { School } from './budget';
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
  };
  readonly outOfDateReason: string | null;
  readonly adjustIn: 'device' | 'record';
  readonly decimals: number;
}
