import Papa from 'papaparse';
import { valueToBase } from '../quantity/unit';
import { cellNumber, numberRefusalText } from './cellNumber';
import { timeText } from './dialect';
import { localTime } from './localTime';
import type { ImportPlan } from './plan';
import { readStamp, stampOrderText } from './stamp';

/** What becomes of the rows of a file. */
export interface RowSink {
  /** One reading: which of the plan's columns, instant (ms since epoch), value in base unit, line. */
  reading(target: number, at: number, value: number, line: number): void;
  /** Something that cannot be taken: the line, the column's number from 1 (null for the whole row), the row's text, why. */
  refused(line: number, column: number | null, text: string, why: string): void;
}

export interface RowCount {
  /** Data rows read. */
  rows: number;
  /** Values given to the sink. */
  values: number;
  /** Cells without a value. */
  missing: number;
  /** Cells or rows refused. */
  refused: number;
}

/** Readings may be stamped so far ahead of now (a logger whose clock runs fast), ms. Our own choice. */
export const aheadAllowed = 3_600_000;
const earliest = Date.UTC(1950, 0, 1);

/**
 * Reads whole rows under a plan. Nothing is guessed and nothing is lost: every data row ends in
 * readings, in cells that count as missing, or in a refusal with its line and reason.
 * `now` (ms) is the instant after which stamps are called future.
 */
export function rowReader(plan: ImportPlan, now: number, sink: RowSink) {
  const { dialect, zone, columns, stampOrder } = plan;
  const { timeColumns, delimiter, decimal, newline, width } = dialect;
  const missing = new Set(['', ...plan.missing.map((m) => m.trim().toLowerCase())]);
  const toInstant = zone.kind === 'zone' ? localTime(zone.name) : null;
  const fixed = zone.kind === 'fixed' ? zone.minutes * 60_000 : null;
  let skip = dialect.headerRows;
  const count: RowCount = { rows: 0, values: 0, missing: 0, refused: 0 };

  const refuse = (line: number, column: number | null, row: readonly string[], why: string) => {
    count.refused++;
    sink.refused(line, column, row.join(delimiter).slice(0, 500), why);
  };

  const instantOf = (text: string): number | string => {
    const stamp = readStamp(text, stampOrder);
    if (!stamp) return `"${text.slice(0, 40)}" is no time of the form ${stampOrderText[stampOrder]}`;
    let at: number;
    if (stamp.offset !== null) at = stamp.wall - stamp.offset * 60_000;
    else if (fixed !== null) at = stamp.wall - fixed;
    else if (toInstant) {
      const local = toInstant(stamp.wall);
      if (local === 'never-was')
        return `${text} never was in ${(zone as { name: string }).name}: the clocks were put forward over it; choose a fixed offset if the logger keeps one`;
      if (local === 'was-twice')
        return `${text} was twice in ${(zone as { name: string }).name}: the clocks were put back over it; choose a fixed offset if the logger keeps one`;
      at = local;
    } else return `"${text.slice(0, 40)}" carries no offset from UTC, though the file's stamps are said to`;
    if (at > now + aheadAllowed) return `${text} lies in the future`;
    if (at < earliest)
      return new Date(at).getUTCFullYear() === 1904 || new Date(at).getUTCFullYear() === 1900
        ? `${text} is the first day of a spreadsheet's calendar: the date was lost in the export`
        : `${text} lies before 1950`;
    return at;
  };

  const row = (cells: readonly string[], line: number) => {
    if (skip > 0) {
      skip--;
      return;
    }
    count.rows++;
    if (cells.length !== width) {
      refuse(line, null, cells, `${cells.length} cells where ${width} were due`);
      return;
    }
    const at = instantOf(timeText(cells, timeColumns));
    if (typeof at === 'string') {
      refuse(line, timeColumns[0]! + 1, cells, at);
      return;
    }
    for (let i = 0; i < columns.length; i++) {
      const { column, unit } = columns[i]!;
      const text = cells[column]!.trim();
      if (text === '' || missing.has(text.toLowerCase())) {
        count.missing++;
        continue;
      }
      const value = cellNumber(text, decimal);
      if (typeof value !== 'number') {
        refuse(line, column + 1, cells, numberRefusalText(text, decimal, value));
        continue;
      }
      count.values++;
      sink.reading(i, at, valueToBase(value, unit), line);
    }
  };

  return {
    count,
    /** Reads a piece of whole rows whose first line has the number `firstLine`. */
    rows(text: string, firstLine: number) {
      let line = firstLine;
      // Without a quote, and records have none, a row is a line; with one, the library reads the piece.
      if (!text.includes('"')) {
        for (const raw of text.split(newline === '\r' ? '\r' : '\n')) {
          const clean = raw.endsWith('\r') ? raw.slice(0, -1) : raw;
          if (clean !== '') row(clean.split(delimiter), line);
          line++;
        }
        return;
      }
      for (const cells of Papa.parse<string[]>(text, { delimiter, newline, quoteChar: '"' }).data) {
        if (cells.length > 1 || cells[0] !== '') row(cells, line);
        line += 1 + cells.reduce((n, c) => n + c.split(newline).length - 1, 0);
      }
    },
  };
}
