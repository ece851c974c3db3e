'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { BookChoices, BookFilter } from '@/contract/fieldBookPage';
import type { NoteStation } from './NoteForm';

/** What the lines are narrowed to; all of it stands in the address. */
export function BookFilters({
  stations,
  choices,
  filter,
  onChange,
}: {
  stations: readonly NoteStation[];
  /** Null where the server was not asked. */
  choices: BookChoices | null;
  filter: BookFilter;
  onChange: (change: BookFilter) => void;
}) {
  const [text, setText] = useState(filter.text ?? '');
  const select = (
    label: string,
    value: string | undefined,
    all: string,
    options: readonly { readonly id: string; readonly name: string }[],
    change: (id: string) => BookFilter,
  ) => (
    <TextField
      select
      label={label}
      // One that is not among them may be in an address that somebody sent.
      value={options.some((o) => o.id === value) ? value : ''}
      sx={{ minWidth: 130, flexGrow: { xs: 1, md: 0 } }}
      onChange={(e) => onChange(change(e.target.value))}
    >
      <MenuItem value="">{all}</MenuItem>
      {options.map((o) => (
        <MenuItem key={o.id} value={o.id}>
          {o.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box
      role="search"
      aria-label="Narrow the field book"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2 }}
    >
      {select(
        'Station',
        filter.station,
        'All stations',
        stations.map((s) => ({ id: s.id, name: `${s.code} ${s.name}` })),
        (station) => ({ station, channel: '' }),
      )}
      {choices && (
        <>
          {choices.channels.length > 0 &&
            select('Channel', filter.channel, 'All channels', choices.channels, (channel) => ({ channel }))}
          {select(
            'Person',
            filter.person,
            'Everybody',
            choices.people.map((p) => ({ id: p.id, name: p.initials })),
            (person) => ({ person }),
          )}
          {select(
            'Kind',
            filter.kind,
            'All kinds',
            choices.kinds.map((k) => ({ id: k, name: k })),
            (kind) => ({ kind }),
          )}
          <TextField
            label="Search"
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              onChange({ text: e.target.value });
            }}
            sx={{ flexGrow: 1, minWidth: 140 }}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
        </>
      )}
    </Box>
  );
}
