import { formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import type { TalkOutcome } from '@/db/stored/action';

type Decoded = TalkOutcome['decoded'][number];

/** What another sensor read of the same: of the same output, or the only one of its quantity. */
function counterpart(d: Decoded, others: readonly Decoded[]): Decoded | null {
  const same = others.find((o) => o.output === d.output && o.quantity === d.quantity);
  if (same) return same;
  const alike = others.filter((o) => o.quantity === d.quantity);
  return alike.length === 1 ? alike[0]! : null;
}

/**
 * The first reading of a sensor beside the last one of the sensor whose place it took:
 * "humidity 55.2 − 57.1 = −1.9 %RH". Null where they have nothing in common. The two were read at different
 * times: it is a note, and no check.
 */
export function firstReadingText(
  is: readonly Decoded[],
  was: readonly Decoded[],
  wasAt: Date,
): string | null {
  const sums = is.flatMap((d) => {
    const other = counterpart(d, was);
    if (d.value === null || !other || other.value === null) return [];
    const { name, decimals, unit } = quantityOf(d.quantity);
    const digits = decimals + 1;
    return `${name.toLowerCase()} ${formatValue(d.value, digits)} − ${formatValue(other.value, digits)} = ${formatDifference(d.value - other.value, digits)} ${unit}`;
  });
  return sums.length > 0
    ? `first reading, beside the sensor before it at ${wasAt.toISOString().slice(0, 16).replace('T', ' ')} UTC: ${sums.join(', ')}`
    : null;
}
