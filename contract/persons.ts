import type { PersonDifference } from '@/core/check/persons';
import type { ProcedureCode } from '@/core/procedure/codes';
import type { QuantityCode } from '@/core/quantity/quantity';

/** How the checks of one quantity were made, and whether it matters by whom. */
export interface MethodOfQuantity {
  readonly quantity: QuantityCode;
  /** By which procedures, the most used first: one method for all persons is the aim. */
  readonly procedures: readonly { readonly code: ProcedureCode; readonly checks: number }[];
  readonly persons: readonly (PersonDifference & { readonly initials: string })[];
}
