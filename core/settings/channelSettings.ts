import type { QuantityCode } from '../quantity/quantity';
import type { Unit } from '../quantity/unit';
import type { Seconds } from '../time';

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
}

export type SettingField = keyof ChannelSettings;

export const settingFields: readonly SettingField[] = [
  'description',
  'enabled',
  'quantity',
  'unit',
  'measurementInterval',
  'storageInterval',
  'adjustIn',
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
    .filter((field) => wanted[field] !== found[field])
    .map((field) => ({ field, wanted: String(wanted[field]), found: String(found[field] ?? '–') }));
}
