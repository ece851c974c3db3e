import Papa from 'papaparse';
import { cellNumber, type DecimalMark } from './cellNumber';
import { unitNamed } from './guessColumn';
import { guessStamp, type StampGuess } from './stamp';

/** How a record file is laid out. */
export interface Dialect {
  readonly delimiter: string;
  readonly newline: '\n' | '\r\n' | '\r';
  readonly decimal: DecimalMark;
  /** Cells of a row, > 1. A row with more or fewer has shifted columns and is refused. */
  readonly width: number;
  /** Rows before the first reading. */
  readonly headerRows: number;
  /** Which of them (from 0) holds the names, and which the units; null for none. */
  readonly nameRow: number | null;
  readonly unitRow: number | null;
  /** One column, or two that are joined (date and time). From 0. */
  readonly timeColumns: readonly number[];
}

export interface DialectGuess {
  readonly dialect: Dialect;
  readonly columns: readonly { readonly name: string; readonly unit: string }[];
  readonly stamp: StampGuess;
  /** The first rows, cell by cell, for the preview. */
  readonly rows: readonly (readonly string[])[];
}

export const delimiters: readonly string[] = [',', ';', '\t', '|'];
/** So many rows are looked at: a month of ten-minute stamps tells days from months. */
const looked = 4500;

/** @example newlineOf('a,b\r\n1,2') // '\r\n' */
export const newlineOf = (text: string): Dialect['newline'] =>
  text.includes('\r\n') ? '\r\n' : text.includes('\n') ? '\n' : text.includes('\r') ? '\r' : '\n';

/** Rows of a piece of text under a delimiter; empty rows are kept out, as they hold nothing. */
export const splitRows = (text: string, delimiter: string, newline: Dialect['newline']): string[][] =>
  Papa.parse<string[]>(text, { delimiter, newline, quoteChar: '"', skipEmptyLines: true }).data;

/**
 * Guesses the layout of a record file from its beginning (whole rows). Every guess is shown to a
 * person, who may change it. Null when no delimiter makes a table with a column of times and at
 * least one more. Common practice, no source.
 */
export function guessDialect(text: string): DialectGuess | null {
  const newline = newlineOf(text);
  const candidates = delimiters
    .map((delimiter) => ({ delimiter, rows: splitRows(text, delimiter, newline).slice(0, looked) }))
    .map((c) => ({ ...c, table: tableOf(c.rows) }))
    .filter((c) => c.table !== null && c.table.width > 1)
    .sort((a, b) => b.table!.score - a.table!.score);
  const best = candidates[0];
  if (!best?.table) return null;
  const { delimiter, rows } = best;
  const { width, headerRows, timeColumns, stamp } = best.table;
  const body = rows.slice(headerRows).filter((r) => r.length === width);
  const header = rows
    .slice(0, headerRows)
    .map((r, index) => ({ r, index }))
    .filter(({ r }) => r.length === width);
  // Names, then perhaps units, then perhaps what kind of value each is: a mean, a sample, a total.
  const told = header.filter(({ r }) => !looksLikeKinds(r, timeColumns));
  const unitRow = told.length > 1 && looksLikeUnits(told.at(-1)!.r, timeColumns) ? told.at(-1)!.index : null;
  const nameRow = told.filter(({ index }) => index !== unitRow).at(-1)?.index ?? null;
  const columns = Array.from({ length: width }, (_, i) =>
    nameAndUnit(
      nameRow === null ? `column ${i + 1}` : rows[nameRow]![i]!,
      unitRow === null ? '' : rows[unitRow]![i]!,
    ),
  );
  return {
    dialect: {
      delimiter,
      newline,
      decimal: decimalOf(body, timeColumns),
      width,
      headerRows,
      nameRow,
      unitRow,
      timeColumns,
    },
    columns,
    stamp,
    rows: rows.slice(0, headerRows + 40),
  };
}

interface Table {
  width: number;
  headerRows: number;
  timeColumns: number[];
  stamp: StampGuess;
  score: number;
}

/** The widest run of rows of one width that have times in one column, or a date and a time in two. */
function tableOf(rows: readonly string[][]): Table | null {
  const widths = new Map<number, number>();
  for (const r of rows) widths.set(r.length, (widths.get(r.length) ?? 0) + 1);
  const [width, share] = [...widths].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [0, 0];
  if (width < 2) return null;
  for (let column = 0; column < width; column++)
    for (const timeColumns of column + 1 < width ? [[column], [column, column + 1]] : [[column]]) {
      const first = rows.findIndex((r) => r.length === width && isTime(timeText(r, timeColumns)));
      if (first < 0) continue;
      const body = rows.slice(first).filter((r) => r.length === width);
      const readable = body.filter((r) => isTime(timeText(r, timeColumns)));
      if (readable.length < Math.max(1, 0.6 * body.length)) continue;
      const stamp = guessStamp(readable.map((r) => timeText(r, timeColumns)));
      // A bare date beside a time of day is half a stamp: look at both together.
      if (
        timeColumns.length === 1 &&
        column + 1 < width &&
        readable.every((r) => /^\d{1,2}:\d{2}/.test(r[column + 1]!.trim()))
      )
        continue;
      return { width, headerRows: first, timeColumns, stamp, score: share * width };
    }
  return null;
}

const isTime = (text: string) => guessStamp([text]).kind !== 'none';

/** The text of a stamp: its cells joined by a blank. */
export const timeText = (row: readonly string[], columns: readonly number[]): string =>
  columns.length === 1
    ? (row[columns[0]!] ?? '').trim()
    : columns.map((c) => (row[c] ?? '').trim()).join(' ');

/** A row of units has at least one that is known, and nothing longer than a unit. */
const looksLikeUnits = (row: readonly string[], timeColumns: readonly number[]): boolean => {
  const cells = row
    .filter((_, i) => !timeColumns.includes(i))
    .map((c) => c.trim().replace(/^[([]|[)\]]$/g, ''));
  return cells.some((c) => unitNamed(c) !== null) && cells.every((c) => c.length <= 12);
};

const kinds =
  /^(avg|average|mean|smp|sample|min|minimum|max|maximum|tot|total|sum|std|stdev|inst|instant|wvc)$/i;

/** A row that says of every column whether it is a mean, a sample, a total. */
const looksLikeKinds = (row: readonly string[], timeColumns: readonly number[]): boolean => {
  const cells = row.filter((_, i) => !timeColumns.includes(i)).map((c) => c.trim());
  return cells.some((c) => kinds.test(c)) && cells.every((c) => c === '' || kinds.test(c));
};

/** "Humidity (%RH)" and "Humidity [%]" carry their unit in brackets. */
function nameAndUnit(name: string, unit: string): { name: string; unit: string } {
  const bracketed = /^(.*?)\s*[([]\s*([^)\]]{1,12})\s*[)\]]\s*$/.exec(name.trim());
  if (unit.trim() !== '' || !bracketed)
    return { name: name.trim(), unit: unit.trim().replace(/^[([]|[)\]]$/g, '') };
  return { name: bracketed[1]!, unit: bracketed[2]!.trim() };
}

/** The decimal mark under which more cells are numbers; a point when both do. */
function decimalOf(body: readonly (readonly string[])[], timeColumns: readonly number[]): DecimalMark {
  const cells = body.flatMap((r) => r.filter((_, i) => !timeColumns.includes(i)).map((c) => c.trim()));
  const read = (mark: DecimalMark) =>
    cells.filter((c) => c !== '' && typeof cellNumber(c, mark) === 'number').length;
  return read(',') > read('.') ? ',' : '.';
}
