import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { finite, id, occurredAt, quantity, unit, words } from '@/schema/pieces';
import { listOf, must, orNull, shape, text } from '@/schema/shape';

/** Readings that a handheld kept by itself, without a site. */

/** So many readings of a list are taken at once. */
export const mostOfList = 500;
export interface BringInList {
  listId: string;
  fileName: string;
  /** Whose list it is, where that is said. */
  instrumentId: string | null;
  readings: {
    readingId: string;
    at: string;
    quantity: QuantityCode;
    /** As it stood in the list. */
    entered: number;
    unit: Unit;
    label: string;
  }[];
}
export const bringInList = shape<BringInList>({
  listId: id,
  fileName: must(text((s) => s.trim().min(1).max(200))),
  instrumentId: must(orNull(text((s) => s.uuid({ version: 'uuidv7' })))),
  readings: must(
    listOf(
      shape<BringInList['readings'][number]>({
        readingId: id,
        at: occurredAt,
        quantity: must(quantity),
        entered: must(finite()),
        unit: must(unit),
        label: must(text((s) => s.trim().max(80).allow(''))),
      }),
      (a) => a.min(1).max(mostOfList),
    ),
  ),
});

/** So many are assigned at once. */
export const mostAssigned = 100;
export interface AssignReadings {
  assignmentId: string;
  readingIds: string[];
  /** The channel they belong beside, where that is said. */
  channelId: string | null;
  occurredAt: string;
}
export const assignReadings = shape<AssignReadings>({
  assignmentId: id,
  readingIds: must(
    listOf(
      text((s) => s.uuid({ version: 'uuidv7' })),
      (a) => a.min(1).max(mostAssigned),
    ),
  ),
  channelId: must(orNull(text((s) => s.uuid({ version: 'uuidv7' })))),
  occurredAt,
});
export interface TakeBackAssignment {
  reason: string;
}
export const takeBackAssignment = shape<TakeBackAssignment>({ reason: must(words(1)) });

export interface HandheldReadingView {
  readonly id: string;
  readonly at: string;
  readonly instrument: string | null;
  readonly quantity: QuantityCode;
  readonly entered: number;
  readonly unit: Unit;
  readonly label: string;
  readonly initials: string;
  readonly fileName: string;
  /** Where it belongs; null where nobody said. */
  readonly assigned: {
    readonly stationId: string;
    readonly code: string;
    readonly channel: string | null;
  } | null;
  /** Where whoever brought it in was at that time. */
  readonly likely: { readonly stationId: string; readonly code: string } | null;
}
export interface HandheldReadingsView {
  readonly readings: readonly HandheldReadingView[];
  /** How many wait for a site. */
  readonly unassigned: number;
  readonly instruments: readonly { readonly id: string; readonly name: string }[];
  readonly stations: readonly {
    readonly id: string;
    readonly code: string;
    readonly name: string;
    readonly zone: string;
    readonly channels: readonly {
      readonly id: string;
      readonly name: string;
      readonly quantity: QuantityCode;
    }[];
  }[];
}
