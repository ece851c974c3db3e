'use client';

import TextField from '@mui/material/TextField';
import { DateTime } from 'luxon';
import { timeText } from '../shared/time';

/** A span typed as two times of the site's zone; the values are texts as the fields hold them. */
export function SpanFields({
  from,
  until,
  zone,
  onFrom,
  onUntil,
}: {
  from: string;
  until: string;
  zone: string;
  onFrom: (v: string) => void;
  onUntil: (v: string) => void;
}) {
  const at = instantOf(from, zone);
  const offset = Number.isFinite(at) ? timeText(at, zone).slice(-6) : zone;
  const label = { inputLabel: { shrink: true }, htmlInput: { step: 1 } };
  return (
    <>
      <TextField
        type="datetime-local"
        label={`Span from (${offset})`}
        value={from}
        onChange={(e) => onFrom(e.target.value)}
        slotProps={label}
      />
      <TextField
        type="datetime-local"
        label={`Span until (${offset})`}
        value={until}
        onChange={(e) => onUntil(e.target.value)}
        slotProps={label}
      />
    </>
  );
}

export const localText = (ms: number, zone: string): string =>
  DateTime.fromMillis(ms).setZone(zone).toFormat("yyyy-MM-dd'T'HH:mm:ss");
export const instantOf = (text: string, zone: string): number => DateTime.fromISO(text, { zone }).toMillis();
export const isoOf = (text: string, zone: string): string => {
  const ms = instantOf(text, zone);
  return Number.isFinite(ms) ? new Date(ms).toISOString() : text;
};
