import type { PlannedPoint } from '@/core/check/plan';
import type { QuantityCode } from '@/core/quantity/quantity';
import { day, finite, id, name, quantity } from '@/schema/pieces';
import { listOf, must, orNull, shape, text } from '@/schema/shape';

/** A buffer, a solution, a gas: what its label says. */
export interface AddStandard {
  standardId: string;
  name: string;
  quantity: QuantityCode;
  lot: string;
  /** Base unit, by its temperature, °C, ascending; one row without temperature where it hangs on none. */
  values: PlannedPoint['values'];
  /** ± of it, base unit. */
  tolerance: number;
  openedOn: string | null;
  expiresOn: string;
}
export const standardValues = listOf(
  shape<PlannedPoint['values'][number]>({ temperature: must(orNull(finite())), value: must(finite()) }),
  (a) => a.min(1).max(60),
);
export const addStandard = shape<AddStandard>({
  standardId: id,
  name: must(name(60)),
  quantity: must(quantity),
  lot: must(name(40)),
  values: must(standardValues),
  tolerance: must(finite((n) => n.greater(0))),
  openedOn: must(orNull(text((s) => s.isoDate()))),
  expiresOn: day,
});

export interface RetireStandard {
  reason: string;
}
export const retireStandard = shape<RetireStandard>({ reason: must(name(200)) });

export interface StandardView extends Omit<AddStandard, 'standardId'> {
  id: string;
  /** Days by which its end is past; 0 while it is good. */
  overdueDays: number;
}
