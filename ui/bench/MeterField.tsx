'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { MeterView } from '@/contract/bench';

/** Which meter of the kit. */
export const MeterField = ({
  meters,
  meterId,
  onMeter,
}: {
  meters: readonly MeterView[];
  meterId: string;
  onMeter: (id: string) => void;
}) => (
  <TextField
    select
    size="medium"
    label="Meter"
    value={meterId}
    onChange={(e) => onMeter(e.target.value)}
    sx={{ minWidth: 220 }}
  >
    {meters.map((m) => (
      <MenuItem key={m.id} value={m.id} sx={{ minHeight: 48 }}>
        {m.name} {m.serial}
      </MenuItem>
    ))}
  </TextField>
);
