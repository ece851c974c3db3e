import type { QuantityCode } from '../quantity/quantity';
import type { Unit } from '../quantity/unit';
import type { Seconds } from '../time';
import { limitFields, type Limits } from './limits';

/** Settings of one channel as the logger holds them. */
export interface ChannelSettings {
  readonly description: string;
  readonly enabled: boolean;
  readonly quantity: QuantityCode;
  /** Unit the logger stores and shows in. */
  readonly unit: Unit;
  /** s */
  readonly measurementInterval: Seconds;
  /** s */
  readonly storageInterval: Seconds;
  /** Where a difference is taken out: in the device, or as a correction over the record. Never both. */
  readonly adjustIn: 'device' | 'record';
  /** s between values it sends on: a value on a remote screen can be older than the sensor by it. Null for none. */
  readonly reportingInterval?: Seconds | null;
  /** Limits at which the logger says something, in `unit`; null or left out for none. */
  readonly farLow?: number | null;
  readonly low?: number | null;
  readonly high?: number | null;
  readonly farHigh?: number | null;
  /** From this value on a leaf counts as wet, in `unit`: read dry on site, plus its margin. Null or left out for none. */
  readonly wetAbove?: number | null;
}

/** The limits of settings as they stand. */
export const limitsOf = (s: Partial<Limits>): Limits => ({
  farLow: s.farLow ?? null,
  low: s.low ?? null,
  high: s.high ?? null,
  farHigh: s.farHigh ?? null,
});

export type SettingField = keyof ChannelSettings;

export const settingFields: readonly SettingField[] = [
  'description',
  'enabled',
  'quantity',
  'unit',
  'measurementInterval',
  'storageInterval',
  'adjustIn',
  'reportingInterval',
  ...limitFields,
  'wetAbove',
];

/** What may differ between what was written and what a logger holds: a setting, or the input it was told. */
export type DifferingField = SettingField | 'input';

export interface SettingDifference {
  readonly field: DifferingField;
  readonly wanted: string;
  readonly found: string;
}

/**
 * Fields in which two revisions, or what was written and what was read back, differ.
 *
 * @example settingDifferences({ description: 'a', enabled: true, quantity: 'rain', unit: 'mm', measurementInterval: 60, storageInterval: 600, adjustIn: 'record' }, { description: 'b', enabled: true, quantity: 'rain', unit: 'mm', measurementInterval: 60, storageInterval: 600, adjustIn: 'record' }) // [{ field: 'description', wanted: 'a', found: 'b' }]
 */
export function settingDifferences(
  wanted: ChannelSettings,
  found: Partial<Record<SettingField, unknown>>,
): SettingDifference[] {
  return settingFields
    .filter((field) => (wanted[field] ?? null) !== (found[field] ?? null))
    .map((field) => ({ field, wanted: String(wanted[field] ?? '–'), found: String(found[field] ?? '–') }));
}
