import { procedureOf } from '../procedure/procedures';
import type { QuantityCode } from '../quantity/quantity';
import { finite } from '../valid';
import { evaluateCheck, type Evaluation, type Judged, type Made } from './evaluate';
import type { CheckReading } from './reading';

/** A reference that shows too much of one quantity by so much, base unit; negative for too little. */
export interface Off {
  readonly quantity: QuantityCode;
  readonly by: number;
}

export interface Rejudged {
  readonly before: Evaluation;
  /** With what the reference should have shown. */
  readonly after: Evaluation;
  /** Whether it touches anything of the check. */
  readonly isTouched: boolean;
  /** Whether something else would have been decided: another verdict, or another end after an adjustment. */
  readonly isChanged: boolean;
}

/**
 * What a check would have said, had its reference shown the truth: every value read off it is put right, as the sensor’s
 * reference and as what was read beside it. Nothing is rewritten.
 *
 * @param judged the check as it was read
 * @param adjustments those that held
 * @param off by how much the reference was found off; `by` a finite number, RangeError otherwise
 */
export function rejudge(judged: Judged, adjustments: readonly Made[], off: Off): Rejudged {
  finite('found off by', off.by);
  const { plan } = judged;
  const { companions } = procedureOf(plan.procedure);
  const isShown = (role: string): boolean =>
    role === 'reference'
      ? plan.quantity === off.quantity
      : companions[role]?.of === 'reference' && companions[role].quantity === off.quantity;
  let isTouched = false;
  const put = (reading: CheckReading): CheckReading => ({
    ...reading,
    observations: reading.observations.map((o) => {
      if (!isShown(o.role)) return o;
      isTouched = true;
      return { ...o, value: o.value - off.by };
    }),
  });
  const right = { ...judged, readings: judged.readings.map(put) };
  const before = evaluateCheck(judged, adjustments);
  const after = isTouched ? evaluateCheck(right, adjustments) : before;
  return {
    before,
    after,
    isTouched,
    isChanged:
      before.verdict?.kind !== after.verdict?.kind || before.convergence?.kind !== after.convergence?.kind,
  };
}
