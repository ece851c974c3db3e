import type { ImportPlan } from '@/core/import/plan';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { finite, id, importPlan, occurredAt, quantity, unit, words } from '@/schema/pieces';
import { listOf, must, number, shape, text, unionBy, yesNo } from '@/schema/shape';

/** What is said of a record file before it is sent. */
export interface DeclareImport {
  importId: string;
  fileName: string;
  bytes: number;
  signature: string;
  plan: ImportPlan;
  confirmed?: boolean;
}

/** Takes an import out of the record as a whole, or brings it back. */
export interface WithdrawImport {
  operationId: string;
  back: boolean;
  reason: string;
}
export const withdrawImport = shape<WithdrawImport>({
  operationId: id,
  back: must(yesNo()),
  reason: must(words(1)),
});

export const declareImport = shape<DeclareImport>({
  importId: id,
  fileName: must(text((s) => s.trim().min(1).max(200))),
  bytes: must(number((n) => n.integer().min(0))),
  signature: must(text((s) => s.max(2000))),
  plan: must(importPlan),
  confirmed: yesNo(),
});

/** Readings of one channel as a person read them off. */
export interface TypeReadings {
  readingsId: string;
  channel: { kind: 'existing'; id: string } | { kind: 'new'; quantity: QuantityCode; zoneName: string };
  unit: Unit;
  readings: { at: string; value: number }[];
  confirmed?: boolean;
}
export const typeReadings = shape<TypeReadings>({
  readingsId: id,
  channel: must(
    unionBy<TypeReadings['channel']>()('kind', {
      existing: { id },
      new: { quantity: must(quantity), zoneName: must(text((s) => s.trim().min(1).max(60))) },
    }),
  ),
  unit: must(unit),
  readings: must(
    listOf(shape<TypeReadings['readings'][number]>({ at: occurredAt, value: must(finite()) }), (a) =>
      a.min(1).max(200),
    ),
  ),
  confirmed: yesNo(),
});
