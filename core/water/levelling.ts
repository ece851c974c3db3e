import { groupBy } from '../groupBy';
import { roundTo } from '../quantity/format';
import { mean } from '../check/uncertainty';
import { notNegative, whole } from '../valid';

/** One line of a levelling sheet: a staff held on a point, read from one or two set-ups of the instrument. */
export interface SheetRow {
  /** A measuring point by its id, or a turning point by its name. */
  readonly point: string;
  /** Readings of the staff, m: back to what is known, between, forward to what turns or closes. */
  readonly back: number | null;
  readonly between: number | null;
  readonly fore: number | null;
}

export interface LevellingSheet {
  readonly rows: readonly SheetRow[];
  /** Elevation of the point of the first row, m. */
  readonly start: number;
  /** Known elevation of the point of the last row, m; null where it closes on the first, or on nothing known. */
  readonly end: number | null;
}

export interface ReducedRow extends SheetRow {
  /** Height of the line of sight from here on, m; null where the instrument stays. */
  readonly sight: number | null;
  /** As read, and with its share of the misclosure, m. */
  readonly observed: number;
  readonly adjusted: number;
  /** Set-ups between the start and here. */
  readonly setUps: number;
  /** Its share of the misclosure, taken out of what was observed, m. */
  readonly share: number;
}

export interface ReducedSheet {
  readonly rows: readonly ReducedRow[];
  readonly setUps: number;
  readonly backs: number;
  readonly fores: number;
  /** Observed − known at the end, m; null where it closes on nothing known. */
  readonly misclosure: number | null;
  /** What it may be, ± m. */
  readonly allowed: number;
}

/** What is wrong with a sheet. */
export interface SheetFault {
  /** Number of the row, from 0; null for the sheet. */
  readonly row: number | null;
  readonly field: string;
  readonly value: unknown;
  readonly says: string;
  readonly remedy: string;
}

/**
 * The misclosure that a circuit of so many set-ups may have, ± m: 0.003 ft · √n.
 *
 * Source: USGS Techniques and Methods 3-A19 (Kenney, 2010), from memory. Other schools go by the length of the circuit;
 * between the points of one station there are metres, and what errs is the set-up.
 *
 * @param setUps 1 or more, whole; RangeError otherwise
 * @example allowedMisclosure(4).toFixed(4) // '0.0018'
 */
export const allowedMisclosure = (setUps: number): number =>
  0.003 * 0.3048 * Math.sqrt(whole('set-ups', setUps, 1));

/** No staff is longer, m: 25 ft. */
const longestStaff = 7.62;

/**
 * What is wrong with a levelling sheet before it can be reduced: who enters it can put it right. Null for nothing.
 *
 * @param sheet as entered; readings that are not finite are named
 */
export function sheetFault({ rows, start, end }: LevellingSheet): SheetFault | null {
  const ofSheet = (field: string, value: unknown, says: string, remedy: string): SheetFault => ({
    row: null,
    field,
    value,
    says,
    remedy,
  });
  if (!Number.isFinite(start))
    return ofSheet(
      'start',
      start,
      'The elevation of the first point is missing.',
      'Enter what is known of it.',
    );
  if (end !== null && !Number.isFinite(end))
    return ofSheet(
      'end',
      end,
      'The elevation of the last point is no number.',
      'Enter it, or leave it empty.',
    );
  if (rows.length < 2)
    return ofSheet(
      'rows',
      rows.length,
      'A circuit has two rows or more.',
      'Add what was read of the next point.',
    );
  for (const [i, row] of rows.entries()) {
    const fault = rowFault(row, i, rows.length - 1);
    if (fault) return { row: i, ...fault };
  }
  return null;
}

