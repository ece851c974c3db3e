import type { ImportPlan } from '@/core/import/plan';
import { id, importPlan, words } from '@/schema/pieces';
import { must, number, shape, text, yesNo } from '@/schema/shape';

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
