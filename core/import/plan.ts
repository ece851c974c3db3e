import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { convertible, isUnit, type Unit } from '../quantity/unit';
import { delimiters, type Dialect } from './dialect';
import type { FileEncoding } from './encoding';
import { isZoneName, type StampZone } from './localTime';
import type { StampOrder } from './stamp';

/** Where one column of a file goes. */
export interface ColumnTarget {
  readonly column: number;
  readonly unit: Unit;
  /** A channel that is there, or one to be made for it. */
  readonly channel:
    | { readonly kind: 'existing'; readonly id: string; readonly quantity: QuantityCode }
    | { readonly kind: 'new'; readonly quantity: QuantityCode; readonly zoneName: string };
}

/** Everything that turns a file's text into readings; kept with the import and offered again next time. */
export interface ImportPlan {
  readonly encoding: FileEncoding;
  readonly dialect: Dialect;
  readonly stampOrder: StampOrder;
  readonly zone: StampZone;
  /** Texts that stand for "no value", beside an empty cell; compared without case. */
  readonly missing: readonly string[];
  readonly columns: readonly ColumnTarget[];
  /** The record really begins before 1950; otherwise such stamps are taken for slips. */
  readonly oldStamps?: boolean;
  /** What a person typed, and no file: channels made for it are theirs. */
  readonly typed?: boolean;
}

export interface PlanRefusal {
  readonly field: string;
  readonly value: unknown;
  readonly detail: string;
  readonly remedy: string;
}

/** Marks that loggers and spreadsheets write for a missing value. Common practice, no source. */
export const usualMissing: readonly string[] = [
  'NaN',
  'NA',
  'N/A',
  'null',
  '-',
  '--',
  '---',
  '-9999',
  '-999',
  '-99.9',
];

/** What stands in the way of a plan before a single row is read; null for nothing. */
export function refusePlan(plan: ImportPlan): PlanRefusal | null {
  const { dialect, columns, zone } = plan;
  const refuse = (field: string, value: unknown, detail: string, remedy: string): PlanRefusal => ({
    field,
    value,
    detail,
    remedy,
  });
  if (!delimiters.includes(dialect.delimiter))
    return refuse(
      'delimiter',
      dialect.delimiter,
      `"${dialect.delimiter}" is no delimiter of a record file.`,
      'Choose comma, semicolon, tab or bar.',
    );
  if (dialect.delimiter === dialect.decimal)
    return refuse(
      'decimal',
      dialect.decimal,
      'Delimiter and decimal mark are the same.',
      'Choose the decimal point, or another delimiter.',
    );
  if (dialect.timeColumns.length < 1 || dialect.timeColumns.length > 2)
    return refuse(
      'timeColumns',
      dialect.timeColumns,
      'No column of times is chosen.',
      'Choose the column of the time, or those of date and time.',
    );
  if (zone.kind === 'zone' && !isZoneName(zone.name))
    return refuse(
      'zone',
      zone.name,
      `"${zone.name}" is no time zone.`,
      'Use a name of the IANA time zone database, or a fixed offset.',
    );
  if (zone.kind === 'fixed' && !(Number.isInteger(zone.minutes) && Math.abs(zone.minutes) <= 840))
    return refuse(
      'zone',
      zone.minutes,
      `An offset of ${zone.minutes} min from UTC cannot be.`,
      'Use whole minutes between −14 h and +14 h.',
    );
  const unfit = plan.missing.find((m) => m.trim() === '' || m.length > 20);
  if (unfit !== undefined)
    return refuse(
      'missing',
      unfit,
      'A mark of a missing value is empty or longer than 20 characters.',
      'Write the marks set apart by blanks; an empty cell is always missing.',
    );
  if (columns.length === 0)
    return refuse(
      'columns',
      null,
      'No column is given a channel.',
      'Choose a channel for at least one column.',
    );
  const beyond = [...dialect.timeColumns, ...columns.map((c) => c.column)].find(
    (c) => !(c >= 0 && c < dialect.width),
  );
  if (beyond !== undefined)
    return refuse(
      'columns',
      beyond + 1,
      `There is no column ${beyond + 1}: rows have ${dialect.width} cells.`,
      'Choose a column that is there.',
    );
  const usedColumns = new Set<number>(dialect.timeColumns);
  const usedChannels = new Map<string, number>();
  for (const { column, unit, channel } of columns) {
    if (usedColumns.has(column))
      return refuse(
        'columns',
        column + 1,
        `Column ${column + 1} is used twice.`,
        'Give every column one purpose.',
      );
    usedColumns.add(column);
    const q = quantityOf(channel.quantity);
    const key =
      channel.kind === 'existing'
        ? channel.id
        : `${channel.quantity} ${channel.zoneName.trim().toLowerCase()}`;
    const other = usedChannels.get(key);
    if (other !== undefined)
      return refuse(
        'columns',
        column + 1,
        `Columns ${other + 1} and ${column + 1} go to one channel.`,
        'Give each column a channel of its own.',
      );
    usedChannels.set(key, column);
    if (!isUnit(unit) || !convertible(unit, q.unit))
      return refuse(
        'unit',
        unit,
        `${q.name} (column ${column + 1}) is not measured in ${unit}.`,
        `Use ${q.unit} or a unit that converts to it.`,
      );
    if (channel.kind === 'new' && channel.zoneName.trim() === '')
      return refuse(
        'zoneName',
        '',
        `The new channel for column ${column + 1} has no zone.`,
        'Say where the value was measured.',
      );
  }
  return null;
}