function rowFault(row: SheetRow, i: number, last: number): Omit<SheetFault, 'row'> | null {
  const at = `Row ${i + 1}${row.point ? ` (${row.point})` : ''}`;
  if (row.point.trim() === '')
    return { field: 'point', value: '', says: `Row ${i + 1} names no point.`, remedy: 'Name it: TP1, TP2.' };
  for (const field of ['back', 'between', 'fore'] as const) {
    const value = row[field];
    if (value === null) continue;
    if (!Number.isFinite(value))
      return { field, value, says: `${at}: ${field} is no number.`, remedy: 'Read the staff again.' };
    if (Math.abs(value) > longestStaff)
      return {
        field,
        value,
        says: `${at}: ${value} m is longer than any staff (${longestStaff} m).`,
        remedy: 'Type metres: 1.502 for 1502 mm.',
      };
  }
  if (i === 0 && (row.back === null || row.fore !== null || row.between !== null))
    return {
      field: 'back',
      value: row.back,
      says: `${at}: a circuit begins with a backsight to a known point, and nothing else.`,
      remedy: 'Enter the backsight in the first row.',
    };
  if (i > 0 && row.between === null && row.fore === null)
    return {
      field: 'fore',
      value: null,
      says: `${at} was not read from the instrument that stood there.`,
      remedy: 'Enter a foresight, or an intermediate sight.',
    };
  if (row.between !== null && row.fore !== null)
    return {
      field: 'between',
      value: row.between,
      says: `${at} has a foresight and an intermediate sight.`,
      remedy: 'Keep the one that was read; a second look is a row of its own.',
    };
  if (row.back !== null && i > 0 && row.fore === null)
    return {
      field: 'back',
      value: row.back,
      says: `${at}: the instrument was moved without a foresight to this point.`,
      remedy: 'Enter the foresight that was read before it was moved.',
    };
  if (i === last && (row.fore === null || row.back !== null))
    return {
      field: 'fore',
      value: row.fore,
      says: `${at}: a circuit ends with a foresight.`,
      remedy: 'Close on the first point, or on another that is known.',
    };
  return null;
}

/**
 * A levelling sheet by heights of the instrument: what every point lies at, the misclosure, and each set-up its share of
 * it. What was seen from one set-up shares alike.
 *
 * Source: Uren & Price, Surveying for Engineers (height of collimation; equal shares by set-ups), from memory.
 *
 * @param sheet one that `sheetFault` finds nothing wrong with; RangeError otherwise
 * @returns elevations in m, to a tenth of a millimetre
 */
export function reduceSheet(sheet: LevellingSheet): ReducedSheet {
  const fault = sheetFault(sheet);
  if (fault) throw new RangeError(fault.says);
  const { rows, start } = sheet;
  let sight = 0;
  let setUps = 0;
  const observed = rows.map((row, i) => {
    const lies = i === 0 ? start : sight - (row.fore ?? row.between)!;
    const seenFrom = setUps;
    if (row.back === null) return { row, lies, sight: null, seenFrom };
    sight = lies + row.back;
    setUps += 1;
    return { row, lies, sight, seenFrom };
  });
  const last = rows.at(-1)!;
  const known = sheet.end ?? (last.point === rows[0]!.point ? start : null);
  const misclosure = known === null ? null : roundTo(observed.at(-1)!.lies - known, 4);
  const sum = (of: (r: SheetRow) => number | null) =>
    roundTo(
      rows.reduce((s, r) => s + (of(r) ?? 0), 0),
      4,
    );
  return {
    rows: observed.map(({ row, lies, sight: to, seenFrom }) => {
      const share = misclosure === null ? 0 : (-misclosure * seenFrom) / setUps;
      return {
        ...row,
        sight: to === null ? null : roundTo(to, 4),
        observed: roundTo(lies, 4),
        share: roundTo(share, 5),
        adjusted: roundTo(lies + share, 4),
        setUps: seenFrom,
      };
    }),
    setUps,
    backs: sum((r) => r.back),
    fores: sum((r) => r.fore),
    misclosure,
    allowed: allowedMisclosure(setUps),
  };
}

/**
 * What a reduced sheet says of its measuring points: the mean where one was seen more than once; how well, from the
 * set-ups on the shorter way to what is known.
 *
 * @param reduced by `reduceSheet`
 * @param isPoint whether a name is that of a measuring point
 * @returns elevations and accuracies, ± m; the first row's own point is not among them
 */
export function elevationsOf(
  { rows, setUps, misclosure }: ReducedSheet,
  isPoint: (point: string) => boolean,
): { point: string; elevation: number; accuracy: number }[] {
  const known = new Set([rows[0]!.point, ...(misclosure === null ? [] : [rows.at(-1)!.point])]);
  const seen = rows.slice(1).filter((r) => isPoint(r.point) && !known.has(r.point));
  return [...groupBy(seen, (r) => r.point)].map(([point, its]) => {
    const way = Math.min(
      ...its.map((r) => (misclosure === null ? r.setUps : Math.min(r.setUps, setUps - r.setUps + 1))),
    );
    return {
      point,
      elevation: roundTo(mean(its.map((r) => r.adjusted)), 4),
      accuracy: roundTo(notNegative('accuracy', allowedMisclosure(Math.max(1, way))), 4),
    };
  });
}
