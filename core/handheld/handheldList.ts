import { cellNumber, numberRefusalText } from '../import/cellNumber';
import { guessDialect, splitRows, timeText } from '../import/dialect';
import { guessColumn } from '../import/guessColumn';
import { readStamp, type StampOrder } from '../import/stamp';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { valueToBase, type Unit } from '../quantity/unit';

/** One value that a handheld kept. */
export interface HandheldValue {
  /** ms since epoch */
  readonly at: number;
  readonly quantity: QuantityCode;
  /** As it stood in the list. */
  readonly entered: number;
  readonly unit: Unit;
  /** In the quantity's base unit. */
  readonly value: number;
  /** What else the row says: a name or number the person gave it. */
  readonly label: string;
}
export interface HandheldList {
  readonly values: readonly HandheldValue[];
  /** Rows and cells that were not taken, by their line from 1, and why. */
  readonly refused: readonly { readonly line: number; readonly why: string }[];
  /** Columns nobody could make anything of, by their names. */
  readonly unknown: readonly string[];
}
export type HandheldListFault =
  | { readonly kind: 'no-table' }
  | { readonly kind: 'no-quantity'; readonly columns: readonly string[] }
  /** Several orders of day and month fit: a person has to say which. */
  | { readonly kind: 'ambiguous-time'; readonly orders: readonly StampOrder[]; readonly example: string };

/** So long a row's name may be, characters. */
const longestLabel = 80;

/**
 * Reads the list a handheld kept: a row a reading, with its time and one or several values. Layout, decimal
 * mark, columns and units are guessed as for any record file; nothing is guessed of a value.
 *
 * @param text the file as text
 * @param offset of the handheld's clock from UTC, min, −840 to 840; a stamp with an offset of its own keeps it
 * @param order of day and month where the list itself leaves it open
 * @example readHandheldList('Dear all, the list follows', 0) // { kind: 'no-table' }
 */
export function readHandheldList(
  text: string,
  offset: number,
  order: StampOrder | null = null,
): HandheldList | HandheldListFault {
  const guess = guessDialect(text);
  if (!guess) return { kind: 'no-table' };
  const { dialect, columns, stamp } = guess;
  const chosen = order ?? (stamp.kind === 'one' ? stamp.order : null);
  if (!chosen)
    return stamp.kind === 'ambiguous'
      ? { kind: 'ambiguous-time', orders: stamp.orders, example: stamp.example }
      : { kind: 'no-table' };
  const meanings = columns.map(({ name, unit }, i) => {
    const meant = dialect.timeColumns.includes(i) ? null : guessColumn(name, unit);
    return meant && meant.unit ? { quantity: meant.quantity, unit: meant.unit } : null;
  });
  if (!meanings.some(Boolean)) return { kind: 'no-quantity', columns: columns.map((c) => c.name) };
  const values: HandheldValue[] = [];
  const refused: { line: number; why: string }[] = [];
  const labelled = columns.flatMap((_, i) => (meanings[i] || dialect.timeColumns.includes(i) ? [] : [i]));
  for (const [i, row] of splitRows(text, dialect.delimiter, dialect.newline).entries()) {
    if (i < dialect.headerRows) continue;
    const refuse = (why: string) => refused.push({ line: i + 1, why });
    if (row.length !== dialect.width) {
      refuse(`${row.length} cells instead of ${dialect.width}`);
      continue;
    }
    const stamped = timeText(row, dialect.timeColumns);
    const read = readStamp(stamped, chosen);
    if (!read) {
      refuse(`"${stamped.slice(0, 40)}" is no time in the list’s own form`);
      continue;
    }
    const label = labelled
      .map((c) => row[c]!.trim())
      .filter(Boolean)
      .join(' · ')
      .slice(0, longestLabel);
    for (const [c, meant] of meanings.entries()) {
      const cell = row[c]!.trim();
      // A handheld leaves empty what it did not measure.
      if (!meant || cell === '') continue;
      const entered = cellNumber(cell, dialect.decimal);
      if (typeof entered === 'string') refuse(numberRefusalText(cell, dialect.decimal, entered));
      else {
        const { unit, range } = quantityOf(meant.quantity);
        const value = valueToBase(entered, meant.unit, unit);
        if (value < range[0] || value > range[1]) {
          refuse(
            `${cell} ${meant.unit} is beyond what a handheld shows (${range[0]} to ${range[1]} ${unit})`,
          );
          continue;
        }
        values.push({ at: read.wall - (read.offset ?? offset) * 60_000, ...meant, entered, value, label });
      }
    }
  }
  const unknown = labelled.map((c) => columns[c]!.name).filter(Boolean);
  return { values, refused, unknown };
}
