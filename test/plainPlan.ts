import type { Dialect } from '@/core/import/dialect';
import { usualMissing, type ColumnTarget, type ImportPlan } from '@/core/import/plan';

/** The plainest of layouts: commas, points, one header row, a time and then the columns given. */
export const plainDialect = (columns = 1): Dialect => ({
  delimiter: ',',
  newline: '\n',
  decimal: '.',
  width: columns + 1,
  headerRows: 1,
  nameRow: 0,
  unitRow: null,
  timeColumns: [0],
});

/** A plan over it, at UTC, year first; whatever a test is about is changed in `more` and `layout`. */
export const plainPlan = (
  columns: readonly ColumnTarget[],
  more: Partial<ImportPlan> = {},
  layout: Partial<Dialect> = {},
): ImportPlan => ({
  encoding: 'utf-8',
  dialect: { ...plainDialect(columns.length), ...layout },
  stampOrder: 'ymd',
  zone: { kind: 'fixed', minutes: 0 },
  missing: usualMissing,
  columns,
  ...more,
});

/** A column that goes to an air temperature channel made for it. */
export const newTemperature = (column: number, zoneName: string): ColumnTarget => ({
  column,
  unit: '°C',
  channel: { kind: 'new', quantity: 'airTemperature', zoneName },
});

/** A column that goes to a channel that is there. */
export const existingChannel = (
  column: number,
  id: string,
  quantity: 'airTemperature' | 'humidity' = 'airTemperature',
): ColumnTarget => ({
  column,
  unit: quantity === 'humidity' ? '%RH' : '°C',
  channel: { kind: 'existing', id, quantity },
});
