import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { occurredAt } from '@/schema/pieces';
import { must, shape, text } from '@/schema/shape';
import type { PhotographView } from './photographs';
import type { FieldBookLineView, StationHead } from './views';

/** A page of the field book: a visit as it happened, with its numbers, its pictures and who signed it. */
export interface FieldBookPage extends Omit<StationHead, 'cautions'> {
  readonly visitId: string;
  /** First and last instant of what was done. */
  readonly from: string;
  readonly until: string;
  /** Whoever was there, the page's writer first. */
  readonly people: readonly {
    readonly personId: string;
    readonly initials: string;
    readonly visitId: string;
    readonly arrivedAt: string | null;
    readonly others: string;
    readonly acknowledged: readonly string[];
    readonly leftAt: string | null;
  }[];
  readonly signed: { readonly at: string; readonly by: string; readonly sha256: string } | null;
  /** What the signature stands for now, for whoever signs. */
  readonly sha256: string;
  /** In the order of the acts. */
  readonly lines: readonly FieldBookLineView[];
  /** What was recorded after the page was signed. */
  readonly additions: readonly FieldBookLineView[];
  readonly readings: readonly PageReading[];
  readonly adjustments: readonly PageAdjustment[];
  /** What a handheld kept by itself and was assigned here. */
  readonly handheld: readonly PageHandheld[];
  readonly pictures: readonly PhotographView[];
  readonly leftOpen: readonly { readonly says: string; readonly since: string; readonly reason: string }[];
  /** What is due here now. */
  readonly due: readonly { readonly says: string; readonly next: string }[];
}
/** A reading of a check; values in the quantity's base unit. */
export interface PageReading {
  readonly at: string;
  readonly channel: string;
  readonly quantity: QuantityCode;
  readonly phase: 'as-found' | 'verification';
  readonly sensor: number;
  /** As it was shown, or as it follows from the point; null while it is still to come. */
  readonly reference: number | null;
  /** As it was compared: a humidity brought to the sensor's temperature. */
  readonly compared: number | null;
  /** sensor − compared */
  readonly difference: number | null;
  readonly excluded: string | null;
}
export interface PageHandheld {
  readonly at: string;
  readonly instrument: string | null;
  readonly channel: string | null;
  readonly quantity: QuantityCode;
  /** As it stood in the handheld's list. */
  readonly entered: number;
  readonly unit: Unit;
  readonly label: string;
}
export interface PageAdjustment {
  readonly at: string;
  readonly channel: string;
  readonly quantity: QuantityCode;
  readonly place: 'device' | 'record';
  readonly way: AdjustmentWay;
  readonly entered: number;
  readonly previous: number | null;
  readonly resulting: number | null;
}

/** Signing a page: `sha256` of what its writer saw, so that nothing is signed unseen. */
export interface SignPage {
  sha256: string;
  occurredAt: string;
}
export const signPage = shape<SignPage>({ sha256: must(text((s) => s.hex().length(64))), occurredAt });

/** What is asked of the field book. */
export interface BookFilter {
  readonly station?: string | undefined;
  readonly channel?: string | undefined;
  readonly person?: string | undefined;
  readonly kind?: string | undefined;
  readonly text?: string | undefined;
}
export interface BookChoices {
  readonly people: readonly { readonly id: string; readonly initials: string }[];
  readonly kinds: readonly string[];
  /** Readings of handhelds that wait for a site. */
  readonly unassigned: number;
  /** Of the station that is asked for. */
  readonly channels: readonly { readonly id: string; readonly name: string }[];
}
export const bookFilters = ['station', 'channel', 'person', 'kind', 'text'] as const;

/** One page for whoever comes next. */
export interface HandOver extends StationHead {
  /** The last visit; null where nobody was here yet. */
  readonly last: {
    readonly visitId: string;
    readonly from: string;
    readonly until: string;
    readonly by: string;
    readonly lines: readonly FieldBookLineView[];
  } | null;
  /** What happened since. */
  readonly since: readonly FieldBookLineView[];
  readonly open: readonly {
    readonly key: string;
    readonly says: string;
    readonly since: string;
    readonly next: string;
    /** Why it was left open; empty where nobody said. */
    readonly reason: string;
  }[];
  readonly due: readonly { readonly says: string; readonly next: string }[];
  readonly bring: readonly string[];
  readonly toDo: readonly string[];
}
