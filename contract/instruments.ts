import type { Care } from '@/core/kit/care';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { care, certifiedQuantity, comparedPair, type CertifiedQuantity } from '@/schema/kit';
import { day, id, maybeId, name, occurredAt, quantity } from '@/schema/pieces';
import { listOf, must, orNull, shape } from '@/schema/shape';

/** A reference instrument over the years: calibrated, compared with another, looked after. */

/** What a laboratory said of it; values in base units. */
export interface CalibrationRequest {
  calibrationId: string;
  doneOn: string;
  dueOn: string;
  /** Its number, and whose it is. */
  certificate: string;
  /** Quantities without a correction are left out. */
  says: CertifiedQuantity[];
}
export const calibrationRequest = shape<CalibrationRequest>({
  calibrationId: id,
  doneOn: day,
  dueOn: day,
  certificate: must(name(120)),
  says: must(listOf(certifiedQuantity, (a) => a.max(12).unique('quantity'))),
});

export interface CareRequest {
  careId: string;
  /** Of the care the person was looking at; null for none. */
  basedOn: string | null;
  care: Care;
}
export const careRequest = shape<CareRequest>({
  careId: id,
  basedOn: must(orNull(maybeId)),
  care: must(care),
});

/** Two instruments of the kit read side by side; values in base units. */
export interface CrossCheckRequest {
  crossCheckId: string;
  otherId: string;
  quantity: QuantityCode;
  pairs: { readonly one: number; readonly other: number }[];
  /** Where: a bath, a room. */
  place: string;
  occurredAt: string;
}
export const crossCheckRequest = shape<CrossCheckRequest>({
  crossCheckId: id,
  otherId: id,
  quantity: must(quantity),
  pairs: must(listOf(comparedPair, (a) => a.min(1).max(20))),
  place: must(name(80)),
  occurredAt,
});

export interface CalibrationView {
  readonly id: string;
  readonly doneOn: string;
  readonly dueOn: string;
  readonly certificate: string;
  readonly says: readonly (CertifiedQuantity & {
    /** By how much it moved since the certificate before, base unit; null where there is none to compare with. */
    readonly moved: number | null;
  })[];
  readonly initials: string;
}
export interface CrossCheckView {
  readonly id: string;
  readonly other: { readonly id: string; readonly name: string; readonly serial: string };
  readonly quantity: QuantityCode;
  readonly unit: Unit;
  readonly at: string;
  readonly place: string;
  /** As their certificates put them right, where they have any. */
  readonly pairs: readonly { readonly one: number; readonly other: number }[];
  readonly isPutRight: boolean;
  /** This one − the other, in the mean; base unit. */
  readonly difference: number;
  readonly limit: number;
  readonly agrees: boolean;
  readonly initials: string;
}
