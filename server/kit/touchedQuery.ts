import type { Off } from '@/core/check/foundOff';
import { quantityCodes, type QuantityCode } from '@/core/quantity/quantity';
import { badField, instantOf } from '../problem';

/** What an address asks for: of which quantity a reference is off by how much, and between which instants it was used. */
export function touchedQuery(
  asked: URLSearchParams,
  now: Date,
): { readonly off: Off; readonly span: { readonly from: Date; readonly until: Date } } {
  const quantity = asked.get('quantity') as QuantityCode;
  if (!quantityCodes.includes(quantity))
    throw badField(
      'unknown-quantity',
      'quantity',
      quantity,
      `${quantity ?? 'Nothing'} is no quantity.`,
      'Choose one that the instrument shows.',
    );
  const text = asked.get('by') ?? '';
  const by = Number(text);
  if (text.trim() === '' || !Number.isFinite(by) || Math.abs(by) > 1e6)
    throw badField('not-a-number', 'by', text, `“${text}” is no number.`, 'Enter what it shows too much.');
  const from = asked.get('from');
  const until = asked.get('until');
  return {
    off: { quantity, by },
    span: {
      from: from ? instantOf('from', from) : new Date(0),
      until: until ? instantOf('until', until) : now,
    },
  };
}
