export type DecimalMark = '.' | ',';

export type NumberRefusal = 'not-a-number' | 'decimal-mark' | 'thousands' | 'not-finite';

const plain = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const grouped = /^[+-]?\d{1,3}(?:[.,' \u00a0\u202f]\d{3})+(?:[.,]\d+)?$/;
/** Larger than anything a field sensor logs; a value beyond it is a slip or a code. */
const largest = 1e15;

/**
 * A cell as a number, in the file's own decimal mark. Nothing is guessed: a thousands separator, the
 * other decimal mark, or anything beside a number is refused by name, never read as something else.
 * The true minus sign counts as a minus. `text` is trimmed and not empty.
 * @example cellNumber('1.234,5', ',') // 'thousands'
 */
export function cellNumber(text: string, decimal: DecimalMark): number | NumberRefusal {
  const signed = text.charCodeAt(0) === 0x2212 ? `-${text.slice(1)}` : text;
  let dotted = signed;
  if (decimal === ',') {
    if (signed.includes('.')) return refusal(signed, decimal);
    dotted = signed.replace(',', '.');
  }
  if (!plain.test(dotted)) return refusal(signed, decimal);
  const value = Number(dotted);
  return Number.isFinite(value) && Math.abs(value) < largest ? value : 'not-finite';
}

function refusal(text: string, decimal: DecimalMark): NumberRefusal {
  const other = decimal === '.' ? ',' : '.';
  const turned = text.replaceAll(decimal, '\u0000').replace(other, '.').replaceAll('\u0000', '');
  const separators = text.replace(/[^.,' \u00a0\u202f]/g, '');
  if (grouped.test(text) && separators.length > 1) return 'thousands';
  if (text.includes(other) && separators.length === 1 && plain.test(turned)) return 'decimal-mark';
  return grouped.test(text) ? 'thousands' : 'not-a-number';
}

/** The refusal as a sentence for the list of refused rows. */
export function numberRefusalText(text: string, decimal: DecimalMark, why: NumberRefusal): string {
  const shown = `"${text.slice(0, 30)}"`;
  switch (why) {
    case 'thousands':
      return `${shown} has thousands separators; write it without`;
    case 'decimal-mark':
      return `${shown} has another decimal mark than the file's "${decimal}"`;
    case 'not-finite':
      return `${shown} is too large to be a reading`;
    case 'not-a-number':
      return `${shown} is no number; if it marks a missing value, say so among the missing marks`;
  }
}
