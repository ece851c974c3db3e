'use client';

import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { DateTimePicker } from '@mui/x-date-pickers/DateTimePicker';
import { DateTime } from 'luxon';
import { timeText } from './time';

/** Dates and times as the product writes them, whatever the browser's language: 2026-03-02 14:05, with the zone said. */

/** An instant of a zone; NaN while what is typed is none. */
export function InstantField({
  label,
  value,
  zone,
  seconds = false,
  error,
  helperText,
  onChange,
}: {
  label: string;
  /** ms since epoch */
  value: number;
  zone: string;
  seconds?: boolean;
  error?: boolean;
  helperText?: string;
  onChange: (ms: number) => void;
}) {
  const offset = Number.isFinite(value) ? timeText(value, zone).slice(-6) : zone;
  return (
    <DateTimePicker
      label={`${label} (${offset})`}
      value={Number.isFinite(value) ? DateTime.fromMillis(value).setZone(zone) : null}
      timezone={zone}
      ampm={false}
      format={seconds ? 'yyyy-MM-dd HH:mm:ss' : 'yyyy-MM-dd HH:mm'}
      views={['year', 'month', 'day', 'hours', 'minutes', ...(seconds ? (['seconds'] as const) : [])]}
      onChange={(at) => onChange(at?.isValid ? at.toMillis() : Number.NaN)}
      slotProps={{
        textField: { size: 'small', error, helperText, sx: { width: seconds ? 250 : 225 } },
      }}
    />
  );
}

/** A day, as "2026-03-02"; empty while what is typed is none. */
export function DayField({
  label,
  value,
  error,
  helperText,
  large = false,
  onChange,
}: {
  label: string;
  value: string;
  error?: boolean;
  helperText?: string;
  /** For gloves. */
  large?: boolean;
  onChange: (day: string) => void;
}) {
  const day = DateTime.fromISO(value, { zone: 'utc' });
  return (
    <DatePicker
      label={label}
      value={day.isValid ? day : null}
      timezone="UTC"
      format="yyyy-MM-dd"
      onChange={(at) => onChange(at?.isValid ? at.toFormat('yyyy-MM-dd') : '')}
      slotProps={{ textField: { size: large ? 'medium' : 'small', error, helperText } }}
    />
  );
}
