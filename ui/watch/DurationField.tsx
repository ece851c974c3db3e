'use client';

import { NumberField } from '../shared/NumberField';

const units = { min: 60, h: 3600 } as const;

/** A span of time in the unit its label says, kept in seconds. */
export function DurationField({
  label,
  unit,
  seconds,
  onChange,
  empty = false,
  help,
}: {
  label: string;
  unit: keyof typeof units;
  seconds: number | null;
  onChange: (seconds: number | null) => void;
  empty?: boolean;
  help?: string;
}) {
  const by = units[unit];
  return (
    <NumberField
      label={`${label}, ${unit}`}
      value={seconds === null ? null : Math.round((1000 * seconds) / by) / 1000}
      onChange={(n) => onChange(n === null ? null : n * by)}
      low={0}
      empty={empty}
      {...(help !== undefined && { help })}
    />
  );
}
