'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { ImportStartView } from '@/contract/recordViews';
import type { FileEncoding } from '@/core/import/encoding';
import { stampOrders, stampOrderText, type StampOrder } from '@/core/import/stamp';
import { draftWith, relayout, type Draft } from './draft';

const encodings: readonly [FileEncoding, string][] = [
  ['utf-8', 'UTF-8'],
  ['utf-16le', 'UTF-16, little end first'],
  ['utf-16be', 'UTF-16, big end first'],
  ['windows-1252', 'Western, single bytes'],
];
const delimiterName: Readonly<Record<string, string>> = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'bar',
};

/** What the file is taken for; everything can be changed. */
export function LayoutForm({
  draft,
  start,
  onChange,
}: {
  draft: Draft;
  start: ImportStartView;
  onChange: (draft: Draft) => void;
}) {
  const { dialect, zone, stamp } = draft;
  const layout = (change: Parameters<typeof relayout>[1]) => onChange(relayout(draft, change));
  const columnName = (i: number) => `${i + 1} · ${draft.columns[i]?.name ?? ''}`;
  const orders = stamp.kind === 'ambiguous' ? stamp.orders : stampOrders;
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 1 }}>
        How the file is laid out
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}>
        <Choice
          label="Encoding"
          value={draft.encoding}
          width={170}
          onChange={(v) => onChange(draftWith(draft.file, draft.head, v as FileEncoding, start))}
          options={encodings}
        />
        <Choice
          label="Delimiter"
          value={dialect.delimiter}
          width={130}
          onChange={(delimiter) => layout({ delimiter, timeColumns: [0] })}
          options={Object.entries(delimiterName)}
        />
        <Choice
          label="Decimal mark"
          value={dialect.decimal}
          width={130}
          onChange={(v) => onChange({ ...draft, dialect: { ...dialect, decimal: v as '.' | ',' } })}
          options={[
            ['.', 'point'],
            [',', 'comma'],
          ]}
        />
        <TextField
          label="Header rows"
          type="number"
          value={dialect.headerRows}
          sx={{ width: 110 }}
          onChange={(e) => {
            const headerRows = Math.min(50, Math.max(0, Math.round(Number(e.target.value) || 0)));
            const nameRow =
              headerRows === 0 ? null : Math.min(dialect.nameRow ?? headerRows - 1, headerRows - 1);
            layout({
              headerRows,
              nameRow,
              unitRow: dialect.unitRow !== null && dialect.unitRow < headerRows ? dialect.unitRow : null,
            });
          }}
          slotProps={{ htmlInput: { min: 0, max: 50 } }}
        />
        <RowChoice
          label="Names in row"
          value={dialect.nameRow}
          rows={dialect.headerRows}
          onChange={(nameRow) => layout({ nameRow })}
        />
        <RowChoice
          label="Units in row"
          value={dialect.unitRow}
          rows={dialect.headerRows}
          onChange={(unitRow) => layout({ unitRow })}
        />
        <Choice
          label="Time in column"
          value={String(dialect.timeColumns[0] ?? 0)}
          width={170}
          onChange={(v) => layout({ timeColumns: [Number(v)] })}
          options={draft.columns.map((_, i) => [String(i), columnName(i)])}
        />
        <Choice
          label="and time of day in"
          value={String(dialect.timeColumns[1] ?? '')}
          width={170}
          onChange={(v) =>
            layout({
              timeColumns: v === '' ? [dialect.timeColumns[0]!] : [dialect.timeColumns[0]!, Number(v)],
            })
          }
          options={[
            ['', 'the same column'],
            ...draft.columns.map((_, i): [string, string] => [String(i), columnName(i)]),
          ]}
        />
        <Choice
          label="Times are written"
          value={draft.stampOrder ?? ''}
          width={250}
          error={!draft.stampOrder}
          help={
            stamp.kind === 'ambiguous'
              ? `“${stamp.example}” could be either: say which`
              : stamp.kind === 'none'
                ? `“${stamp.example.slice(0, 24)}” is no time: choose another column`
                : undefined
          }
          onChange={(v) => onChange({ ...draft, stampOrder: v as StampOrder, remembered: false })}
          options={orders.map((o) => [o, stampOrderText[o]])}
        />
        <Choice
          label="Times belong to"
          value={zone.kind}
          width={230}
          onChange={(kind) =>
            onChange({
              ...draft,
              zone:
                kind === 'fixed'
                  ? { kind, minutes: start.loggerOffsetMinutes }
                  : kind === 'zone'
                    ? { kind, name: start.zone }
                    : { kind: 'stamp' },
            })
          }
          options={[
            ['fixed', 'a fixed offset from UTC'],
            ['zone', 'a time zone with its summer time'],
            ['stamp', 'the offset in each stamp'],
          ]}
        />
        {zone.kind === 'fixed' && (
          <TextField
            label="Offset, min"
            type="number"
            value={zone.minutes}
            sx={{ width: 120 }}
            helperText={offsetText(zone.minutes)}
            onChange={(e) =>
              onChange({ ...draft, zone: { kind: 'fixed', minutes: Math.round(Number(e.target.value)) } })
            }
          />
        )}
        {zone.kind === 'zone' && (
          <TextField
            label="Time zone"
            value={zone.name}
            sx={{ width: 220 }}
            helperText="as in the IANA database"
            onChange={(e) => onChange({ ...draft, zone: { kind: 'zone', name: e.target.value } })}
          />
        )}
        <TextField
          label="Marks of a missing value"
          value={draft.missing}
          sx={{ flexGrow: 1, minWidth: 260 }}
          helperText="set apart by blanks; an empty cell is always missing"
          onChange={(e) => onChange({ ...draft, missing: e.target.value })}
        />
      </Box>
    </Box>
  );
}

const offsetText = (minutes: number): string => {
  const size = Math.abs(minutes);
  const pad = (n: number) => String(n).padStart(2, '0');
  return `UTC ${minutes < 0 ? '−' : '+'}${pad(Math.floor(size / 60))}:${pad(size % 60)}`;
};

function Choice(p: {
  label: string;
  value: string;
  width: number;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
  error?: boolean;
  help?: ReactNode;
}) {
  return (
    <TextField
      select
      label={p.label}
      value={p.value}
      error={p.error}
      helperText={p.help}
      onChange={(e) => p.onChange(e.target.value)}
      sx={{ width: p.width }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      {p.value === '' && p.options.every(([v]) => v !== '') && (
        <MenuItem value="" disabled>
          choose
        </MenuItem>
      )}
      {p.options.map(([value, label]) => (
        <MenuItem key={value} value={value}>
          {label}
        </MenuItem>
      ))}
    </TextField>
  );
}

function RowChoice(p: {
  label: string;
  value: number | null;
  rows: number;
  onChange: (row: number | null) => void;
}) {
  return (
    <Choice
      label={p.label}
      value={p.value === null ? '' : String(p.value)}
      width={120}
      onChange={(v) => p.onChange(v === '' ? null : Number(v))}
      options={[
        ['', 'none'],
        ...Array.from({ length: p.rows }, (_, i): [string, string] => [String(i), String(i + 1)]),
      ]}
    />
  );
}
