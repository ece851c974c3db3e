import type { InstrumentView } from '@/contract/checkViews';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';

/** Why an instrument is not simply to be trusted in a quantity today, in a sentence; null where nothing speaks against it. */
export function doubtOf(
  { overdueDays, dueOn, foundOff }: InstrumentView,
  quantity: QuantityCode,
): string | null {
  if (overdueDays > 0) return `Calibration out of date for ${overdueDays} d (due ${dueOn}).`;
  const off = foundOff.find((f) => f.quantity === quantity);
  if (!off) return null;
  const { unit, decimals } = quantityOf(quantity);
  return `Found on ${off.foundOn} to show ${formatDifference(off.by, decimals)} ${unit}; not calibrated since.`;
}

/** Of those that measure a quantity: the one chosen, else one that nothing speaks against; null where none measures it. */
export function instrumentFor(
  all: readonly InstrumentView[],
  quantity: QuantityCode | undefined,
  chosen: string | undefined,
): InstrumentView | null {
  const fits = all.filter((i) => i.quantities.some((q) => q.quantity === quantity));
  return (
    fits.find((i) => i.id === chosen) ??
    fits.find((i) => quantity && doubtOf(i, quantity) === null) ??
    fits.find((i) => i.overdueDays === 0) ??
    fits[0] ??
    null
  );
}

/** The same in a list. */
export const shortDoubt = (i: InstrumentView, quantity: QuantityCode): string =>
  i.overdueDays > 0 ? ' · out of date' : doubtOf(i, quantity) ? ' · found off' : '';
