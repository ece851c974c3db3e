import type { Budget } from '@/core/check/budget';
import type { Crossed } from '@/core/check/consequences';
import type { CheckPlan } from '@/core/check/plan';
import type { ReferenceRest } from '@/core/check/referenceRest';
import type { Fouling } from '@/core/check/fouling';
import type { Repeatability } from '@/core/check/repeatability';
import type { Settling } from '@/core/check/settling';
import type { Taken } from '@/core/check/taken';
import type { Convergence, Verdict } from '@/core/check/verdict';
import type { JudgedPoint } from '@/core/check/evaluate';
import type { Coefficients } from '@/core/procedure/line';
import type { Compared, Health } from '@/core/procedure/procedure';
import type { Care } from '@/core/kit/care';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import type { CertifiedQuantity } from '@/schema/kit';
import type { StandardView } from './standards';
import type { OpenActionView } from './views';

/** What the application answers of instruments of the kit and of checks. */

export interface InstrumentView {
  id: string;
  name: string;
  model: string;
  serial: string;
  calibratedOn: string;
  dueOn: string;
  overdueDays: number;
  linked: boolean;
  quantities: readonly {
    quantity: QuantityCode;
    tolerance: number;
    resolution: number;
    low: number;
    high: number;
  }[];
  /** What its newest certificate says, by quantity; a quantity that it says nothing of is as good as its tolerance. */
  certified: readonly CertifiedQuantity[];
  care: Care;
  /** Found to show so much too much, base unit, and not calibrated since; newest first. */
  foundOff: readonly { quantity: QuantityCode; by: number; foundOn: string }[];
}

export interface CheckReadingView {
  id: string;
  phase: 'as-found' | 'verification';
  round: number;
  occurredAt: string;
  /** Of the plan it was read at. */
  point: string | null;
  sensorValue: number;
  /** As the reference read; several where it was read again for one value of the sensor. */
  references: readonly { id: string; value: number; at: string; excludedReason: string | null }[];
  /** What was read beside both, base units. */
  companions: readonly { key: string; value: number }[];
  /** Null while something of it is still to come. */
  compared: (Compared & { sum: string }) | null;
  settling: Settling;
  /** Whether the reference stood still; null where nothing says so. */
  reference: ReferenceRest | null;
  /** Read as found, but after the sensor was cleaned. */
  afterCleaning: boolean;
  excludedReason: string | null;
}
export interface CheckView {
  id: string;
  stationId: string;
  stationCode: string;
  channelId: string;
  channelNumber: number;
  channelName: string;
  unit: Unit;
  /** Null for one against standards, or what nature gives. */
  instrument: InstrumentView | null;
  plan: CheckPlan;
  accuracyRatioText: string;
  openedAt: string;
  readings: CheckReadingView[];
  budget: Budget | null;
  verdict: Verdict | null;
  /** How its logger takes an adjustment; none where it lies over the record. */
  ways: AdjustmentWay[];
  adjustments: {
    id: string;
    round: number;
    place: 'device' | 'record';
    mode: AdjustmentWay;
    entered: number;
    previous: number | null;
    resulting: number | null;
    readAtEntry: number;
    byHand: boolean;
    at: string;
    sum: string;
    guardReason: string | null;
    /** Until when the device calibrates itself; null where it does not. */
    runsUntil: string | null;
    /** It was taken back; it takes another back. */
    undone: boolean;
    undoes: boolean;
  }[];
  pendingAction: OpenActionView | null;
  convergence: Convergence | null;
  /** What to add to the sensor's value now, if anything is proposed. */
  proposed: number | null;
  /** What would take out a difference beyond the guard, for an honest reason; null where there is none. */
  beyond: number | null;
  /** What the steps of its device will leave of the difference; null where it takes every digit. */
  remainder: number | null;
  /** How far its differences scattered in earlier checks; null where its own alone count. */
  earlier: Repeatability | null;
  /** What lies over the record of the sensor now, base unit: it belongs to what is read off a display, too. */
  correction: number;
  /** What its site knows of what is read beside it, by key, base unit. */
  ofSite: Readonly<Record<string, number>>;
  /** What else changes with what is proposed: derived channels by name, limits the value passes; null where nothing is proposed. */
  consequences: { readonly derived: readonly string[]; readonly crossed: readonly Crossed[] } | null;
  /** Every point that was read; names of those still to be read. */
  points: readonly JudgedPoint[];
  missing: readonly string[];
  /** What brings the readings at several points to their references. */
  coefficients: Coefficients | null;
  /** Whether an offset alone brings every point within its limit. */
  offsetServes: boolean;
  /** Between which readings of the sensor it was proved. */
  proved: { readonly low: number; readonly high: number } | null;
  /** What of the sensor itself came to light. */
  health: readonly Health[];
  /** What cleaning changed; null where it was not cleaned. */
  fouling: Fouling | null;
  /** Whether the device took the offset it was given last; null where that cannot be told. */
  taken: Taken | null;
  /** How many of the repeats tell something of their own. */
  telling: number;
  asFound: number | null;
  asLeft: number | null;
  limit: number | null;
  outcome: string | null;
  closedAt: string | null;
}
export interface LiveView {
  /** Logger's stamp, s since epoch. */
  t: number;
  value: number | null;
  /** What the sensor's other channels show of what is read beside it, by key; base units. */
  companions: Readonly<Record<string, number | null>>;
  /** A linked reference's display. */
  instrument: { value: number | null; companions: Readonly<Record<string, number | null>> } | null;
}
export interface CheckStartView {
  stationId: string;
  code: string;
  name: string;
  channels: {
    id: string;
    number: number;
    name: string;
    zoneName: string;
    quantity: QuantityCode;
    openCheckId: string | null;
    settleWindow: number;
    tolerance: number;
    /** The check of it that was begun last. */
    last: { openedAt: string; outcome: string | null; material: string | null } | null;
  }[];
  instruments: InstrumentView[];
  standards: StandardView[];
  recent: {
    id: string;
    channelName: string;
    openedAt: string;
    outcome: string | null;
    difference: number | null;
    unit: Unit;
    decimals: number;
  }[];
}
