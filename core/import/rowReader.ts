import Papa from 'papaparse';
import { quantityOf } from '../quantity/quantity';
import { valueToBase, type Unit } from '../quantity/unit';
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
/** Before this a stamp is more often a slip than a record; a plan may say that the record is that old. */
export const usuallyAfter = Date.UTC(1950, 0, 1);
/** Before this nothing was measured that a logger's file would hold. */
const earliest = Date.UTC(1700, 0, 1);

/** The first days of the two calendars spreadsheets count by, days since 1970. */
const spreadsheetDays = [
  Date.UTC(1899, 11, 30),
  Date.UTC(1899, 11, 31),
  Date.UTC(1900, 0, 1),
  Date.UTC(1904, 0, 1),
].map((ms) => ms / 86_400_000);
const offsetBeyond = /[+\u2212-](1[4-9]|[2-9]\d):?\d\d$/;

/**
 * Counts stamps that came before, in 8 MB however long the file: a bit for each hash of a stamp, so that
 * a few per cent of a very long file's are counted though they were new.
 */
function stampRepeats() {
  let seen: Uint8Array | null = null;
  let n = 0;
  return {
    get n() {
      return n;
    },
    add(at: number) {
      seen ??= new Uint8Array(1 << 23);
      // Multiplicative hashing, Knuth, TAOCP 3, 6.4 (from memory), of the seconds and of what is beyond them.
      const seconds = Math.floor(at / 1000);
      const hash = (Math.imul(seconds | 0, 0x9e3779b1) ^ Math.imul((at % 1000) | 0, 0x85ebca6b)) >>> 6;
      const [place, bit] = [hash >>> 3, 1 << (hash & 7)];
      if (seen[place]! & bit) n++;
      else seen[place]! |= bit;
    },
  };
}

/**
 * Whether so many rows repeat the stamp of another that the file must hold more than one station. Our own choice.
 *
 * @example holdsTwoStations(100, 40) // true
 */
export const holdsTwoStations = (rows: number, repeated: number): boolean =>
  repeated >= 10 && repeated > rows / 5;

/**
 * Reads whole rows under a plan. Nothing is guessed and nothing is lost: every data row ends in
 * readings, in cells that count as missing, or in a refusal with its line and reason.
 *
 * @param now ms; an hour after it stamps are called future
 * @param unitAt the unit of one of the plan's columns at an instant, where a logger's settings changed it
 */
export function rowReader(
  plan: ImportPlan,
  now: number,
  sink: RowSink,
  unitAt: ((column: number, at: number) => Unit) | null = null,
) {
  const { dialect, zone, columns, stampOrder } = plan;
  const { timeColumns, delimiter, decimal, newline, width } = dialect;
  const missing = new Set(['', ...plan.missing.map((m) => m.trim().toLowerCase())]);
  // −9999 also marks a missing value where the file writes −9999.0.
  const missingNumbers = new Set(
    plan.missing.map((m) => cellNumber(m.trim(), decimal)).filter((v) => typeof v === 'number'),
  );
  const repeats = stampRepeats();
  const toInstant = zone.kind === 'zone' ? localTime(zone.name) : null;
  const fixed = zone.kind === 'fixed' ? zone.minutes * 60_000 : null;
  let skip = dialect.headerRows;
  const base = columns.map((c) => quantityOf(c.channel.quantity).unit);
  const count: RowCount = { rows: 0, values: 0, missing: 0, refused: 0 };
  let old = 0;

  const refuse = (line: number, column: number | null, row: readonly string[], why: string) => {
    count.refused++;
    sink.refused(line, column, row.join(delimiter).slice(0, 500), why);
  };

  const instantOf = (text: string): number | string => {
    const stamp = readStamp(text, stampOrder);
    if (!stamp)
      return `"${text.slice(0, 40)}" is no time of the form ${stampOrderText[stampOrder]}${
        offsetBeyond.test(text) ? ' with an offset within ±14:00 of UTC' : ''
      }`;
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
    if (!plan.oldStamps && spreadsheetDays.includes(Math.floor(stamp.wall / 86_400_000)))
      return `${text} is the first day of a spreadsheet's calendar: the date was lost in the export`;
    if (at < earliest) return `${text} lies before 1700`;
    if (at < usuallyAfter && !plan.oldStamps) {
      old++;
      return `${text} lies before 1950; if that is right, tick “begins before 1950”`;
    }
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
    repeats.add(at);
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
      if (missingNumbers.has(value)) {
        count.missing++;
        continue;
      }
      count.values++;
      sink.reading(i, at, valueToBase(value, unitAt ? unitAt(i, at) : unit, base[i]!), line);
    }
  };

  return {
    count,
    /** Rows refused because their stamps lie before 1950. */
    get old() {
      return old;
    },
    /** Rows whose stamp an earlier row had, about: many of them, and the file holds two stations. */
    get repeated() {
      return repeats.n;
    },
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
